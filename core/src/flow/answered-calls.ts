import type { Call } from './call.ts';

/** What somebody said to a call. */
export interface CallAnswer {
  /** The call's id. */
  call: string;
  atMs: number;
  /** Who said it. */
  by: string;
  /** Whose it is now; null: nobody's. */
  to: string | null;
  /** It is put off until then; null: it is not. */
  untilMs: number | null;
  reason: string;
  /** What it cost then, instrument-days for each day. */
  cost: number;
}

export interface AnsweredCall extends Call {
  /** What was last said to it and still holds; null: nothing. */
  answer: CallAnswer | null;
}

/** A call that costs so much more than when it was put off is another matter: it comes back before its time. */
export const COMES_BACK_AT = 2;

/**
 * Calls with what was said to them, and those that are put off apart. Put off, a call comes back when its time is over or when it
 * costs COMES_BACK_AT times what it did; given to somebody, it stays theirs. `answers` are the newest of each call. Pure.
 */
export function answered(
  calls: readonly Call[],
  answers: readonly CallAnswer[],
  nowMs: number,
): { open: AnsweredCall[]; putOff: AnsweredCall[] } {
  const said = new Map(answers.map((answer) => [answer.call, answer]));
  const open: AnsweredCall[] = [];
  const putOff: AnsweredCall[] = [];
  for (const call of calls) {
    const answer = said.get(call.id);
    const waits = answer && answer.untilMs !== null && answer.untilMs > nowMs;
    if (waits && !costsAnew(call, answer)) putOff.push({ ...call, answer });
    else open.push({ ...call, answer: answer && answer.to !== null ? { ...answer, untilMs: null } : null });
  }
  return { open, putOff };
}

/** What costs nothing does not come back for costing twice nothing. */
const costsAnew = ({ cost }: Call, answer: CallAnswer): boolean =>
  cost > answer.cost && cost >= COMES_BACK_AT * answer.cost;
