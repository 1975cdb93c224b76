import type { BillLine, PartState } from '@ample-crane/core';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What the log has made of a part so far. Written by filing only. */
@Entity('part')
export class PartRow {
  @PrimaryColumn('text') code: string;
  @Column('int') seq: number;
  /** Null when its making was taken back. */
  @Column('timestamptz', { name: 'counted_at', nullable: true }) countedAt: Date | null;
  /** Null when its making was taken back. */
  @Column('jsonb', { nullable: true }) state: PartState | null;
}

/** The parts of a model, at one revision. Only added to. */
@Entity('bill')
export class BillRow {
  @PrimaryColumn('text') model: string;
  @PrimaryColumn('int') revision: number;
  @Column('jsonb') lines: BillLine[];
  @Column('text') person: string;
  @Column('timestamptz', { name: 'made_at' }) madeAt: Date;
}
