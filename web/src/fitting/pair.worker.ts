import { pair, type PairQuestion } from './pair.ts';

/** Pairs off the page's own thread: two racks of five hundred are a matter of seconds. */
self.onmessage = ({ data }: MessageEvent<PairQuestion>): void => {
  self.postMessage(pair(data));
};
