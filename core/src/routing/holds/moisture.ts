import { usualAir } from '../../finishing/cure.ts';
import { HOUR_MS } from '../../units/quantities.ts';
import { dryingOutlook } from '../../wood/drying.ts';
import { gateSentence, judgeMoisture, type MoistureJudgement, type MoistureWindow } from '../../wood/gate.ts';
import type { HoldRuleKind, MoistureRule, ReadingSet } from './rules.ts';

/** Readings taken within this time of the last one are one look at the rack. */
const ONE_LOOK_HOURS = 12;

export interface CurrentReading {
  position: number | null;
  valuePct: number;
}

/**
 * The readings that count now: those of the last look, the latest for each place on the rack. Readings of other
 * pieces than the ones asked about are left out; readings not told apart speak for all.
 */
export function currentReadings(
  sets: readonly ReadingSet[],
  options: { sinceMs: number; atMs: number; positions: readonly number[] },
): CurrentReading[] {
  const { sinceMs, atMs, positions } = options;
  const usable = sets.filter((set) => set.atMs >= sinceMs && set.atMs <= atMs);
  const lastMs = Math.max(...usable.map((set) => set.atMs));
  const byPlace = new Map<number, number>();
  const untold: CurrentReading[] = [];
  for (const set of usable) {
    if (lastMs - set.atMs > ONE_LOOK_HOURS * HOUR_MS) continue;
    set.valuesPct.forEach((valuePct, index) => {
      const position = set.positions[index];
      if (position === undefined) untold.push({ position: null, valuePct });
      else if (positions.includes(position)) byPlace.set(position, valuePct);
    });
  }
  return [...[...byPlace].map(([position, valuePct]) => ({ position, valuePct })), ...untold];
}

/** The gate's view of a rack, or of some of its pieces. */
export function judgeRack(
  window: MoistureWindow,
  sets: readonly ReadingSet[],
  options: { sinceMs: number; atMs: number; positions: readonly number[] },
): { judgement: MoistureJudgement; passing: number[]; readings: CurrentReading[] } {
  const current = currentReadings(sets, options);
  const read = new Set(current.map((reading) => reading.position));
  const complete = options.positions.length > 0 && options.positions.every((position) => read.has(position));
  // Once every piece has a reading of its own, readings not told apart say nothing more.
  const readings = complete ? current.filter((reading) => reading.position !== null) : current;
  const judgement = judgeMoisture({
    readingsPct: readings.map((reading) => reading.valuePct),
    window,
    complete,
  });
  const passing = readings.flatMap(({ position, valuePct }) =>
    position !== null && valuePct >= window.lowPct && valuePct <= window.highPct ? [position] : [],
  );
  return { judgement, passing: passing.sort((a, b) => a - b), readings };
}

export const moisture: HoldRuleKind<MoistureRule> = {
  isOver(rule, context) {
    const { judgement } = judgeRack(rule.window, context.readings, context);
    const over = judgement.verdict === 'pass';
    const excess = Math.max(0, judgement.meanPct - rule.window.highPct);
    return {
      over,
      sentence: gateSentence(judgement, rule.window),
      progress: over ? 1 : judgement.count === 0 ? 0 : 1 / (1 + excess),
    };
  },
  forecastEnd(rule, context) {
    const { judgement, readings } = judgeRack(rule.window, context.readings, context);
    const air = usualAir(context.climate);
    const wettest = Math.max(...readings.map((reading) => reading.valuePct));
    if (!air || judgement.count === 0) return { endMs: null, lowMs: null, highMs: null };
    const { hours } = dryingOutlook({
      meanPct: wettest,
      highPct: rule.window.highPct,
      air,
      tauDays: rule.tauDays,
    });
    if (!hours) return { endMs: null, lowMs: null, highMs: null };
    const readMs = Math.max(...context.readings.filter((s) => s.atMs <= context.atMs).map((s) => s.atMs));
    const at = (h: number): number => readMs + h * HOUR_MS;
    return { endMs: at(hours.median), lowMs: at(hours.low90), highMs: at(hours.high90) };
  },
};
