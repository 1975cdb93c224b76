import type { CoatSpec } from '../../finishing/recipe.ts';
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
  /** Below these, one for each value, the room could not have brought it since the last look; null or absent: nobody knew. */
  floorsPct?: (number | null)[];
  /** Why it is to be believed as it stands. */
  because?: string;
}

export interface Coat {
  atMs: number;
  operation: string;
  positions: number[];
  /** Mean of the readings taken; null: none. */
  wetUm: number | null;
  /** One reading for each place, where every piece was read. */
  wetUms?: number[];
  /** Step of the recipe, and how the material was to be laid and cures; absent: no recipe was given. */
  step?: string;
  spec?: CoatSpec;
  /** Why it was laid, when the recipe did not ask for it. */
  extra?: string;
  /** Booth it was laid in, and whose air that is. */
  booth?: string;
  room?: string;
  /** Lot of the material, or the mix it came out of. */
  lot?: string;
}

/** A sanding, or a scuff before the next coat. */
export interface Sanding {
  atMs: number;
  operation: string;
  positions: number[];
  removalUm: number;
  removalSdUm: number;
  grits: number[];
  /** Film was read before and after; otherwise it is what the recipe expects. */
  measured: boolean;
}

/** A nail or hardness mark tried on a piece. */
export interface MarkSet {
  atMs: number;
  operation: string;
  positions: number[];
  passed: boolean;
}

/** Pieces put into the cold, or taken out of it. */
export interface AgeTurn {
  atMs: number;
  operation: string;
  positions: number[];
  to: 'cold' | 'warm';
}

/** A hold that coated pieces came onto: they stand in its room until their next coat or hold. */
export interface Rest {
  fromMs: number;
  operation: string;
  room: string;
  positions: number[];
}

/** Pieces freed from a cure or ageing, and the evidence. */
export interface Freed {
  atMs: number;
  by: string;
  operation: string;
  positions: number[];
  on: 'clock' | 'panel' | 'mark' | 'sight' | 'reason';
  words: string;
  /** What they were freed for; absent: from ageing, or nobody noted it. */
  until?: CureRule['until'];
}

/** A test panel sprayed with the batch that can tell when it is cured. */
export interface PanelEnd {
  code: string;
  curedMs: number;
}

/** What the server knew of a cure when it filed: the batch's own log cannot tell. */
export interface CureFact {
  sinceMs: number;
  /** Places it is about; absent: all that are on hold since then. */
  positions?: number[];
  referenceHours: number;
  /** Reference hours needed, with the film as it is; absent: the rule's. */
  neededHours?: number;
  /** A test panel that somebody goes by is cured; in words, with its code. */
  panel?: string;
  /** The panel sprayed with them that is cured last. */
  lastPanel?: PanelEnd;
}

export interface MeasureSet {
  atMs: number;
  operation: string;
  /** Places, one for each value; absent or empty: not told apart. */
  positions?: number[];
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
  sandings?: readonly Sanding[];
  marks?: readonly MarkSet[];
  ageing?: readonly AgeTurn[];
  rests?: readonly Rest[];
  freed?: readonly Freed[];
  /** Test panels sprayed with the batch; absent: none that can tell. */
  panels?: readonly PanelEnd[];
  /** Logged air of the booths the coats were laid in; absent: that of the room is taken. */
  climateOf?: (room: string) => readonly ClimateSample[] | undefined;
  /** Already computed when the entry was filed; overrules the climate. */
  cure?: CureFact;
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
