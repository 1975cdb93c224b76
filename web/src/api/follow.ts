import LineWorker from './line.worker.ts?sharedworker';
import { SharedLine, type Follower } from './shared-line.ts';

/** Follows the server's news, with all other pages of this browser by one line. Returns how to leave. */
export function follow(follower: Follower): () => void {
  if (typeof SharedWorker === 'undefined') return followAlone(follower);
  const worker = new LineWorker();
  const { port } = worker;
  // A worker that cannot be loaded leaves nobody without news.
  let alone: (() => void) | undefined;
  worker.onerror = () => {
    alone ??= followAlone(follower);
  };
  port.onmessage = ({ data }: MessageEvent<Parameters<Follower>[0]>) => follower(data);
  // A page that is closed, or kept for the way back, follows no more.
  const leave = (): void => port.postMessage('leave');
  window.addEventListener('pagehide', leave, { once: true });
  return () => {
    window.removeEventListener('pagehide', leave);
    worker.onerror = null;
    alone?.();
    leave();
  };
}

function followAlone(follower: Follower): () => void {
  const own = new SharedLine(() => new EventSource('/api/events'));
  own.follow(follower);
  return () => own.leave(follower);
}
