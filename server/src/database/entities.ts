import type { BatchState, EntryBody, EntryType, FactoryCalendar, Operation, Stage } from '@ample-crane/core';
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
  @Column('text') construction: 'bolted' | 'set' | 'through';
  @Column('text') description: string;
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
  /** True when no piece is left to work on, or its release was taken back. */
  @Column('boolean') closed: boolean;
  /** Null when its release was taken back. */
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

@Entity('climate_reading')
export class ClimateRow {
  @PrimaryColumn('text') room: string;
  @PrimaryColumn('timestamptz') at: Date;
  @Column('real', { name: 'temperature_c' }) temperatureC: number;
  @Column('real', { name: 'relative_humidity_pct' }) relativeHumidityPct: number;
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
  BatchRow,
  FilingRow,
  LogEntryRow,
  ClimateRow,
  StationDayRow,
];
