import { rangeOf } from '@ample-crane/core';
import type { RackLine } from '../api/queries.ts';
import { sayTime } from '../shared/time.ts';

export const IS = { waiting: 'waiting', inHand: 'in hand', onHold: 'on hold' } as const;

/** What keeps its hindmost pieces: 'cure, until Thu 07:20', 'its turn at Colour', 'the work at Body mill'; and whether others may go on. */
export function waitsFor(line: RackLine, zone: string, nowMs: number): string {
  const also = line.over.length > 0 && line.hold?.over !== true ? '; others may leave their hold' : '';
  return hindmostWaitFor(line, zone, nowMs) + also;
}

function hindmostWaitFor({ standing, hold, operationName }: RackLine, zone: string, nowMs: number): string {
  if (standing === 'inHand') return `the work at ${operationName}`;
  if (standing === 'waiting') return `its turn at ${operationName}`;
  if (!hold) return operationName;
  if (hold.over) return `${hold.word}, over: it may leave`;
  if (hold.endMs === null) return `${hold.word}, nobody can say until when`;
  return `${hold.word}, until ${sayTime(hold.endMs, zone, nowMs, rangeOf(hold))}`;
}
