import { usualAir } from '../../finishing/cure.ts';
import { summarise } from '../../stats/descriptive.ts';
import { HOUR_MS } from '../../units/quantities.ts';
import { fitDrying } from '../../wood/drying/fit.ts';
import { forecastDrying } from '../../wood/drying/forecast.ts';
import { gateSentence, judgeMoisture, type MoistureJudgement, type MoistureWindow } from '../../wood/gate.ts';
import {
  windowOf,
  type HoldContext,
  type HoldForecast,
  type HoldRuleKind,
  type MoistureRule,
  type ReadingSet,
} from './rules.ts';

/** Readings taken within this time of the last one are one look at the rack. */
const ONE_LOOK_HOURS = 12;

export interface CurrentReading {
  position: number | null;
  valuePct: number;
  depth: 'shell' | 'core' | null;
}

/** Readings as they are judged: corrected where that is known. */
export const judgedValues = (set: ReadingSet): number[] => set.correctedPct ?? set.valuesPct;

/**
 * The readings that count now: those of the last look, the latest for each place and depth. Readings of other pieces
 * than the ones asked about are left out; readings not told apart speak for all.
 */
export function currentReadings(
  sets: readonly ReadingSet[],
  options: { sinceMs: number; atMs: number; positions: readonly number[] },
): CurrentReading[] {
  const { sinceMs, atMs, positions } = options;
  const usable = sets.filter((set) => set.atMs >= sinceMs && set.atMs <= atMs);
  const lastMs = Math.max(...usable.map((set) => set.atMs));
  const byPlace = new Map<string, CurrentReading>();
  const untold: CurrentReading[] = [];
  for (const set of usable) {
    if (lastMs - set.atMs > ONE_LOOK_HOURS * HOUR_MS) continue;
    const depth = set.depth ?? null;
    judgedValues(set).forEach((valuePct, index) => {
      const position = set.positions[index];
      if (position === undefined) untold.push({ position: null, valuePct, depth });
      else if (positions.includes(position))
        byPlace.set(`${position}/${depth ?? ''}`, { position, valuePct, depth });
    });
  }
  return [...byPlace.values(), ...untold];
}

/** Core minus shell of a look that read both, by their means; null otherwise. */
function coreMinusShell(readings: readonly CurrentReading[]): number | null {
  const at = (depth: 'shell' | 'core'): number[] =>
    readings.filter((reading) => reading.depth === depth).map((reading) => reading.valuePct);
  const [core, shell] = [at('core'), at('shell')];
  return core.length > 0 && shell.length > 0 ? summarise(core).mean - summarise(shell).mean : null;
}

/** One value a piece: its core where that was read, for it is the last to dry. */
function byPiece(readings: readonly CurrentReading[]): CurrentReading[] {
  const cored = new Set(
    readings.filter((r) => r.depth === 'core' && r.position !== null).map((r) => r.position),
  );
  return readings.filter((r) => r.position === null || r.depth === 'core' || !cored.has(r.position));
}

/** The gate's view of a rack, or of some of its pieces. */
export function judgeRack(
  window: MoistureWindow,
  sets: readonly ReadingSet[],
  options: { sinceMs: number; atMs: number; positions: readonly number[] },
): { judgement: MoistureJudgement; passing: number[]; readings: CurrentReading[] } {
  const look = currentReadings(sets, options);
  const current = byPiece(look);
  const read = new Set(current.map((reading) => reading.position));
  const untold = current.filter((reading) => reading.position === null).length;
  const each = options.positions.length > 0 && options.positions.every((position) => read.has(position));
  // Once every piece has a reading of its own, readings not told apart say nothing more.
  const readings = each ? current.filter((reading) => reading.position !== null) : current;
  const judgement = judgeMoisture({
    readingsPct: readings.map((reading) => reading.valuePct),
    window,
    complete: each || (options.positions.length > 0 && untold >= options.positions.length),
    coreMinusShellPct: coreMinusShell(look),
  });
  const passing = readings.flatMap(({ position, valuePct }) =>
    position !== null && valuePct >= window.lowPct && valuePct <= window.highPct ? [position] : [],
  );
  return { judgement, passing: passing.sort((a, b) => a - b), readings };
}

export const moisture: HoldRuleKind<MoistureRule> = {
  isOver(rule, context) {
    const window = windowOf(rule);
    const { judgement } = judgeRack(window, context.readings, context);
    const over = judgement.verdict === 'pass';
    const excess = Math.max(0, judgement.meanPct - window.highPct);
    return {
      over,
      sentence: gateSentence(judgement, window),
      progress: over ? 1 : judgement.count === 0 ? 0 : 1 / (1 + excess),
    };
  },
  forecastEnd: forecastRack,
};

const NOBODY_KNOWS: HoldForecast = { endMs: null, lowMs: null, highMs: null };

/** Rests jointed blanks of unknown wood: their own time constant is the rule's, so species and thickness say nothing. */
const UNSAID = { thicknessMm: 25, species: { basicSpecificGravity: 0.55 } };

/** When the wettest piece of the last look is inside: the drying forecast from all readings and the room's logged air. */
function forecastRack(rule: MoistureRule, context: HoldContext): HoldForecast {
  const window = windowOf(rule);
  const { judgement, readings } = judgeRack(window, context.readings, context);
  const usual = usualAir(context.climate);
  if (!usual || judgement.count === 0) return NOBODY_KNOWS;
  const hoursAt = (ms: number): number => (ms - context.sinceMs) / HOUR_MS;
  const values = readings.map((reading) => reading.valuePct);
  const tooWet = judgement.over > 0 || judgement.under === 0;
  const edge = tooWet ? Math.max(...values) - judgement.meanPct : judgement.meanPct - Math.min(...values);
  const fit = fitDrying({
    ...UNSAID,
    tauDays: rule.tauDays,
    climate: context.climate.map(({ atMs, ...air }) => ({ hours: hoursAt(atMs), ...air })),
    readings: context.readings
      .filter((set) => set.atMs >= context.sinceMs && set.atMs <= context.atMs)
      .flatMap((set) => judgedValues(set).map((mcPct) => ({ hours: hoursAt(set.atMs), mcPct }))),
  });
  const outlook = forecastDrying(fit, {
    climate: usual,
    gate: { ...window, marginPct: edge },
    fromHours: hoursAt(context.atMs),
  });
  if (outlook === 'never') return NOBODY_KNOWS;
  const at = (hours: number): number => context.atMs + hours * HOUR_MS;
  return { endMs: at(outlook.median), lowMs: at(outlook.low90), highMs: at(outlook.high90) };
}
