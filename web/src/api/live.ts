import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { theOutbox } from '../outbox/browser.ts';
import { follow } from './follow.ts';
import { beginListening } from './listening.ts';
import { changedOn, everything, fetchAgain } from './news.ts';
import type { Word } from './shared-line.ts';

function hear(word: Word, queries: QueryClient): void {
  if (word.is === 'news') {
    void fetchAgain(queries, word.batches.length > 0 ? changedOn(word.batches) : everything);
    return;
  }
  if (word.is === 'open') {
    theOutbox().then(
      (outbox) => outbox.wake(),
      () => undefined,
    );
  }
  // What was missed before, or while the line was down, is not known.
  const missed = beginListening();
  if (word.is === 'open' && missed) void fetchAgain(queries, everything);
}

/**
 * Follows the server's news while the page can be seen: what changed is fetched again. A hidden page has nobody who looks; seen
 * again, it fetches all. Returns whether the line is open.
 */
export function useLiveNews(): boolean {
  const queries = useQueryClient();
  const [open, setOpen] = useState(true);
  useEffect(() => {
    let leave: (() => void) | undefined;
    const followWhileSeen = (): void => {
      leave?.();
      leave = undefined;
      if (document.visibilityState !== 'visible') {
        beginListening();
        return;
      }
      leave = follow((word) => {
        if (word.is !== 'news') setOpen(word.is === 'open');
        hear(word, queries);
      });
    };
    followWhileSeen();
    document.addEventListener('visibilitychange', followWhileSeen);
    return () => {
      document.removeEventListener('visibilitychange', followWhileSeen);
      leave?.();
    };
  }, [queries]);
  return open;
}
