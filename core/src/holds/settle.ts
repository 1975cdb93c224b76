import {
  settleDrift,
  settlingDriftMm,
  type DriftLimit,
  type SettledJudgement,
} from '../assembly/settling.ts';
import type { Measured } from '../assembly/setup.ts';
import { looksOf, type BatchState, type Look, type MeasureSet } from '../ledger/index.ts';
import type { Check } from '../machining/check.ts';
import type { HoldOperation, Operation, SettleRule } from '../route/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { elapsed } from './elapsed.ts';
import type { HoldContext, HoldJudgement, HoldRuleKind } from './rules.ts';

/** Values are read to a hundredth; their differences are not finer. */
const ROUNDING_MM = 1e-9;

export const settle: HoldRuleKind<SettleRule> = {
  isOver(rule, context) {
    const { sinceMs, atMs, measures } = context;
    const endMs = sinceMs + rule.hours * HOUR_MS;
    const progress = Math.min(1, Math.max(0, (atMs - sinceMs) / (rule.hours * HOUR_MS)));
    if (atMs < endMs) {
      const left = spanWords((endMs - atMs) / HOUR_MS);
      return {
        over: false,
        progress,
        sentence: `Wait: ${left} of settling left, of ${spanWords(rule.hours)}.`,
      };
    }
    if (rule.drifts) return secondLook(rule, { ...context, progress });
    const { positions } = context;
    const before = lastOf(
      measures.filter((set) => set.atMs <= sinceMs),
      positions,
    );
    const after = lastOf(
      measures.filter((set) => set.atMs >= endMs && set.atMs <= atMs),
      positions,
    );
    if (!after || after.missing.length > 0) {
      const which = after ? ` of ${placesWords(after.missing)}` : '';
      return {
        over: false,
        progress,
        sentence: `Measure again: ${spanWords(rule.hours)} of settling are over, the action${which} is not yet checked.`,
      };
    }
    const told = [...driftsOf(rule, before, after), ...outsideOf(rule, after)];
    if (told.length > 0)
      return { over: false, progress, rejected: true, sentence: `Back to set-up: ${told.join('; ')}.` };
    if (!before)
      return {
        over: true,
        progress,
        sentence: 'Ready: settled and measured; no earlier measure to compare with.',
      };
    const drift = settlingDriftMm(before.valuesMm, after.valuesMm);
    return { over: true, progress, sentence: `Ready: settled, ${driftWords(rule, drift, 'action')}.` };
  },
  forecastEnd(rule, context) {
    return elapsed.forecastEnd({ rule: 'elapsed', word: 'rest', hours: rule.hours }, context);
  },
};

/** What the last measurings say: one value a place where they were told apart. */
interface RackMeasured {
  valuesMm: number[];
  /** Place → value; empty: not told apart. */
  byPlace: Map<number, number>;
  /** Places asked about that were not among those told apart. */
  missing: number[];
}

function lastOf(sets: readonly MeasureSet[], positions: readonly number[]): RackMeasured | undefined {
  const last = sets.at(-1);
  if (!last) return undefined;
  if ((last.positions ?? []).length === 0)
    return { valuesMm: last.valuesMm, byPlace: new Map(), missing: [] };
  const byPlace = new Map(
    sets.flatMap(({ positions: places = [], valuesMm }) =>
      places.flatMap((place, i) => {
        const value = valuesMm[i];
        return positions.includes(place) && value !== undefined ? [[place, value] as const] : [];
      }),
    ),
  );
  const missing = positions.filter((place) => !byPlace.has(place));
  return { valuesMm: [...byPlace.values()], byPlace, missing };
}

const placesWords = (places: readonly number[]): string => places.map((place) => `/${place}`).join(' ');

const driftWords = ({ driftLimitMm }: SettleRule, drift: number, what: string): string =>
  `${what} moved ${drift >= 0 ? '+' : '−'}${Math.abs(drift).toFixed(2)} mm, limit ${driftLimitMm.toFixed(2)} mm`;

/** Pieces whose action moved too far; of pieces not told apart, their mean. */
function driftsOf(rule: SettleRule, before: RackMeasured | undefined, after: RackMeasured): string[] {
  if (!before) return [];
  const tooFar = (drift: number): boolean => Math.abs(drift) > rule.driftLimitMm + ROUNDING_MM;
  if (before.byPlace.size === 0 || after.byPlace.size === 0) {
    const drift = settlingDriftMm(before.valuesMm, after.valuesMm);
    return tooFar(drift) ? [driftWords(rule, drift, 'action')] : [];
  }
  return [...after.byPlace].flatMap(([place, value]) => {
    const was = before.byPlace.get(place);
    const drift = was === undefined ? 0 : value - was;
    return tooFar(drift) ? [driftWords(rule, drift, `/${place}`)] : [];
  });
}

/** Instruments whose action lies outside what is wanted, however little it moved. */
function outsideOf({ actionMm }: SettleRule, after: RackMeasured): string[] {
  if (!actionMm) return [];
  const { low, high } = actionMm;
  const isOutside = (mm: number): boolean => mm < low || mm > high;
  const limits = `limits ${low.toFixed(2)}–${high.toFixed(2)} mm`;
  if (after.byPlace.size === 0) {
    const outside = after.valuesMm.filter(isOutside);
    return outside.length > 0
      ? [`action of ${outside.length} is ${outside.map((mm) => mm.toFixed(2)).join(', ')} mm, ${limits}`]
      : [];
  }
  return [...after.byPlace].flatMap(([place, mm]) =>
    isOutside(mm) ? [`action of /${place} is ${mm.toFixed(2)} mm, ${limits}`] : [],
  );
}

/** What a bench sheet of the second look is held against: the checks of the hold, with how far each may move. */
const driftLimits = ({ drifts = {} }: SettleRule, checks: readonly Check[]): DriftLimit[] =>
  checks.map((check) => ({ check, drift: drifts[check.key] ?? null }));

/** A shelf: the hold of a route that pieces settle on. */
interface Shelf {
  key: HoldOperation['key'];
  checks: readonly Check[];
  rule: SettleRule;
}

/**
 * What the second look says of pieces that came onto a shelf together, each by itself: what was read at the shelf when the settling was
 * over, held against what was read before they came, of each check the latest value, by whatever way it was filed.
 */
export function secondLooks(
  { key, rule, checks }: Shelf,
  read: Pick<BatchState, 'checks' | 'sheets'>,
  { sinceMs, atMs }: { sinceMs: number; atMs: number },
): (position: number) => SettledLook {
  const endMs = sinceMs + rule.hours * HOUR_MS;
  const looks = looksOf({ ...read, measures: [] }).filter((look) => look.atMs <= atMs);
  const first = looks.filter((look) => look.operation !== key && look.atMs <= sinceMs);
  const again = looks.filter((look) => look.operation === key && look.atMs >= endMs);
  const limits = driftLimits(rule, checks);
  return (position) => {
    const [before, after] = [valuesOf(first, position), valuesOf(again, position)];
    return { before, after, ...settleDrift(before, after, limits) };
  };
}

/** The second look at one piece, with what it rests on. */
export interface SettledLook extends SettledJudgement {
  before: Measured;
  after: Measured;
}

const valuesOf = (looks: readonly Look[], position: number): Measured =>
  Object.fromEntries(
    looks.flatMap(({ check, positions, values }) => {
      const value = values[positions.indexOf(position)];
      return value === undefined ? [] : [[check, value]];
    }),
  );

/** The shelf an operation is, where the second look is a sheet of its own checks; undefined: it is none. */
export function shelfOf(operation: Operation): Shelf | undefined {
  if (operation.mode !== 'hold' || operation.rule.rule !== 'settle' || !operation.rule.drifts)
    return undefined;
  const { key, checks = [], rule } = operation;
  return { key, checks, rule };
}

/** Every instrument is read again by itself: those that moved are named, then those nobody has read. */
function secondLook(
  rule: SettleRule,
  { positions, sinceMs, atMs, checked, sheets, shelf, progress }: HoldContext & { progress: number },
): HoldJudgement {
  const looks = secondLooks(
    { key: shelf?.key ?? '', checks: shelf?.checks ?? [], rule },
    { ...(checked && { checks: checked }), ...(sheets && { sheets }) },
    { sinceMs, atMs },
  );
  const judged = positions.map((position) => ({ position, ...looks(position) }));
  const back = judged.filter(({ verdict }) => verdict === 'back');
  const open = judged.filter(({ verdict }) => verdict === 'measure');
  if (back.length > 0) {
    const told = back.map(({ position, words }) => `/${position} ${words.join(', ')}`);
    return { over: false, progress, rejected: true, sentence: `Back to set-up: ${told.join('; ')}.` };
  }
  if (open.length > 0)
    return {
      over: false,
      progress,
      sentence: `Measure again: ${spanWords(rule.hours)} of settling are over, ${placesWords(open.map(({ position }) => position))} not yet looked at a second time.`,
    };
  const most = Math.max(0, ...judged.flatMap(({ items }) => items.map(shareOfLimit(rule))));
  return {
    over: true,
    progress,
    sentence: `Ready: settled and looked at again, ${most === 0 ? 'nothing moved' : `at most ${Math.round(100 * most)} % of what may move`}.`,
  };
}

/**
 * Pieces that came onto a shelf together, parted by what their second look says: what moved holds up none of the others. Those that may
 * leave first; one group as long as none may, or on any other hold.
 */
export function shelfApart(
  state: BatchState,
  operation: Operation,
  group: { sinceMs: number; positions: number[] },
  atMs: number,
): number[][] {
  const shelf = shelfOf(operation);
  if (!shelf || atMs < group.sinceMs + shelf.rule.hours * HOUR_MS) return [group.positions];
  const looks = secondLooks(shelf, state, { sinceMs: group.sinceMs, atMs });
  const by = (passes: boolean): number[] =>
    group.positions.filter((position) => (looks(position).verdict === 'pass') === passes);
  return [by(true), by(false)].filter((positions) => positions.length > 0);
}

const shareOfLimit =
  ({ drifts = {} }: SettleRule) =>
  ({ check, drift }: { check: Check; drift: number | null }): number => {
    const limit = drifts[check.key];
    return limit === undefined || drift === null ? 0 : Math.abs(drift) / limit;
  };
