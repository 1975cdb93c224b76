import { fileEntries, type EntryDraft } from '../api/filing.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';

/** Filing on one rack from its page: what is refused is said there, and nothing typed is lost. */
export function useFile(batch: string) {
  const { perform, ...doing } = usePerform();
  const file = async (...entries: EntryDraft[]): Promise<boolean> =>
    (await perform((by, key) => fileEntries(batch, by, key, entries), filedWords)) !== null;
  return { file, ...doing };
}
