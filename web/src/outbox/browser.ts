import { v4 } from 'uuid';
import { factoryOffsetMs } from './clock.ts';
import { Outbox, type News } from './outbox.ts';
import { send } from './send.ts';
import { FilingStore, openStore } from './store.ts';

const CHANNEL = 'ample-crane.outbox';
const LEASE_MS = 20_000;
const LEASE_ASKED_EVERY_MS = 1000;

/** Only one tab sends: by the browser's locks, or by a lease in the store where the page has none (over plain HTTP). */
function aloneBy(store: FilingStore): (work: () => Promise<void>) => Promise<void> {
  const { locks } = navigator as { locks?: LockManager };
  if (locks) return (work) => locks.request(CHANNEL, work);
  const holder = v4();
  return async (work) => {
    while (!(await store.lease(holder, Date.now(), LEASE_MS)))
      await new Promise((resolve) => setTimeout(resolve, LEASE_ASKED_EVERY_MS));
    const renewing = setInterval(() => void store.lease(holder, Date.now(), LEASE_MS), LEASE_MS / 4);
    try {
      await work();
    } finally {
      clearInterval(renewing);
      await store.endLease(holder);
    }
  };
}

async function open(): Promise<Outbox> {
  const store = new FilingStore(await openStore());
  // A browser without channels has no other tab to hear of.
  const channel = 'BroadcastChannel' in globalThis ? new BroadcastChannel(CHANNEL) : null;
  const outbox = new Outbox({
    store,
    send: (kept) =>
      send(kept, {
        // Looked up at each call, so that it can be replaced.
        fetch: (...asked) => globalThis.fetch(...asked),
        offsetMs: factoryOffsetMs(),
      }),
    alone: aloneBy(store),
    tell: (news) => channel?.postMessage(news),
    later: (work, ms) => void setTimeout(work, ms),
  });
  if (channel) channel.onmessage = ({ data }: MessageEvent<News>) => void outbox.hear(data);
  globalThis.addEventListener('online', () => outbox.wake());
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') outbox.wake();
  });
  // What was kept before this page was opened.
  outbox.wake();
  return outbox;
}

let opened: Promise<Outbox> | undefined;

/** The outbox of this browser. Rejects when the browser keeps nothing. */
export const theOutbox = (): Promise<Outbox> => (opened ??= open());
