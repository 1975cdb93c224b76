import { layRungs, standingOf, type Standing, type Until } from '../../finishing/coat-cure.ts';
import type { Span } from '../../finishing/cure.ts';
import { cureOutlook, reachedMs, whenGathered } from '../../finishing/forecast-cure.ts';
import { HOUR_MS } from '../../units/quantities.ts';
import { coatedAlike, laidCoats, layersOn, thickestOf } from '../layers.ts';
import { restsOf } from '../rests.ts';
import { bridgedAlong, gatheredAlong, staysOf } from '../standing-air.ts';
import { spanWords } from './words.ts';
import type { CureRule, HoldContext, HoldForecast, HoldJudgement, HoldRuleKind, MarkSet } from './rules.ts';

/** Bridged time shorter than this is not worth a word. */
const BRIDGE_WORTH_SAYING_HOURS = 1;

/** The clock starts at the last coat laid before the hold; without one, when the rack came onto hold. */
export function cureStartMs({
  coats,
  sinceMs,
  positions,
}: Pick<HoldContext, 'coats' | 'sinceMs' | 'positions'>): number {
  const laid = coats
    .filter((c) => c.atMs <= sinceMs && c.positions.some((p) => positions.includes(p)))
    .map((c) => c.atMs);
  return laid.length > 0 ? Math.max(...laid) : sinceMs;
}

/** How far the pieces of a cure are: the slowest of them speaks for all. */
export interface CureSeen {
  gathered: number;
  needed: number;
  q: number;
  startMs: number;
  /** Hours over which no sensor was heard. */
  bridgedHours: number;
}

/**
 * Reference hours reached and needed at a moment, the context's or an earlier one, by the coats on the pieces where a recipe laid them and by the
 * rule otherwise; undefined when no climate is known.
 */
export function cureSeen(
  rule: CureRule,
  room: string,
  context: HoldContext,
  atMs = context.atMs,
): CureSeen | undefined {
  const { cure: fact } = context;
  const startMs = cureStartMs(context);
  if (fact) {
    const needed = fact.neededHours ?? rule.referenceHours;
    return { gathered: fact.referenceHours, needed, q: rule.q, startMs, bridgedHours: 0 };
  }
  return slowest(clocksOf(rule, room, context), atMs);
}

/** The cure of pieces with the same coats, up to the context's moment: what lies on them and where they stood is laid out once. */
type CureClock = (atMs: number) => CureSeen;

const slowest = (clocks: readonly CureClock[], atMs: number): CureSeen | undefined =>
  clocks
    .map((clock) => clock(atMs))
    .reduce<CureSeen | undefined>(
      (worst, one) => (!worst || one.needed - one.gathered > worst.needed - worst.gathered ? one : worst),
      undefined,
    );

/** Whether a hold is over and when it will be are asked one after the other, in the same context. */
const laidOut = new WeakMap<HoldContext, { rule: CureRule; room: string; clocks: CureClock[] }>();

function clocksOf(rule: CureRule, room: string, context: HoldContext): CureClock[] {
  const known = laidOut.get(context);
  if (known?.rule === rule && known.room === room) return known.clocks;
  const clocks = groupsOf(context).flatMap((group) => clockOf(rule, room, context, group) ?? []);
  laidOut.set(context, { rule, room, clocks });
  return clocks;
}

const groupsOf = ({ coats, sandings, positions }: HoldContext): number[][] =>
  coatedAlike({ coats: [...coats], sandings: [...(sandings ?? [])] }, positions);

function clockOf(
  rule: CureRule,
  room: string,
  context: HoldContext,
  positions: number[],
): CureClock | undefined {
  const { coats, sandings = [], sinceMs, climate, climateOf } = context;
  const startMs = cureStartMs({ ...context, positions });
  const isDone = ({ atMs }: { atMs: number }): boolean => atMs <= context.atMs;
  const coated = { coats: coats.filter(isDone), sandings: sandings.filter(isDone) };
  const thickest = positions.length === 0 ? 0 : thickestOf(coated, positions);
  const layers = layersOn(coated, thickest);
  const airs = (name: string) => (name === room ? climate : climateOf?.(name));
  const stays = staysOf(layers, airs, restsOf(context, thickest, { room, fromMs: sinceMs }));
  if (!stays) return undefined;
  const gathered = gatheredAlong(stays);
  const rungs = layRungs(laidCoats(layers), gathered);
  const bridged = bridgedAlong(stays, startMs, context.atMs);
  const plain = (atMs: number): Standing => ({
    gathered: gathered(startMs, atMs, rule.q),
    needed: rule.referenceHours,
    q: rule.q,
  });
  return (atMs) => {
    const laid = rungs.filter((rung) => rung.atMs <= atMs);
    const standing = standingOf(laid, gathered, atMs, rule.until) ?? plain(atMs);
    return { startMs, bridgedHours: silentHours(bridged, atMs), ...standing };
  };
}

const silentHours = (spans: readonly Span[], untilMs: number): number =>
  spans.reduce((sum, { fromMs, toMs }) => sum + Math.max(0, Math.min(toMs, untilMs) - fromMs), 0) / HOUR_MS;

/**
 * When a cure is over as seen from a moment, up to the context's: what was gathered up to then by the logged air, what is to go
 * by the air of the weeks before it.
 */
export function cureEndAt(rule: CureRule, room: string, context: HoldContext, atMs: number): HoldForecast {
  const seenAt = (ms: number): CureSeen | undefined => cureSeen(rule, room, context, ms);
  const seen = seenAt(atMs);
  if (!seen) return NO_END;
  const left = seen.needed - seen.gathered;
  if (left <= 0) {
    const isReached = (ms: number): boolean => {
      const then = seenAt(ms);
      return then !== undefined && then.gathered >= then.needed;
    };
    const endMs = context.cure ? atMs : reachedMs(isReached, seen.startMs, atMs);
    return { endMs, lowMs: endMs, highMs: endMs };
  }
  const outlook = cureOutlook(context.climate, atMs, seen.q);
  const end = outlook && whenGathered(outlook, left, atMs);
  return end ? { endMs: end.median, lowMs: end.low90, highMs: end.high90 } : NO_END;
}

const NO_END: HoldForecast = { endMs: null, lowMs: null, highMs: null };

/** The last mark tried on these pieces since their last coat. */
export function lastMark({ marks = [], positions, atMs, ...rest }: HoldContext): MarkSet | undefined {
  const startMs = cureStartMs({ ...rest, positions });
  return marks.findLast(
    (mark) => mark.atMs >= startMs && mark.atMs <= atMs && mark.positions.some((p) => positions.includes(p)),
  );
}

const TO: Record<Until, string> = { recoat: 'recoat', sand: 'sand', buff: 'buff' };
const h = (hours: number): string => (hours < 10 ? hours.toFixed(1) : Math.floor(hours).toFixed(0));

/** A hold that cures, in its room. */
export const cureIn = (room: string): HoldRuleKind<CureRule> => ({
  isOver(rule, context): HoldJudgement {
    const mark = lastMark(context);
    const seen = cureSeen(rule, room, context);
    const progress = seen ? Math.min(1, seen.gathered / seen.needed) : 0;
    const to = TO[rule.until];
    if (mark?.passed === false)
      return {
        over: false,
        progress,
        sentence: `Wait to ${to}: the last mark test failed, whatever the clock says.`,
      };
    if (mark) return { over: true, progress, sentence: `Release to ${to}: the mark test passed.` };
    if (context.cure?.panel !== undefined)
      return { over: true, progress, sentence: `Release to ${to}: ${context.cure.panel}.` };
    if (!seen)
      return {
        over: false,
        progress: 0,
        sentence: 'Wait: no climate is logged for this room, so the cure clock cannot run.',
      };
    const over = seen.gathered >= seen.needed;
    const reached = `${h(seen.gathered)} of ${h(seen.needed)} reference hours`;
    const bridge =
      seen.bridgedHours >= BRIDGE_WORTH_SAYING_HOURS
        ? ` ${spanWords(seen.bridgedHours)} of it by the room’s usual air: its sensor was silent.`
        : '';
    return {
      over,
      progress,
      sentence: over
        ? `Release to ${to}: ${reached} reached.${bridge}`
        : `Wait to ${to}: ${reached}, ${spanWords(seen.needed - seen.gathered)} at 21 °C to go.${bridge}`,
    };
  },
  forecastEnd: (rule, context) => cureEndAt(rule, room, context, context.atMs),
});
