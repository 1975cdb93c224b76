import { rungsOf, standingOf, type Until } from '../../finishing/coat-cure.ts';
import { roomAir } from '../../finishing/cure.ts';
import { cureOutlook, reachedMs, whenGathered } from '../../finishing/forecast-cure.ts';
import { HOUR_MS } from '../../units/quantities.ts';
import { coatedAlike, laidCoats, layersOn, thickestOf } from '../layers.ts';
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
 * Reference hours reached and needed at the context's moment, by the coats on the pieces where a recipe laid them and by the
 * rule otherwise; undefined when no climate is known.
 */
export function cureSeen(rule: CureRule, room: string, context: HoldContext): CureSeen | undefined {
  const { cure: fact, atMs } = context;
  const startMs = cureStartMs(context);
  if (fact) {
    const needed = fact.neededHours ?? rule.referenceHours;
    return { gathered: fact.referenceHours, needed, q: rule.q, startMs, bridgedHours: 0 };
  }
  const seen = groupsOf(context).map((group) => seenOf(rule, room, { ...context, positions: group }, atMs));
  return seen.reduce<CureSeen | undefined>(
    (worst, one) =>
      one && (!worst || one.needed - one.gathered > worst.needed - worst.gathered) ? one : worst,
    undefined,
  );
}

const groupsOf = ({ coats, sandings, positions }: HoldContext): number[][] =>
  coatedAlike({ coats: [...coats], sandings: [...(sandings ?? [])] }, positions);

function seenOf(rule: CureRule, room: string, context: HoldContext, atMs: number): CureSeen | undefined {
  const { coats, sandings = [], positions, sinceMs, climate, climateOf } = context;
  const startMs = cureStartMs(context);
  const coated = { coats: coats.filter((coat) => coat.atMs <= atMs), sandings: [...sandings] };
  const layers = positions.length === 0 ? [] : layersOn(coated, thickestOf(coated, positions));
  const airs = (name: string) => (name === room ? climate : climateOf?.(name));
  const stays = staysOf(layers, airs, { room, sinceMs });
  if (!stays) return undefined;
  const laid = laidCoats(layers);
  const standing = standingOf(laid, rungsOf(laid, gatheredAlong(stays), atMs), rule.until);
  const bridgedHours =
    bridgedAlong(stays, startMs, atMs).reduce((sum, span) => sum + span.toMs - span.fromMs, 0) / HOUR_MS;
  if (standing)
    return { gathered: standing.gathered, needed: standing.needed, q: standing.q, startMs, bridgedHours };
  const gathered = roomAir(climate)?.hours(startMs, atMs, rule.q);
  return gathered === undefined
    ? undefined
    : { gathered, needed: rule.referenceHours, q: rule.q, startMs, bridgedHours };
}

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
  forecastEnd(rule, context): HoldForecast {
    const seen = cureSeen(rule, room, context);
    if (!seen) return { endMs: null, lowMs: null, highMs: null };
    const left = seen.needed - seen.gathered;
    if (left <= 0) {
      const reached = context.cure
        ? context.atMs
        : reachedMs(
            (ms) => {
              const then = cureSeen(rule, room, { ...context, atMs: ms });
              return then !== undefined && then.gathered >= then.needed;
            },
            seen.startMs,
            context.atMs,
          );
      return { endMs: reached, lowMs: reached, highMs: reached };
    }
    const outlook = cureOutlook(context.climate, context.atMs, seen.q);
    const end = outlook && whenGathered(outlook, left, context.atMs);
    return end
      ? { endMs: end.median, lowMs: end.low90, highMs: end.high90 }
      : { endMs: null, lowMs: null, highMs: null };
  },
});
