import {
  DAY_MS,
  factoryDate,
  fitMeterLine,
  HOUR_MS,
  instantOfClock,
  isRefusal,
  ovenDryMoisturePct,
  shiftDate,
  startOfFactoryDay,
  type ClimateSample,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { DataSource } from 'typeorm';
import { BatchRow, FactoryRow, MeterLineRow, OvenDrySampleRow, WeighBackRow } from '../database/entities.ts';
import type { FilingRequest } from '../log/filing.ts';
import { LogService } from '../log/log.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from '../wood/climate.service.ts';
import { LotsService } from '../wood/lots.service.ts';
import { tarrowClimate } from './climate.ts';
import { tarrowHistory } from './history.ts';
import { METER_LINES, tarrowLumber, tarrowSamples, WEIGHED } from './lumber.ts';
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
    private readonly lots: LotsService,
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
    await this.loadLumber(nowMs, (room) => air.get(room) ?? []);
    progress('meters and lumber');
    const history = tarrowHistory({ nowMs, seed: SEED, climateOf: (room) => air.get(room) ?? [] });
    await this.fileAll(
      history.map((filing, i) => ({ ...filing, key: `tarrow-${String(i).padStart(6, '0')}` })),
      progress,
    );
    await this.presentMoment(nowMs);
    progress('ready');
    return true;
  }

  /** Meters with their samples and lines, the lots, and pieces weighed back. */
  private async loadLumber(
    nowMs: number,
    climateOf: (room: string) => readonly ClimateSample[],
  ): Promise<void> {
    const agoOf = (days: number): Date => new Date(nowMs - days * DAY_MS);
    await this.source.transaction(async (manager) => {
      const samples = tarrowSamples(SEED);
      await manager.insert(
        OvenDrySampleRow,
        samples.map(({ daysAgo, ...sample }, i) => ({
          ...sample,
          key: `tarrow-sample-${i}`,
          person: 'venn',
          at: agoOf(daysAgo),
        })),
      );
      for (const { meter, species, daysAgo } of METER_LINES) {
        const own = samples.filter((sample) => sample.meter === meter && sample.species === species);
        const fit = fitMeterLine(
          own.map((sample) => ({ ...sample, ovenDryPct: ovenDryMoisturePct(sample) })),
        );
        if (!fit) throw new Error(`demo: the samples of ${meter} make no line`);
        const { a, b, residualSdPct, count, fromPct, toPct } = fit;
        const line = { meter, species, a, b, residualSdPct, samples: count, fromPct, toPct };
        await manager.insert(MeterLineRow, { ...line, person: 'venn', at: agoOf(daysAgo) });
      }
      await manager.insert(
        WeighBackRow,
        WEIGHED.flatMap(({ model, kind, keep, blankKg, count }) =>
          Array.from({ length: count }, (_, i) => ({
            ...{
              model,
              kind,
              key: `tarrow-weighed-${model}-${kind}-${i}`,
              piece: `${kind}-${150 + Math.floor(i / 6)}/${i + 1}`,
            },
            ...{ blankKg: blankKg + 0.02 * (i % 5), person: 'fenn', at: agoOf(20 - i) },
            finishedKg: (blankKg + 0.02 * (i % 5)) * (keep + 0.008 * ((i % 3) - 1)),
          })),
        ),
      );
    });
    const filings = tarrowLumber({ nowMs, seed: SEED, climateOf });
    for (let from = 0; from < filings.length; from += CHUNK) {
      await this.source.transaction(async (manager) => {
        for (const [i, { atMs, by, lot, draft }] of filings.slice(from, from + CHUNK).entries()) {
          const key = `tarrow-lumber-${String(from + i).padStart(5, '0')}`;
          await this.lots.fileWithin(manager, { key, by, atMs, entries: [{ lot, draft }] }, atMs);
        }
      });
    }
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
