import { count } from '@ample-crane/core';
import type { VerdictTone } from '../devices/Verdict.tsx';
import type { Work, WorkedOperation } from './queries.ts';

/** Of fewer racks a time is chance. */
const LEAST_SAMPLES = 5;
/** Routes that are off by less are right. */
const RIGHT_WITHIN_PCT = 10;
/** Longer than this, minutes are told whole. */
const WHOLE_FROM_MINUTES = 10;

type Timed = WorkedOperation & { time: NonNullable<WorkedOperation['time']> };

/** The log's minutes as a route says them: whole, or halves of what is short. */
export const asRouteMinutes = (minutes: number): number =>
  minutes >= WHOLE_FROM_MINUTES ? Math.round(minutes) : Math.max(0.5, Math.round(2 * minutes) / 2);

/** How much longer than its route an operation takes, %; null: nothing was measured. */
export const offPct = ({ time }: WorkedOperation): number | null =>
  time ? (100 * (time.median - time.routeMinutes)) / time.routeMinutes : null;

/** Whether enough was measured of what one person does: coats that flash in hand are not. */
const isMeasured = (one: WorkedOperation): one is Timed =>
  one.time !== null && !one.time.flashes && one.time.samples >= LEAST_SAMPLES;

/** Whether enough was measured, and the route is clearly off: by more than a tenth, and outside what half of the racks took. */
export const canBeTaken = (one: WorkedOperation): one is Timed =>
  isMeasured(one) &&
  Math.abs(offPct(one) ?? 0) > RIGHT_WITHIN_PCT &&
  (one.time.routeMinutes < one.time.low || one.time.routeMinutes > one.time.high) &&
  asRouteMinutes(one.time.median) !== one.time.routeMinutes;

/** What is said first of what work takes. */
export function workSentence({ operations }: Pick<Work, 'operations'>): {
  tone: VerdictTone;
  sentence: string;
} {
  const measured = operations.filter(isMeasured);
  if (measured.length === 0)
    return { tone: 'good', sentence: 'Too little was measured to hold it against the routes.' };
  const of = `${count(measured.length, 'operation')} measured ${LEAST_SAMPLES} times or more`;
  const off = measured
    .filter(canBeTaken)
    .toSorted((a, b) => Math.abs(offPct(b) ?? 0) - Math.abs(offPct(a) ?? 0));
  const [first] = off;
  if (!first)
    return { tone: 'good', sentence: `Work takes what its routes say: none of ${of} is clearly off.` };
  const pct = offPct(first) ?? 0;
  const what = `${first.operationName} of ${first.model} ${first.kindName}`;
  return {
    tone: 'wait',
    sentence: `${off.length} of ${of} ${off.length === 1 ? 'is' : 'are'} clearly off the route: most of all ${what}, ${first.time.median.toFixed(1)} min a ${first.time.per} where the route says ${first.time.routeMinutes} (${pct > 0 ? '+' : '−'}${Math.abs(pct).toFixed(0)} %).`,
  };
}
