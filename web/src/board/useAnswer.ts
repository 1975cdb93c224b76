import { answered, server } from '../api/client.ts';
import type { Board } from '../api/queries.ts';
import { usePerform } from '../shared/usePerform.ts';

type Call = Board['calls'][number];

/** What is said to a call: a person, a moment as ISO 8601, both or neither. */
export interface Saying {
  to?: string;
  until?: string;
  reason: string;
}

/** Says something to a call; what came of it stands in the log bar. */
export function useAnswer() {
  const { perform, busy, refused, refusal } = usePerform();
  const say = async (call: Call, saying: Saying, words: string): Promise<boolean> =>
    (await perform(
      (by, key) =>
        answered(server.POST('/api/calls/answers', { body: { key, by, call: call.id, ...saying } })),
      () => `${call.title}: ${words}.`,
    )) !== null;
  return { say, busy, refused, refusal };
}
