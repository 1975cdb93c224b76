import { useCallback, useEffect, useRef } from 'react';
import { useChanges } from './queries.ts';
import type { Change } from './words.ts';

/** What whoever fills in a setting has seen of its changes goes along when it is filed: nobody overwrites what they have not seen. */
export interface SeenChange {
  /** Number of the newest change that was known as the filling in began; undefined: not known yet. */
  lastChange: () => number | undefined;
  /** What there is now is looked at: after it was filed, or refused for what another did. */
  lookAgain: () => Promise<void>;
}

const newestOf = (changes: readonly Change[]): number => Math.max(0, ...changes.map(({ id }) => Number(id)));

export function useSeenChange(): SeenChange {
  const { data: changes, refetch } = useChanges();
  const seen = useRef<number | undefined>(undefined);
  useEffect(() => {
    if (changes) seen.current ??= newestOf(changes);
  }, [changes]);
  const lastChange = useCallback(() => seen.current, []);
  const lookAgain = useCallback(async () => {
    const { data } = await refetch();
    if (data) seen.current = newestOf(data);
  }, [refetch]);
  return { lastChange, lookAgain };
}
