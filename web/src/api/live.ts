import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { theOutbox } from '../outbox/browser.ts';
import { EVERYTHING, fetchAgain } from './news.ts';

/** Lots carry this letter. */
const LOT_PREFIX = 'W-';
/** What any filing may change, and what one on a lot may. */
const FLOOR = ['board', 'flow', 'finish', 'mill', 'mills', 'machines', 'presses', 'meetings', 'pairing'].map(
  (key) => [key],
);
const LOTS = [['lots'], ['lot'], ['blanks'], ['choice']];

function listen(queries: QueryClient, setOpen: (open: boolean) => void): EventSource {
  const source = new EventSource('/api/events');
  source.onopen = () => {
    setOpen(true);
    theOutbox().then(
      (outbox) => outbox.wake(),
      () => undefined,
    );
    // What was missed while the line was down is not known.
    void fetchAgain(queries, EVERYTHING);
  };
  source.onerror = () => setOpen(false);
  source.addEventListener('news', (event: MessageEvent<string>) => {
    const { batches } = JSON.parse(event.data) as { batches: string[] };
    const lots = batches.some((code) => code.startsWith(LOT_PREFIX)) ? LOTS : [];
    void fetchAgain(queries, ...FLOOR, ...lots, ...batches.map((code) => ['batch', code]));
    if (batches.length === 0) void fetchAgain(queries, EVERYTHING);
  });
  return source;
}

/**
 * Follows the server's news while the page can be seen: what changed is fetched again. A hidden page lets its line go,
 * for a browser keeps only six to one server and seven open tabs would starve each other; seen again, it fetches all.
 * Returns whether the line is open.
 */
export function useLiveNews(): boolean {
  const queries = useQueryClient();
  const [open, setOpen] = useState(true);
  useEffect(() => {
    let source: EventSource | undefined;
    const follow = (): void => {
      source?.close();
      source = document.visibilityState === 'visible' ? listen(queries, setOpen) : undefined;
    };
    follow();
    document.addEventListener('visibilitychange', follow);
    return () => {
      document.removeEventListener('visibilitychange', follow);
      source?.close();
    };
  }, [queries]);
  return open;
}
