import type { Option, OptionRule, OrderState } from '@ample-crane/core';
import { Column, Entity, PrimaryColumn } from 'typeorm';

/** What is sold of a model, at one revision. Only added to. */
@Entity('option_book')
export class OptionBookRow {
  @PrimaryColumn('text') model: string;
  @PrimaryColumn('int') revision: number;
  @Column('jsonb') options: Option[];
  @Column('jsonb') rules: OptionRule[];
  @Column('text') person: string;
  @Column('timestamptz', { name: 'made_at' }) madeAt: Date;
}

/** What the log has made of an order so far. Written by filing only. */
@Entity('customer_order')
export class OrderRow {
  @PrimaryColumn('text') code: string;
  @Column('int') seq: number;
  @Column('boolean') closed: boolean;
  /** To be built in all. */
  @Column('int') pieces: number;
  /** Null when its placing was taken back. */
  @Column('jsonb', { nullable: true }) state: OrderState | null;
}
