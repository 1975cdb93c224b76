import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { newKey } from '../api/filing.ts';
import { ServerProblem } from '../api/client.ts';
import { EVERYTHING, fetchAgain } from '../api/news.ts';
import { usePerson } from './person.ts';
import { useFiling } from './useFiling.ts';

export interface Performing {
  busy: boolean;
  /** Why the last thing was not accepted. */
  refused: string | null;
  /** Does it, says so in the log bar, and fetches everything again. Resolves to what came of it, or null. */
  perform: <T>(
    work: (by: string, key: string) => Promise<T>,
    words?: (done: T) => string,
  ) => Promise<T | null>;
}

/** Doing things from a page: what is refused is said where it was asked, and nothing typed is lost. */
export function usePerform(): Performing {
  const { by } = usePerson();
  const { setNews } = useFiling();
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);

  const perform = useCallback(
    async <T>(
      work: (by: string, key: string) => Promise<T>,
      words?: (done: T) => string,
    ): Promise<T | null> => {
      setBusy(true);
      setRefused(null);
      try {
        const done = await work(by, newKey());
        if (words) setNews({ tone: 'good', text: words(done) });
        await fetchAgain(queries, EVERYTHING);
        return done;
      } catch (problem) {
        if (!(problem instanceof ServerProblem)) throw problem;
        setRefused(problem.message);
        return null;
      } finally {
        setBusy(false);
      }
    },
    [by, queries, setNews],
  );
  return { busy, refused, perform };
}

/** What every filing answers, said in the log bar. */
export const filedWords = ({ sentence }: { sentence: string }): string => `Filed. ${sentence}`;
