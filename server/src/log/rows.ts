import type { BatchState, EntryBody, EntryType } from '@ample-crane/core';
import { Column, Entity, PrimaryColumn, PrimaryGeneratedColumn } from 'typeorm';

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
