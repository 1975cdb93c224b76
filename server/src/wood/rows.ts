import type { LotState } from '@ample-crane/core';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

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
