import type { ClimateOf } from '../coats/index.ts';
import { cureEndAt, cureView, holdContext, type HoldContext } from '../holds/index.ts';
import { count, type BatchState, type PanelEnd } from '../ledger/index.ts';
import type { HoldOperation } from '../route/index.ts';
import { roomAir } from '../finishing/cure.ts';
import { cureOutlook } from '../finishing/forecast-cure.ts';
import { samplesWithin, usualAir, type AirNow, type ClimateSample } from '../units/climate.ts';
import { DAY_MS, HOUR_MS } from '../units/quantities.ts';

/** A forecast that moved by less than this is as it was, hours. */
const WORTH_SAYING_HOURS = 1;
/** Days differ by less than this without anybody calling one cold, °C. */
const SAME_TEMPERATURE_C = 0.3;
/** And by less than this without anybody calling one damp, % RH. */
const SAME_HUMIDITY_PCT = 3;
/** What is usual is taken from so many days before the last one. */
const USUAL_DAYS = 14;

/** A date that is another than it was a day ago, hours later (+) or sooner (−), and what moved it. */
export interface Moved {
  hours: number;
  why: string;
  /** The numbers behind it; null: there are none to tell. */
  proof: string | null;
}

/** What a hold's rule may look at, with the air of every room at hand. */
export const contextIn = (
  state: BatchState,
  group: { sinceMs: number; positions: number[] },
  { room }: Pick<HoldOperation, 'room'>,
  atMs: number,
  climateOf: ClimateOf,
  panels: readonly PanelEnd[] = [],
): HoldContext =>
  Object.assign(holdContext(state, group, atMs), { climate: climateOf(room) ?? [], climateOf, panels });

/** Why a cure will end at another time than was thought a day ago: coats laid since, or the air of the day. */
export function movedSince(options: {
  state: BatchState;
  group: { sinceMs: number; positions: number[] };
  operation: HoldOperation;
  /** What the rule looked at when it told the end. */
  context: HoldContext;
  endMs: number | null;
}): Moved | null {
  const { state, group, operation, context, endMs } = options;
  const { rule, room } = operation;
  const { atMs: nowMs, climate, climateOf = () => climate } = context;
  const yesterdayMs = nowMs - DAY_MS;
  if (rule.rule !== 'cure' || endMs === null) return null;
  const before =
    group.sinceMs <= yesterdayMs ? context : heldThen(state, group, operation, yesterdayMs, climateOf);
  // Later samples change nothing that was counted up to yesterday, so the air as it is known now will do.
  const was = before && cureEndAt(rule, room, before, yesterdayMs).endMs;
  if (was === undefined || was === null) return null;
  const hours = (endMs - was) / HOUR_MS;
  if (Math.abs(hours) < WORTH_SAYING_HOURS) return null;
  const laid = state.coats.filter(
    ({ atMs, positions }) => atMs > yesterdayMs && positions.some((p) => group.positions.includes(p)),
  ).length;
  if (laid > 0) return { hours, why: count(laid, 'coat more', 'coats more'), proof: null };
  const { q } = cureView(rule, room, context) ?? rule;
  const gained = roomAir(climate)?.hours(yesterdayMs, nowMs, q);
  const expected = cureOutlook(climate, yesterdayMs, q);
  if (gained === undefined || !expected) return null;
  return {
    hours,
    why: dayWords(climate, nowMs),
    proof: `${gained.toFixed(1)} reference hours where ${(expected.mean * 24).toFixed(1)} were expected`,
  };
}

/** The same hold as it was at a moment, for pieces that have left it and come back since; undefined: they were not in it. */
function heldThen(
  state: BatchState,
  { positions }: { positions: number[] },
  operation: HoldOperation,
  atMs: number,
  climateOf: ClimateOf,
): HoldContext | undefined {
  const [first] = positions;
  const touches = (set: { positions: number[] }): boolean =>
    first !== undefined && set.positions.includes(first);
  const rest = state.rests?.findLast((one) => one.fromMs <= atMs && touches(one));
  if (rest?.operation !== operation.key) return undefined;
  const isCoated = state.coats.some((coat) => coat.atMs > rest.fromMs && coat.atMs <= atMs && touches(coat));
  return isCoated
    ? undefined
    : contextIn(state, { sinceMs: rest.fromMs, positions }, operation, atMs, climateOf);
}

/** 'the last day was 1.3 °C colder than usual'. */
function dayWords(samples: readonly ClimateSample[], nowMs: number): string {
  const meanOf = (fromMs: number, toMs: number): AirNow | undefined =>
    usualAir(samplesWithin(samples, fromMs, toMs));
  const day = meanOf(nowMs - DAY_MS, nowMs);
  const usual = meanOf(nowMs - (USUAL_DAYS + 1) * DAY_MS, nowMs - DAY_MS);
  const warmer = day && usual ? day.temperatureC - usual.temperatureC : 0;
  if (Math.abs(warmer) >= SAME_TEMPERATURE_C)
    return `the last day was ${Math.abs(warmer).toFixed(1)} °C ${warmer < 0 ? 'colder' : 'warmer'} than usual`;
  const damper = day && usual ? day.relativeHumidityPct - usual.relativeHumidityPct : 0;
  return damper > SAME_HUMIDITY_PCT ? 'the last day was damper than usual' : 'the air of the last day';
}
