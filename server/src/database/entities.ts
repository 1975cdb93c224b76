import type {
  BatchState,
  BoothLimits,
  EntryBody,
  EntryType,
  FactoryCalendar,
  FigureGrade,
  WoodColour,
  HourRates,
  KeepBelief,
  LotState,
  MoistureGate,
  Operation,
  Recipe,
  RunRule,
  Stage,
} from '@ample-crane/core';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

/** The factory itself; one row. */
@Entity('factory')
export class FactoryRow {
  @PrimaryColumn('int') id: number;
  @Column('text') name: string;
  @Column('jsonb') calendar: FactoryCalendar;
  /** Factory time minus server time, ms: 0 in earnest, set by the demo so that its day is a working day. */
  @Column('bigint', { name: 'clock_offset_ms', transformer: { to: (v: number) => v, from: Number } })
  clockOffsetMs: number;
  /** When lumber may be cut; racks have their route's own rule. */
  @Column('jsonb', { name: 'wood_gate', default: { school: 'fixed', lowPct: 6, highPct: 8.5 } })
  woodGate: MoistureGate;
  /** Run rules that are switched on for control charts. */
  @Column('jsonb', {
    name: 'run_rules',
    default: ['beyond', 'two-of-three', 'four-of-five', 'eight-on-one-side'],
  })
  runRules: RunRule[];
  /** What an hour costs, to weigh ways of working against each other. */
  @Column('jsonb', { name: 'hour_rates', default: { person: 34, machine: 58 } })
  hourRates: HourRates;
}

export type Construction = 'bolted' | 'set' | 'through' | 'hollow' | 'composite';

/** What a model needs of its wood. */
export interface ModelWood {
  /** Weight the finished instrument must have. */
  finishedKg: { low: number; high: number };
  /** Hardware, pickups, strings. */
  kitKg: number;
  /** By kind letter. */
  parts: Record<string, ModelPart>;
}

export interface ModelPart {
  species: string;
  blankMm: { lengthMm: number; widthMm: number; thicknessMm: number };
  /** Usual weight of a blank, for the other part's sum. */
  usualBlankKg: number;
  keep: KeepBelief;
  /** Weight chambering may take out; 0: not chambered. */
  chamberKg: number;
  /** Least figure the finish needs. */
  grade: FigureGrade;
  /** Colour its finish lets show; absent: any. */
  colour?: WoodColour;
  /** Dimensions across the grain that matter when the wood moves. */
  dimensions: { name: string; widthMm: number; grain: 'radial' | 'tangential' }[];
}

/** How parts of a kind are finished. */
export interface ModelFinish {
  /** Names of recipes, the usual one first. */
  recipes: string[];
  /** Surface of one piece, m². */
  areaM2: number;
}

@Entity('kind')
export class KindRow {
  @PrimaryColumn('text') letter: string;
  @Column('text') name: string;
  @Column('int', { name: 'next_number' }) nextNumber: number;
}

@Entity('model')
export class ModelRow {
  @PrimaryColumn('text') name: string;
  @Column('text') construction: Construction;
  @Column('text') description: string;
  /** Null: nobody has said what its wood must be. */
  @Column('jsonb', { nullable: true }) wood: ModelWood | null;
  /** By kind letter; none for parts that are not finished on their own. */
  @Column('jsonb', { default: {} }) finish: Record<string, ModelFinish>;
}

@Entity('station')
export class StationRow {
  @PrimaryColumn('text') code: string;
  @Column('text') name: string;
  @Column('text') stage: Stage;
  @Column('int') position: number;
  @Column('int') parallel: number;
  @Column('text') room: string;
  @Column('text') note: string;
}

@Entity('person')
export class PersonRow {
  @PrimaryColumn('text') code: string;
  @Column('text') name: string;
  @Column('text') role: string;
  @Column('jsonb') skills: string[];
}

@Entity('absence')
export class AbsenceRow {
  @PrimaryColumn('text') person: string;
  /** 'YYYY-MM-DD'. */
  @PrimaryColumn('date') day: string;
}

/** Never changed once written: a new revision is a new row. */
@Entity('route')
export class RouteRow {
  @PrimaryColumn('text') id: string;
  @Column('text') model: string;
  @Column('text') kind: string;
  @Column('int') revision: number;
  @Column('jsonb') operations: Operation[];
  /** Why this revision was made, by whom and when. */
  @Column('text', { default: '' }) note: string;
  @Column('text', { nullable: true }) person: string | null;
  @Column('timestamptz', { name: 'made_at', default: () => 'now()' }) madeAt: Date;
}

/** A table, press, carousel, mould or freezer: part of a station, with room for so many pieces at once. */
@Entity('bed')
export class BedRow {
  @PrimaryColumn('text') code: string;
  @Column('text') station: string;
  @Column('text') name: string;
  @Column('text') kind: 'table' | 'press' | 'carousel' | 'rack' | 'mould' | 'freezer';
  @Column('int') places: number;
  @Column('int') position: number;
}

/** Never changed once written: a new revision is a new row. */
@Entity('program')
export class ProgramRow {
  @PrimaryColumn('text') model: string;
  @PrimaryColumn('text') kind: string;
  @PrimaryColumn('text') operation: string;
  @PrimaryColumn('int') revision: number;
  @Column('real', { name: 'set_up_minutes' }) setUpMinutes: number;
  @Column('real', { name: 'load_minutes' }) loadMinutes: number;
  @Column('real', { name: 'cycle_minutes' }) cycleMinutes: number;
  /** Cut minutes of each tool in one cycle. */
  @Column('jsonb') tools: { tool: string; minutes: number }[];
  @Column('text', { default: '' }) note: string;
  @Column('text', { nullable: true }) person: string | null;
  @Column('timestamptz', { name: 'made_at', default: () => 'now()' }) madeAt: Date;
}

@Entity('cutter')
export class CutterRow {
  @PrimaryColumn('text') station: string;
  @PrimaryColumn('text') tool: string;
  @Column('real', { name: 'life_minutes' }) lifeMinutes: number;
  @Column('real', { name: 'change_minutes' }) changeMinutes: number;
  /** Of a new or sharpened one, in the factory's money. */
  @Column('real') cost: number;
}

@Entity('cutter_change')
export class CutterChangeRow {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  @Column('text') key: string;
  @Column('text') station: string;
  @Column('text') tool: string;
  /** Cut minutes it had done. */
  @Column('real', { name: 'used_minutes' }) usedMinutes: number;
  @Column('text') reason: string;
  @Column('text') person: string;
  @Column('timestamptz') at: Date;
}

/** A machine that tells what it does, over MTConnect. */
@Entity('machine')
export class MachineRow {
  @PrimaryColumn('text') code: string;
  @Column('text') station: string;
  @Column('text') name: string;
  @Column('text') url: string;
  /** The agent's run and the next event to read; null: never reached. */
  @Column('bigint', { name: 'instance_id', nullable: true }) instanceId: string | null;
  @Column('bigint', { name: 'next_sequence', nullable: true }) nextSequence: string | null;
  @Column('timestamptz', { name: 'seen_at', nullable: true }) seenAt: Date | null;
  /** Why it cannot be trusted now, in words; null: all is well. */
  @Column('text', { nullable: true }) trouble: string | null;
  /** What is known of its paths; see MachinesService. */
  @Column('jsonb') state: object;
}

/** One run of a program, as the machine told it. */
@Entity('machine_cycle')
export class MachineCycleRow {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  @Column('text') machine: string;
  /** The table or head it ran on. */
  @Column('text') path: string;
  @Column('text', { nullable: true }) program: string | null;
  @Column('timestamptz', { name: 'started_at' }) startedAt: Date;
  @Column('timestamptz', { name: 'ended_at', nullable: true }) endedAt: Date | null;
  @Column('real', { name: 'held_minutes' }) heldMinutes: number;
  @Column('text') outcome: 'running' | 'complete' | 'broken off' | 'lost';
  @Column('text') note: string;
  @Column('text', { nullable: true }) settled: 'filed' | 'dismissed' | null;
  /** The load the operator said it was. */
  @Column('text', { nullable: true }) load: string | null;
}

/** What the log has made of a batch so far. Written by filing only. */
@Entity('batch')
export class BatchRow {
  @PrimaryColumn('text') code: string;
  @Column('text') kind: string;
  @Column('text') model: string;
  @Column('text', { name: 'route_id' }) routeId: string;
  /** Number of its last entry. */
  @Column('int') seq: number;
  /** True when no piece is left to work on, or its opening was taken back. */
  @Column('boolean') closed: boolean;
  /** Null when its opening was taken back. */
  @Column('jsonb', { nullable: true }) state: BatchState | null;
}

/** One request to file, by the client's key: the same key twice is one filing. */
@Entity('filing')
export class FilingRow {
  @PrimaryColumn('text') key: string;
  /** Hash of what was asked: another request under the same key is refused. */
  @Column('text') fingerprint: string;
  @Column('text') person: string;
  @Column('timestamptz', { name: 'filed_at' }) filedAt: Date;
  @Column('jsonb', { nullable: true }) result: object | null;
}

/** The log. Rows are added, never updated or deleted (the database refuses it). */
@Entity('log_entry')
export class LogEntryRow {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  @Column('text', { name: 'filing_key' }) filingKey: string;
  @Column('text') batch: string;
  @Column('int') seq: number;
  @Column('text') type: EntryType;
  @Column('text', { nullable: true }) operation: string | null;
  @Column('text', { nullable: true }) station: string | null;
  @Column('int') pieces: number;
  @Column('text') person: string;
  @Column('timestamptz', { name: 'happened_at' }) happenedAt: Date;
  @Column('timestamptz', { name: 'filed_at' }) filedAt: Date;
  @Column('jsonb') body: EntryBody;
}

@Entity('species')
export class SpeciesRow {
  @PrimaryColumn('text') name: string;
  @Column('real', { name: 'basic_specific_gravity' }) basicSpecificGravity: number;
  @Column('real', { name: 'radial_shrinkage_pct' }) radialShrinkagePct: number;
  @Column('real', { name: 'tangential_shrinkage_pct' }) tangentialShrinkagePct: number;
  @Column('boolean', { name: 'papers_needed' }) papersNeeded: boolean;
}

@Entity('meter')
export class MeterRow {
  @PrimaryColumn('text') code: string;
  @Column('text') name: string;
  @Column('text') kind: 'pin' | 'pinless';
  @Column('text') note: string;
}

@Entity('oven_dry_sample')
export class OvenDrySampleRow {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  @Column('text') key: string;
  @Column('text') meter: string;
  @Column('text') species: string;
  @Column('double precision', { name: 'reading_pct' }) readingPct: number;
  @Column('double precision', { name: 'wood_temperature_c' }) woodTemperatureC: number;
  @Column('double precision', { name: 'wet_g' }) wetG: number;
  @Column('double precision', { name: 'dry_g' }) dryG: number;
  @Column('text') person: string;
  @Column('timestamptz') at: Date;
}

/** Never changed: a meter tested again gets another line. */
@Entity('meter_line')
export class MeterLineRow {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  @Column('text') meter: string;
  @Column('text') species: string;
  @Column('double precision') a: number;
  @Column('double precision') b: number;
  @Column('double precision', { name: 'residual_sd_pct' }) residualSdPct: number;
  @Column('int') samples: number;
  @Column('double precision', { name: 'from_pct' }) fromPct: number;
  @Column('double precision', { name: 'to_pct' }) toPct: number;
  @Column('text') person: string;
  @Column('timestamptz') at: Date;
}

@Entity('room')
export class RoomRow {
  @PrimaryColumn('text') name: string;
  @Column('int') position: number;
  /** The EMC the room should hold. */
  @Column('real', { name: 'emc_low_pct' }) emcLowPct: number;
  @Column('real', { name: 'emc_high_pct' }) emcHighPct: number;
  /** Lots and blanks rest here: a drift is worth a call. */
  @Column('boolean', { name: 'holds_wood' }) holdsWood: boolean;
}

/** What the log has made of a lot so far. Written by filing only. */
@Entity('lot')
export class LotRow {
  @PrimaryColumn('text') code: string;
  @Column('int') seq: number;
  @Column('boolean', { name: 'used_up' }) usedUp: boolean;
  /** Null when its receipt was taken back. */
  @Column('jsonb', { nullable: true }) state: LotState | null;
}

/** A piece weighed before and after: what a model keeps of a blank is learnt from these. */
@Entity('weigh_back')
export class WeighBackRow {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  @Column('text') key: string;
  @Column('text') model: string;
  @Column('text') kind: string;
  @Column('text') piece: string;
  @Column('real', { name: 'blank_kg' }) blankKg: number;
  @Column('real', { name: 'finished_kg' }) finishedKg: number;
  @Column('text') person: string;
  @Column('timestamptz') at: Date;
  /** Null while it counts. */
  @Column('timestamptz', { name: 'taken_back_at', nullable: true }) takenBackAt: Date | null;
}

/** Never changed once written: a new revision is a new row. */
@Entity('recipe')
export class RecipeRow {
  @PrimaryColumn('text') id: string;
  @Column('text') name: string;
  @Column('int') revision: number;
  @Column('jsonb') recipe: Recipe;
  @Column('text', { default: '' }) note: string;
  @Column('text', { nullable: true }) person: string | null;
  @Column('timestamptz', { name: 'made_at', default: () => 'now()' }) madeAt: Date;
}

@Entity('booth')
export class BoothRow {
  @PrimaryColumn('text') code: string;
  @Column('text') name: string;
  @Column('text') station: string;
  /** Whose air it is. */
  @Column('text') room: string;
  @Column('int') position: number;
  @Column('jsonb') limits: BoothLimits;
  /** Hours of spraying its filters last. */
  @Column('real', { name: 'filter_life_hours' }) filterLifeHours: number;
}

@Entity('filter_change')
export class FilterChangeRow {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  @Column('text') key: string;
  @Column('text') booth: string;
  /** Hours of spraying they had done. */
  @Column('real', { name: 'used_hours' }) usedHours: number;
  @Column('text') person: string;
  @Column('timestamptz') at: Date;
}

@Entity('material')
export class MaterialRow {
  @PrimaryColumn('text') name: string;
  /** Days until more of it comes. */
  @Column('real', { name: 'lead_days' }) leadDays: number;
}

@Entity('material_lot')
export class MaterialLotRow {
  @PrimaryColumn('text') code: string;
  @Column('text') material: string;
  @Column('real') litres: number;
  @Column('timestamptz', { name: 'received_at' }) receivedAt: Date;
  /** Null: still closed. */
  @Column('timestamptz', { name: 'opened_at', nullable: true }) openedAt: Date | null;
  /** Null: there is some left, for all that anybody said. */
  @Column('timestamptz', { name: 'finished_at', nullable: true }) finishedAt: Date | null;
  /** Null: it keeps. */
  @Column('timestamptz', { name: 'expires_at', nullable: true }) expiresAt: Date | null;
  @Column('text') person: string;
}

/** What was mixed at once, and how long it can be used. */
@Entity('mix')
export class MixRow {
  @PrimaryColumn('text') code: string;
  @Column('text') key: string;
  @Column('text') material: string;
  @Column('text', { nullable: true }) lot: string | null;
  @Column('real') litres: number;
  /** Litres of it that came out of the lot: its base. */
  @Column('real', { name: 'lot_litres' }) lotLitres: number;
  /** Hardener, thinner: what is mixed in, and out of which lots; a null one: nobody noted any. */
  @Column('jsonb') additions: { material: string; lot: string | null; litres: number }[];
  @Column('text', { nullable: true }) because: string | null;
  @Column('timestamptz', { name: 'mixed_at' }) mixedAt: Date;
  @Column('real', { name: 'pot_life_hours' }) potLifeHours: number;
  /** Used up or thrown away; null: neither. */
  @Column('timestamptz', { name: 'ended_at', nullable: true }) endedAt: Date | null;
  @Column('text') person: string;
}

/** A test panel, sprayed with a batch and weighed. */
@Entity('panel')
export class PanelRow {
  @PrimaryColumn('text') code: string;
  @Column('text') key: string;
  @Column('text') batch: string;
  @Column('text') recipe: string;
  @Column('text') step: string;
  @Column('text') material: string;
  /** Dry film on it. */
  @Column('real', { name: 'film_um' }) filmUm: number;
  /** Where it hangs. */
  @Column('text') room: string;
  @Column('timestamptz', { name: 'sprayed_at' }) sprayedAt: Date;
  @Column('text') person: string;
}

@Entity('panel_weighing')
export class PanelWeighingRow {
  @PrimaryGeneratedColumn({ type: 'bigint' }) id: string;
  @Column('text') key: string;
  @Column('text') panel: string;
  @Column('double precision') grams: number;
  @Column('text') person: string;
  @Column('timestamptz') at: Date;
}

/** Work in front of each station at the end of a past day: a roll-up of the log, made when first asked for. */
@Entity('station_day')
export class StationDayRow {
  @PrimaryColumn('date') day: string;
  @PrimaryColumn('text') station: string;
  @Column('real', { name: 'hours_waiting' }) hoursWaiting: number;
  @Column('real') days: number;
}

export const ENTITIES = [
  FactoryRow,
  KindRow,
  ModelRow,
  StationRow,
  PersonRow,
  AbsenceRow,
  RouteRow,
  BedRow,
  ProgramRow,
  CutterRow,
  CutterChangeRow,
  MachineRow,
  MachineCycleRow,
  BatchRow,
  FilingRow,
  LogEntryRow,
  SpeciesRow,
  MeterRow,
  OvenDrySampleRow,
  MeterLineRow,
  RoomRow,
  LotRow,
  WeighBackRow,
  RecipeRow,
  BoothRow,
  FilterChangeRow,
  MaterialRow,
  MaterialLotRow,
  MixRow,
  PanelRow,
  PanelWeighingRow,
  StationDayRow,
];
