import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { newKey } from '../api/filing.ts';
import { answered, server, ServerProblem, type Schemas } from '../api/client.ts';
import { usePerson } from '../app/person.ts';
import { useFiling } from '../app/useFiling.ts';

export type LotEntryDraft = Schemas['LotEntryDto'];

export interface WoodFiling {
  busy: boolean;
  /** Why the last thing was not accepted. */
  refused: string | null;
  /** Does it, says so in the log bar, and fetches everything again. Resolves to what came of it, or null. */
  perform: <T>(
    work: (by: string, key: string) => Promise<T>,
    words?: (done: T) => string,
  ) => Promise<T | null>;
  fileLot: (lot: string, entry: LotEntryDraft) => Promise<Schemas['FiledDto'] | null>;
}

/** Filing from the pages of the wood room: what is refused is said where it was asked, and nothing typed is lost. */
export function useWoodFiling(): WoodFiling {
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
        await queries.invalidateQueries();
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

  const fileLot = useCallback(
    (lot: string, entry: LotEntryDraft) =>
      perform(
        (person, key) =>
          answered(
            server.POST('/api/lots/{code}/entries', {
              params: { path: { code: lot } },
              body: { key, by: person, entry },
            }),
          ),
        (filed) => `Filed. ${filed.sentence}`,
      ),
    [perform],
  );
  return { busy, refused, perform, fileLot };
}
