import type {
  ChosenUnits,
  FactoryCalendar,
  FigureGrade,
  WoodColour,
  HourRates,
  KeepBelief,
  MoistureGate,
  Operation,
  RunRule,
  SetupPractice,
  Stage,
} from '@ample-crane/core';
import { Column, Entity, PrimaryColumn } from 'typeorm';

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
  /** How long an instrument should take, days by the calendar; null: nobody wants anything. */
  @Column('real', { name: 'wanted_lead_days', nullable: true }) wantedLeadDays: number | null;
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
  /** How it is set up: length of its strings, its saddles' screws. Null: as a guitar usually is. */
  @Column('jsonb', { nullable: true }) practice: SetupPractice | null;
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
  /** What they can do, alone. */
  @Column('jsonb') skills: string[];
  /** What they are learning. */
  @Column('jsonb', { default: [] }) learning: string[];
  /** What of their skills they can teach. */
  @Column('jsonb', { default: [] }) teaches: string[];
  /** Units they read and type in; null: metric. */
  @Column('jsonb', { nullable: true }) units: ChosenUnits | null;
}

/** Something people can do, and the working days until somebody can do it alone. */
@Entity('skill')
export class SkillRow {
  @PrimaryColumn('text') name: string;
  @Column('int', { name: 'training_days' }) trainingDays: number;
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

@Entity('species')
export class SpeciesRow {
  @PrimaryColumn('text') name: string;
  @Column('real', { name: 'basic_specific_gravity' }) basicSpecificGravity: number;
  @Column('real', { name: 'radial_shrinkage_pct' }) radialShrinkagePct: number;
  @Column('real', { name: 'tangential_shrinkage_pct' }) tangentialShrinkagePct: number;
  @Column('boolean', { name: 'papers_needed' }) papersNeeded: boolean;
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
