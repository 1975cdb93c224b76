import { foresee, type Question } from './foresee.ts';

/** Forecasts off the page's own thread, so that a slider never waits. */
self.onmessage = ({ data }: MessageEvent<{ number: number; question: Question }>): void => {
  self.postMessage({ number: data.number, foreseen: foresee(data.question) });
};
