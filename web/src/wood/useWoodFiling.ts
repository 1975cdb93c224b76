import { useCallback } from 'react';
import { answered, server, type Schemas } from '../api/client.ts';
import { filedWords, usePerform, type Performing } from '../shared/usePerform.ts';

export type LotEntryDraft = Schemas['FileLotDto']['entry'];

export interface WoodFiling extends Performing {
  fileLot: (lot: string, entry: LotEntryDraft) => Promise<Schemas['FiledDto'] | null>;
}

/** Filing from the pages of the wood room, on lots besides all else. */
export function useWoodFiling(): WoodFiling {
  const performing = usePerform();
  const { perform } = performing;
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
        filedWords,
      ),
    [perform],
  );
  return { ...performing, fileLot };
}
