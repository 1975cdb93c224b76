import type { Air } from '../wood/emc.ts';
import { moistureWindow, type MoistureWindow } from '../wood/gate.ts';

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

/**
 * Over when so many reference hours have been gathered since the last coat. Coats laid by a recipe bring their own hours, which
 * go before `referenceHours` and `q`.
 */
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
  /** Action at fret 12 that is wanted after it; absent: only its drift is judged. */
  actionMm?: { low: number; high: number };
  /**
   * How far each check of the hold may have moved since set-up, by its key and in its unit: the second look is a bench sheet of those
   * checks. Absent: the action of the rack is measured again, and judged by the two above.
   */
  drifts?: Record<string, number>;
}

/** Cold and warm by turns until the lacquer checks as wanted, at most so many times. */
export interface AgeingRule {
  rule: 'ageing';
  word: 'ageing';
  coldHours: number;
  warmHours: number;
  cycles: number;
  level: 'none' | 'hardware only' | 'light' | 'heavy';
}

export type HoldRule = ElapsedRule | MoistureRule | CureRule | SettleRule | AgeingRule;
