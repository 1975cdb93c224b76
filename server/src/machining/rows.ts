import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

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
