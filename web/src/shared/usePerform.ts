import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useRef, useState } from 'react';
import { newKey } from '../api/filing.ts';
import { ServerProblem } from '../api/client.ts';
import { everything, fetchAgain } from '../api/news.ts';
import { theOutbox } from '../outbox/browser.ts';
import { usePerson } from './person.ts';
import { useFiling } from './useFiling.ts';

export interface Performing {
  busy: boolean;
  /** Why the last thing was not accepted. */
  refused: string | null;
  /**
   * Does it, says so in the log bar, and fetches everything again, which a slow line may take longer for than the page waits.
   * Resolves to what came of it, or null. While the server is
   * away it waits, kept in this browser, and stays busy: pressing again files nothing more.
   */
  perform: <T>(
    work: (by: string, key: string) => Promise<T>,
    words?: (done: T) => string,
  ) => Promise<T | null>;
  /** What the server said to the last thing it refused. */
  refusal: ServerProblem | null;
}

/** What was done is told at once; the page waits so long for what it shows to follow, so that nothing old is pressed. */
const MOST_AWAITED_MS = 2000;
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Doing things from a page: what is refused is said where it was asked, and nothing typed is lost. */
export function usePerform(): Performing {
  const { by } = usePerson();
  const { setNews } = useFiling();
  const queries = useQueryClient();
  const [busy, setBusy] = useState(false);
  const [refusal, setRefusal] = useState<ServerProblem | null>(null);
  /** Of what was sent and not answered: asked again, it is the same filing. */
  const key = useRef<string | null>(null);

  const perform = useCallback(
    async <T>(
      work: (by: string, key: string) => Promise<T>,
      words?: (done: T) => string,
    ): Promise<T | null> => {
      setBusy(true);
      setRefusal(null);
      key.current ??= newKey();
      try {
        const outbox = await theOutbox().catch(() => null);
        outbox?.onKept(key.current, () =>
          setNews({ tone: 'unfinished', text: 'kept: it is filed when the server is back' }),
        );
        const done = await work(by, key.current);
        key.current = null;
        if (words) setNews({ tone: 'good', text: words(done) });
        await Promise.race([fetchAgain(queries, everything), pause(MOST_AWAITED_MS)]);
        return done;
      } catch (problem) {
        if (!(problem instanceof ServerProblem)) throw problem;
        if (!problem.unknown) key.current = null;
        setRefusal(problem);
        return null;
      } finally {
        setBusy(false);
      }
    },
    [by, queries, setNews],
  );
  return { busy, refused: refusal?.message ?? null, refusal, perform };
}

/** What every filing answers, said in the log bar. */
export const filedWords = ({ sentence }: { sentence: string }): string => `Filed. ${sentence}`;
