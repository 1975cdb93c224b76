import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { theOutbox } from '../outbox/browser.ts';
import { beginListening } from './listening.ts';
import { changedOn, everything, fetchAgain } from './news.ts';

function listen(queries: QueryClient, setOpen: (open: boolean) => void): EventSource {
  const source = new EventSource('/api/events');
  source.onopen = () => {
    setOpen(true);
    theOutbox().then(
      (outbox) => outbox.wake(),
      () => undefined,
    );
    // What was missed before, or while the line was down, is not known.
    if (beginListening()) void fetchAgain(queries, everything);
  };
  source.onerror = () => {
    setOpen(false);
    beginListening();
  };
  source.addEventListener('news', (event: MessageEvent<string>) => {
    const { batches } = JSON.parse(event.data) as { batches: string[] };
    void fetchAgain(queries, batches.length > 0 ? changedOn(batches) : everything);
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
      const visible = document.visibilityState === 'visible';
      source = visible ? listen(queries, setOpen) : undefined;
      if (!visible) beginListening();
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
