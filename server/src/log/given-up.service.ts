import type { Refusal } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { happenedMs } from '../setup/touch.ts';

export interface GivenUp {
  key: string;
  by: string;
  words: string;
  why: string;
  touchedMs: number;
  givenUpMs: number;
}

interface Row {
  key: string;
  person: string;
  words: string;
  why: string;
  touched_at: Date;
  given_up_at: Date;
}

/** So many are shown. */
const MOST_SHOWN = 200;

/** What browsers kept, the rules then refused, and its person gave up: it was touched, so it is not forgotten. */
@Injectable()
export class GivenUpService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** The same key twice is one. */
  async note(told: {
    key: string;
    by: string;
    words: string;
    request: object;
    why: string;
  }): Promise<GivenUp | Refusal> {
    const { key, by, words, request, why } = told;
    const stranger = await this.setup.stranger(by);
    if (stranger) return stranger;
    const nowMs = await this.clock.now();
    await this.source.query(
      `INSERT INTO given_up (key, person, words, request, why, touched_at, given_up_at)
       VALUES ($1, $2, $3, $4, $5, $6, $7) ON CONFLICT DO NOTHING`,
      [key, by, words, JSON.stringify(request), why, new Date(happenedMs(nowMs)), new Date(nowMs)],
    );
    const [row] = await this.source.query<Row[]>('SELECT * FROM given_up WHERE key = $1', [key]);
    if (!row) throw new Error('note: what was just noted is there');
    return seen(row);
  }

  async newest(): Promise<GivenUp[]> {
    const rows = await this.source.query<Row[]>(
      `SELECT * FROM given_up ORDER BY given_up_at DESC LIMIT ${MOST_SHOWN}`,
    );
    return rows.map(seen);
  }
}

const seen = (row: Row): GivenUp => ({
  ...{ key: row.key, by: row.person, words: row.words, why: row.why },
  touchedMs: row.touched_at.getTime(),
  givenUpMs: row.given_up_at.getTime(),
});
