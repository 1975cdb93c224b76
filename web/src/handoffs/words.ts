import { count } from '@ample-crane/core';
import type { Schemas } from '../api/client.ts';
import type { VerdictTone } from '../devices/Verdict.tsx';

type Counted = Schemas['HandOffsDto']['counted'];

/** Which operation most of what was found comes of, in one sentence. */
export function countedSentence(counted: Counted): { tone: VerdictTone; sentence: string } {
  const all = counted.reduce((sum, { sentBack, scrapped }) => sum + sentBack + scrapped, 0);
  if (all === 0) return { tone: 'good', sentence: 'Nothing was sent back or lost.' };
  const byCause = new Map<string, number>();
  for (const { causedName, sentBack, scrapped } of counted)
    if (causedName !== null) byCause.set(causedName, (byCause.get(causedName) ?? 0) + sentBack + scrapped);
  const [worst] = [...byCause].toSorted((a, b) => b[1] - a[1]);
  const unsaid = all - [...byCause.values()].reduce((sum, n) => sum + n, 0);
  const told = worst ? `; ${worst[1]} of them caused at ${worst[0]}` : '';
  const open = unsaid > 0 ? `; of ${unsaid} nobody said where they came about` : '';
  return { tone: 'wait', sentence: `${count(all, 'piece')} sent back or lost${told}${open}.` };
}
