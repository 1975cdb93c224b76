import type { ReadingSet } from '../ledger/index.ts';
import { windowOf, type MoistureRule } from '../route/index.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { fitDrying } from '../wood/drying/fit.ts';
import { forecastDrying } from '../wood/drying/forecast.ts';
import { dryingAir } from '../wood/drying/logged.ts';
import { gateSentence, type MoistureJudgement, type MoistureWindow } from '../wood/gate.ts';
import type { TakenReading } from '../wood/reading.ts';
import { believedReadings, judgeSample } from '../wood/sample.ts';
import type { HoldContext, HoldForecast, HoldRuleKind } from './rules.ts';

export interface CurrentReading {
  position: number | null;
  valuePct: number;
  depth: 'shell' | 'core' | null;
}

/** Readings as they are judged: corrected where that is known. */
export const judgedValues = (set: ReadingSet): number[] => set.correctedPct ?? set.valuesPct;

/** Readings of a rack one by one, in order of time. */
export const takenReadings = (
  sets: readonly ReadingSet[],
  { sinceMs, atMs }: { sinceMs: number; atMs: number },
): TakenReading[] =>
  sets
    .filter((set) => set.atMs >= sinceMs && set.atMs <= atMs)
    .flatMap((set) =>
      judgedValues(set).map((pct, i) => ({
        atMs: set.atMs,
        piece: set.positions[i] ?? null,
        depth: set.depth ?? null,
        shownPct: set.valuesPct[i] ?? pct,
        pct,
        floorPct: set.floorsPct?.[i] ?? null,
        explained: set.because !== undefined,
      })),
    );

/** The gate's view of a rack, or of some of its pieces; see sampleOf for which readings count. */
export function judgeRack(
  window: MoistureWindow,
  sets: readonly ReadingSet[],
  options: { sinceMs: number; atMs: number; positions: readonly number[] },
): { judgement: MoistureJudgement; passing: number[]; readings: CurrentReading[] } {
  const { judgement, sample, passing } = judgeSample(takenReadings(sets, options), options.positions, window);
  const readings = sample.readings.map(({ piece, pct, depth }) => ({
    position: piece,
    valuePct: pct,
    depth,
  }));
  return { judgement, passing, readings };
}

/**
 * How far the piece that comes inside last lies from the mean of its rack, % moisture: the wettest while it dries, the driest when
 * it was dried too far. 0 when nothing was read.
 */
export function lastInsideMarginPct({ judgement, readings }: ReturnType<typeof judgeRack>): number {
  const values = readings.map(({ valuePct }) => valuePct);
  if (values.length === 0) return 0;
  const tooWet = judgement.over > 0 || judgement.under === 0;
  return tooWet ? Math.max(...values) - judgement.meanPct : judgement.meanPct - Math.min(...values);
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
      ...(judgement.verdict === 'reject' ? { rejected: true } : {}),
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
  const judged = judgeRack(window, context.readings, context);
  const { believed } = believedReadings(takenReadings(context.readings, context));
  const logged = dryingAir(
    context.climate,
    context.atMs,
    believed.map(({ atMs }) => atMs),
  );
  if (!logged || judged.judgement.count === 0) return NOBODY_KNOWS;
  const hoursAt = (ms: number): number => (ms - context.sinceMs) / HOUR_MS;
  const fit = fitDrying({
    ...UNSAID,
    tauDays: rule.tauDays,
    climate: logged.climate.map(({ atMs, ...air }) => ({ hours: hoursAt(atMs), ...air })),
    readings: believed.map(({ atMs, pct }) => ({ hours: hoursAt(atMs), mcPct: pct })),
  });
  const outlook = forecastDrying(fit, {
    climate: logged.usual,
    gate: { ...window, marginPct: lastInsideMarginPct(judged) },
    fromHours: hoursAt(context.atMs),
  });
  if (outlook === 'never') return NOBODY_KNOWS;
  const at = (hours: number): number => context.atMs + hours * HOUR_MS;
  return { endMs: at(outlook.median), lowMs: at(outlook.low90), highMs: at(outlook.high90) };
}
