import type { ClimateSample } from '../../units/climate.ts';
import type { Air } from '../../wood/emc.ts';
import { moistureWindow, type MoistureWindow } from '../../wood/gate.ts';

/** Over after so many hours on the wall: rests, clamps, presses. */
export interface ElapsedRule {
  rule: 'elapsed';
  /** The word on the hold bar. */
  word: 'rest' | 'glue' | 'flash';
  hours: number;
}

/** Over when the moisture gate passes. */
export interface MoistureRule {
  rule: 'moisture';
  word: 'drying';
  window: MoistureWindow;
  /** The other school: the EMC of this air, more or less a tolerance, instead of the window. */
  destination?: { air: Air; tolerancePct: number };
  /** Drying time constant assumed for this stock, days. */
  tauDays: number;
}

/** What the wood must show under a rule of either school. */
export const windowOf = ({
  window,
  destination,
}: Pick<MoistureRule, 'window' | 'destination'>): MoistureWindow =>
  destination ? moistureWindow({ school: 'destination', ...destination }) : window;

/** Over when so many reference hours have been gathered since the last coat. */
export interface CureRule {
  rule: 'cure';
  word: 'cure' | 'recoat';
  material: string;
  /** What may be done when it is over. */
  until: 'recoat' | 'sand' | 'buff';
  referenceHours: number;
  /** Speed-up for every 10 °C; see CureKinetics. */
  q: number;
}

/** Over when the hours under string tension have passed and the instrument, measured again, has not drifted. */
export interface SettleRule {
  rule: 'settle';
  word: 'settling';
  hours: number;
  driftLimitMm: number;
}

export type HoldRule = ElapsedRule | MoistureRule | CureRule | SettleRule;

export interface ReadingSet {
  atMs: number;
  operation: string;
  /** Places on the rack, one for each value; empty when the readings were not told apart. */
  positions: number[];
  /** As the meter showed them. */
  valuesPct: number[];
  woodTemperatureC: number | null;
  /** Absent: nobody said which. */
  meter?: string;
  /** How deep the pins went; absent: as usual at this factory. */
  depth?: 'shell' | 'core';
  /** Corrected for temperature and by the meter's line as they stood when it was filed; absent: taken as shown. */
  correctedPct?: number[];
}

export interface Coat {
  atMs: number;
  operation: string;
  positions: number[];
  wetUm: number | null;
}

export interface MeasureSet {
  atMs: number;
  operation: string;
  /** Action at fret 12. */
  valuesMm: number[];
}

/** What a rule may look at. */
export interface HoldContext {
  sinceMs: number;
  atMs: number;
  /** Places on the rack that are asked about. */
  positions: number[];
  readings: readonly ReadingSet[];
  coats: readonly Coat[];
  measures: readonly MeasureSet[];
  /** Logged air of the room, in order of time; empty when unknown. */
  climate: readonly ClimateSample[];
  /** Reference hours already computed when the entry was filed; overrules the climate. */
  curedHours?: number;
}

export interface HoldJudgement {
  over: boolean;
  /** One sentence with its numbers. */
  sentence: string;
  /** 0…1. */
  progress: number;
}

export interface HoldForecast {
  /** Null: not in this room, or not until somebody acts. */
  endMs: number | null;
  /** Range of the end, 90 % where it is a forecast; equal to the end where it is exact. */
  lowMs: number | null;
  highMs: number | null;
}

/** The one small interface by which routing knows the stages' hold rules. */
export interface HoldRuleKind<R extends HoldRule> {
  isOver(rule: R, context: HoldContext): HoldJudgement;
  forecastEnd(rule: R, context: HoldContext): HoldForecast;
}
