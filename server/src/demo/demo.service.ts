import {
  DAY_MS,
  factoryDate,
  HOUR_MS,
  instantOfClock,
  isRefusal,
  shiftDate,
  startOfFactoryDay,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { DataSource } from 'typeorm';
import { BatchRow, FactoryRow } from '../database/entities.ts';
import type { FilingRequest } from '../log/filing.ts';
import { LogService } from '../log/log.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from '../wood/climate.service.ts';
import { tarrowClimate } from './climate.ts';
import { tarrowHistory } from './history.ts';
import { writeMasterData } from './master-data.ts';
import { FACTORY } from './tarrow-works.ts';

/** One seed, one story. */
const SEED = 20_261_123;
const CLIMATE_DAYS = 100;
/** Filings written in one transaction while loading. */
const CHUNK = 250;
/** The demo's working day: a clock outside these hours is moved to the middle of them. */
const DAY_FROM = '10:00';
const DAY_TO = '14:30';
const DAY_MIDDLE = '13:20';

export type Progress = (done: string) => void;

/** Fills an empty database with Tarrow Works, by filing its history through the log. */
@Injectable()
export class DemoService {
  constructor(
    private readonly source: DataSource,
    private readonly log: LogService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly climate: ClimateService,
  ) {}

  async loadIfEmpty(progress: Progress = () => undefined): Promise<boolean> {
    if (await this.source.getRepository(FactoryRow).existsBy({ id: 1 })) return false;
    const nowMs = workingNow(Date.now());
    await this.source.transaction((manager) => writeMasterData(manager, nowMs));
    this.setup.forget();
    this.clock.forget();
    const air = tarrowClimate(nowMs - CLIMATE_DAYS * DAY_MS, nowMs, SEED);
    for (const [room, samples] of air)
      await this.climate.keep(samples.map((sample) => ({ room, ...sample })));
    progress('master data and climate');
    const history = tarrowHistory({ nowMs, seed: SEED, climateOf: (room) => air.get(room) ?? [] });
    await this.fileAll(
      history.map((filing, i) => ({ ...filing, key: `tarrow-${String(i).padStart(6, '0')}` })),
      progress,
    );
    await this.presentMoment(nowMs);
    progress('ready');
    return true;
  }

  /** Files in order, many to a transaction; the log's own rules decide each one. */
  private async fileAll(filings: (FilingRequest & { atMs: number })[], progress: Progress): Promise<void> {
    for (let from = 0; from < filings.length; from += CHUNK) {
      const chunk = filings.slice(from, from + CHUNK);
      await this.source.transaction(async (manager) => {
        for (const filing of chunk) await this.log.fileWithin(manager, filing, filing.atMs);
      });
      progress(`${Math.min(filings.length, from + CHUNK)} of ${filings.length} filings`);
    }
  }

  /** What a simulation seldom leaves behind at the very moment somebody looks: a sorted rack, a called hold, a slip. */
  private async presentMoment(nowMs: number): Promise<void> {
    const rows = await this.source
      .getRepository(BatchRow)
      .find({ where: { closed: false }, order: { code: 'ASC' } });
    const drying = rows.filter((row) => row.state?.pieces.every((piece) => piece.operation === 'dry'));
    const waiting = rows.find(
      (row) =>
        row.state?.pieces.some((p) => p.operation === 'fret' || p.operation === 'assemble') &&
        row.kind !== 'B',
    );
    const sorted = drying.find((row) => (row.state?.quantity ?? 0) >= 8);
    const file = async (name: string, filing: Omit<FilingRequest, 'key'>): Promise<void> => {
      const outcome = await this.log.file({ ...filing, key: `tarrow-now-${name}` });
      if (isRefusal(outcome)) throw new Error(`demo: ${name} was refused: ${outcome.refused}`);
    };
    if (sorted?.state) {
      const pieces = sorted.state.pieces.map((piece) => piece.position);
      const valuesPct = pieces.map((_, i) => (i % 4 === 3 ? 8.8 + (i % 3) / 10 : 7.2 + (i % 5) / 10));
      await file('sorted', {
        by: 'venn',
        batch: sorted.code,
        atMs: nowMs - HOUR_MS,
        actions: [{ type: 'read', valuesPct, pieces }],
      });
    }
    const piece = waiting?.state?.pieces.find((p) => p.standing === 'waiting');
    if (waiting && piece) {
      await file('called', {
        by: 'pike',
        batch: waiting.code,
        atMs: nowMs,
        actions: [
          {
            type: 'hold',
            operation: piece.operation,
            pieces: [piece.position],
            reason: 'dent by the heel, inspector to look',
          },
        ],
      });
    }
  }
}

/** The real instant when it lies within Tarrow Works' day; otherwise the middle of its last working day. */
export function workingNow(realMs: number): number {
  const { calendar } = FACTORY;
  const within = (ms: number): boolean =>
    ms >= instantOfClock(calendar, ms, DAY_FROM) && ms <= instantOfClock(calendar, ms, DAY_TO);
  const weekday = (ms: number): number => DateTime.fromMillis(ms, { zone: calendar.zone }).weekday;
  if (weekday(realMs) <= 5 && within(realMs)) return realMs;
  let day = factoryDate(calendar, realMs);
  const middle = (): number => instantOfClock(calendar, startOfFactoryDay(calendar, day), DAY_MIDDLE);
  while (weekday(middle()) > 5 || middle() > realMs) day = shiftDate(day, -1);
  return middle();
}
