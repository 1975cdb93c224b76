import { SharedLine, type Word } from './shared-line.ts';

/** One line to the server for all pages of a browser: it keeps only six to one server, and pages need some to ask. */
const line = new SharedLine(() => new EventSource('/api/events'));

/** A page that opens says nothing, one that goes says so; of one that is killed nobody hears, and nobody minds. */
self.addEventListener('connect', (event) => {
  const [port] = (event as MessageEvent).ports;
  if (!port) return;
  const follower = (word: Word): void => port.postMessage(word);
  port.onmessage = () => {
    line.leave(follower);
    port.close();
  };
  line.follow(follower);
});
