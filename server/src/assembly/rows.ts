import type { SerialRange } from '@ample-crane/core';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** How serials are made; one row. */
@Entity('serial_setting')
export class SerialSettingRow {
  @PrimaryColumn('int') id: number;
  @Column('text') pattern: string;
  /** Letters that stand for a model, by its name. */
  @Column('jsonb') letters: Record<string, string>;
  /** Ranges that paper has used already. */
  @Column('jsonb', { name: 'on_paper' }) onPaper: SerialRange[];
}

/** The last number given, of a day or overall. */
@Entity('serial_number')
export class SerialNumberRow {
  @PrimaryColumn('text') scope: string;
  @Column('int') last: number;
}

/** A serial that was given, for ever. */
@Entity('serial')
export class SerialRow {
  @PrimaryColumn('text') serial: string;
  @Column('text') batch: string;
  @Column('int') position: number;
  @Column('timestamptz', { name: 'given_at' }) givenAt: Date;
}
