import {
  bridgedAlong,
  coatedAlike,
  freedOf,
  gatheredAlong,
  laidCoats,
  layersOn,
  restsOf,
  airStretches,
  thickestOf,
} from '../coats/index.ts';
import type { MarkSet, PanelEnd } from '../ledger/index.ts';
import type { CureRule } from '../route/index.ts';
import { layRungs, gatheringOf, type LaidRung, type Gathering } from '../finishing/coat-cure.ts';
import type { Span } from '../finishing/cure.ts';
import { cureOutlook, reachedMs, whenGathered } from '../finishing/forecast-cure.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import type { HoldContext, HoldForecast, HoldJudgement, HoldRuleKind } from './rules.ts';

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
export interface CureView {
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
export function cureView(
  rule: CureRule,
  room: string,
  context: HoldContext,
  atMs = context.atMs,
): CureView | undefined {
  const { cure: fact } = context;
  const startMs = cureStartMs(context);
  if (fact) {
    const needed = fact.neededHours ?? rule.referenceHours;
    return { gathered: fact.referenceHours, needed, q: rule.q, startMs, bridgedHours: 0 };
  }
  return slowest(clocksOf(rule, room, context), atMs);
}

/** The cure of pieces with the same coats, up to the context's moment: what lies on them and where they stood is laid out once. */
type CureClock = (atMs: number) => CureView;

const slowest = (clocks: readonly CureClock[], atMs: number): CureView | undefined =>
  clocks
    .map((clock) => clock(atMs))
    .reduce<CureView | undefined>(
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
  const stretches = airStretches(layers, airs, restsOf(context, thickest, { room, fromMs: sinceMs }));
  if (!stretches) return undefined;
  const gathered = gatheredAlong(stretches);
  const coatsLaid = laidCoats(layers, freedOf(context, thickest));
  const bridged = bridgedAlong(stretches, startMs, context.atMs);
  const plain = (atMs: number): Gathering => ({
    gathered: gathered(startMs, atMs, rule.q),
    needed: rule.referenceHours,
    q: rule.q,
  });
  // The next coat changes what those below it need: as many as were on at the moment asked about.
  const rungsByNumber = new Map<number, LaidRung[]>();
  const rungsAt = (atMs: number): LaidRung[] => {
    const on = coatsLaid.filter((coat) => coat.atMs <= atMs);
    const rungs = rungsByNumber.get(on.length) ?? layRungs(on, gathered);
    rungsByNumber.set(on.length, rungs);
    return rungs;
  };
  return (atMs) => {
    const gathering = gatheringOf(rungsAt(atMs), gathered, atMs, rule.until) ?? plain(atMs);
    return { startMs, bridgedHours: silentHours(bridged, atMs), ...gathering };
  };
}

const silentHours = (spans: readonly Span[], untilMs: number): number =>
  spans.reduce((sum, { fromMs, toMs }) => sum + Math.max(0, Math.min(toMs, untilMs) - fromMs), 0) / HOUR_MS;

/**
 * When a cure is over as seen from a moment, up to the context's: what was gathered up to then by the logged air, what is to go
 * by the air of the weeks before it.
 */
export function cureEndAt(rule: CureRule, room: string, context: HoldContext, atMs: number): HoldForecast {
  const seenAt = (ms: number): CureView | undefined => cureView(rule, room, context, ms);
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

/** The panel that is cured last, where a film waits to be buffed; undefined: none can tell, or it waits for less. */
export function lastPanel(rule: CureRule, { panels = [], cure }: HoldContext): PanelEnd | undefined {
  if (rule.until !== 'buff') return undefined;
  if (cure) return cure.lastPanel;
  return panels.toSorted((a, b) => b.curedMs - a.curedMs)[0];
}

const h = (hours: number): string => (hours < 10 ? hours.toFixed(1) : Math.floor(hours).toFixed(0));

/** What the clock alone says. */
function clockJudgement(rule: CureRule, room: string, context: HoldContext): HoldJudgement {
  const seen = cureView(rule, room, context);
  if (!seen)
    return {
      over: false,
      progress: 0,
      sentence: 'Wait: no climate is logged for this room, so the cure clock cannot run.',
    };
  const { gathered, needed, bridgedHours } = seen;
  const over = gathered >= needed;
  const bridge =
    bridgedHours >= BRIDGE_WORTH_SAYING_HOURS
      ? ` ${spanWords(bridgedHours)} of it by the room’s usual air: its sensor was silent.`
      : '';
  return {
    over,
    progress: Math.min(1, gathered / needed),
    ...(over
      ? said(
          `Ready to ${rule.until}`,
          `all ${h(needed)} reference hours reached${beyond(gathered - needed)}.${bridge}`,
        )
      : said(
          `Wait to ${rule.until}`,
          `${h(gathered)} of ${h(needed)} reference hours, ${spanWords(needed - gathered)} at 21 °C to go.${bridge}`,
        )),
  };
}

/** What is waited for, and what is to be said of it. */
const said = (what: string, detail: string): Pick<HoldJudgement, 'sentence' | 'detail'> => ({
  sentence: `${what}: ${detail}`,
  detail,
});

/** A judgement with one more thing said. */
const andSaid = (judgement: HoldJudgement, words: string): HoldJudgement => ({
  ...judgement,
  sentence: `${judgement.sentence} ${words}`,
  ...(judgement.detail === undefined ? {} : { detail: `${judgement.detail} ${words}` }),
});

const beyond = (hours: number): string => (hours >= 1 ? `, and ${h(hours)} more` : '');

/** Where clock, mark and panel disagree, the later one holds, and the sentence says which (DOMAIN §5, revised). */
function judge(rule: CureRule, room: string, context: HoldContext): HoldJudgement {
  const { until } = rule;
  const mark = lastMark(context);
  const clock = clockJudgement(rule, room, context);
  if (mark?.passed === false)
    return {
      ...clock,
      over: false,
      ...said(`Wait to ${until}`, 'the last mark test failed, whatever the clock says.'),
    };
  const panel = lastPanel(rule, context);
  const left = panel ? (panel.curedMs - context.atMs) / HOUR_MS : 0;
  if (panel && left > 0 && clock.over)
    return {
      ...clock,
      over: false,
      ...said(
        `Wait to ${until}`,
        `by its weighings test panel ${panel.code} is cured in ${spanWords(left)}, later than the clock says.`,
      ),
    };
  if (!clock.over && mark) return andSaid(clock, 'A mark test passed, but the clock is later and holds.');
  if (!clock.over && panel && left <= 0)
    return andSaid(clock, `Test panel ${panel.code} is cured, but the clock is later and holds.`);
  return mark && clock.over ? andSaid(clock, 'The mark test passed.') : clock;
}

/** The later of clock and panel; a film whose mark failed has no date once both are past. */
function forecast(rule: CureRule, room: string, context: HoldContext): HoldForecast {
  const clock = cureEndAt(rule, room, context, context.atMs);
  if (clock.endMs === null) return clock;
  const panelMs = lastPanel(rule, context)?.curedMs ?? -Infinity;
  const later = (ms: number | null): number => Math.max(ms ?? panelMs, panelMs);
  const end = { endMs: later(clock.endMs), lowMs: later(clock.lowMs), highMs: later(clock.highMs) };
  return lastMark(context)?.passed === false && end.endMs <= context.atMs ? NO_END : end;
}

/** A hold that cures, in its room. */
export const cureIn = (room: string): HoldRuleKind<CureRule> => ({
  isOver: (rule, context) => judge(rule, room, context),
  forecastEnd: (rule, context) => forecast(rule, room, context),
});
