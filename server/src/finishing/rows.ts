import type { BoothLimits, Recipe } from '@ample-crane/core';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

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
