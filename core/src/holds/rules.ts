import type {
  AgeTurn,
  BatchState,
  Coat,
  CureFact,
  Freed,
  MarkSet,
  MeasureSet,
  PanelEnd,
  ReadingSet,
  Rest,
  Sanding,
} from '../ledger/index.ts';
import type { Check } from '../machining/check.ts';
import type { HoldRule } from '../route/index.ts';
import type { ClimateSample } from '../units/climate.ts';

/** What a rule may look at. */
export interface HoldContext {
  sinceMs: number;
  atMs: number;
  /** Places on the rack that are asked about. */
  positions: number[];
  readings: readonly ReadingSet[];
  coats: readonly Coat[];
  measures: readonly MeasureSet[];
  /** What was checked of it, and its bench sheets. */
  checked?: BatchState['checks'] | undefined;
  sheets?: BatchState['sheets'] | undefined;
  /** The hold itself, where what is measured at it counts. */
  shelf?: { key: string; checks: readonly Check[] };
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
  /** The same without what is waited for, for where that is said already; left out: the sentence says nothing of it. */
  detail?: string;
  /** Waiting does not help: what was found has to be put right. */
  rejected?: true;
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
