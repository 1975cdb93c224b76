import {
  DAY_MS,
  factoryDate,
  fitMeterLine,
  hasLeft,
  HOUR_MS,
  instantOfClock,
  isRefusal,
  ovenDryMoisturePct,
  randomStream,
  shiftDate,
  startOfFactoryDay,
  type BoothSample,
  type EntryBody,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { DataSource, type EntityManager } from 'typeorm';
import { BatchRow } from '../log/rows.ts';
import { CutterChangeRow } from '../machining/rows.ts';
import { FactoryRow } from '../setup/rows.ts';
import { MeterLineRow, OvenDrySampleRow, WeighBackRow } from '../wood/rows.ts';
import type { FilingRequest } from '../log/filing.ts';
import { LogService } from '../log/log.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from '../wood/climate.service.ts';
import { MeetingService } from '../fitting/meeting.service.ts';
import { RoutesService } from '../routing/routes.service.ts';
import { RacksService } from '../floor/racks.service.ts';
import { KitsService } from '../kits/kits.service.ts';
import { PartsService } from '../kits/parts.service.ts';
import { LotsService } from '../wood/lots.service.ts';
import { OrdersService } from '../orders/orders.service.ts';
import { tarrowClimate } from './climate.ts';
import { planOf } from './finish-story.ts';
import { keepParts, kitMoment } from './kit-moment.ts';
import { optionBooks, orderMoment } from './order-moment.ts';
import { finishMoment, finishStock } from './finish-moment.ts';
import { tarrowHistory, type PlannedFiling } from './history.ts';
import { benchOf } from './tarrow-bench.ts';
import { CUTTER_CHANGES } from './tarrow-routes.ts';
import { METER_LINES, tarrowLumber, tarrowSamples, WEIGHED } from './lumber.ts';
import { writeMasterData } from './master-data.ts';
import { FACTORY, tarrowCalendar } from './tarrow-works.ts';

/** One seed, one story. */
const SEED = 20_261_123;
/** Another for what the racks went through, so that the air stays as it was when their story is told anew. */
const STORY_SEED = SEED + 23;
const CLIMATE_DAYS = 100;
/** A rack that came into the room later than this is no candidate for one that is dry now. */
const LONG_ENOUGH_TO_BE_DRY_MS = 4 * DAY_MS;
/** Instruments rest on the settling shelf so long. */
const SETTLING_DAYS = 6;
/** Of the rack that is assembled, so many are at set-up already. */
const AT_SET_UP = 4;
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
    private readonly meeting: MeetingService,
    private readonly routes: RoutesService,
    private readonly orders: OrdersService,
    private readonly parts: PartsService,
    private readonly kits: KitsService,
    private readonly floor: RacksService,
  ) {}

  /** Whether there is no factory yet. */
  async isWanted(): Promise<boolean> {
    return !(await this.source.getRepository(FactoryRow).existsBy({ id: 1 }));
  }

  async load(progress: Progress = () => undefined): Promise<void> {
    // DEMO_NOW pins the story to one day, for tests: what lies where must not depend on when they run.
    const nowMs = process.env.DEMO_NOW ? Date.parse(process.env.DEMO_NOW) : workingNow(Date.now());
    await this.source.transaction((manager) => writeMasterData(manager, nowMs, tarrowCalendar(nowMs)));
    this.setup.forget();
    this.clock.forget();
    const air = tarrowClimate(nowMs - CLIMATE_DAYS * DAY_MS, nowMs, SEED);
    for (const [room, samples] of air)
      await this.climate.keep(samples.map((sample) => ({ room, ...sample })));
    progress('master data and climate');
    await this.loadLumber(nowMs, (room) => air.get(room) ?? []);
    progress('meters and lumber');
    const history = tarrowHistory({ nowMs, seed: STORY_SEED, climateOf: (room) => air.get(room) ?? [] });
    await this.source.transaction((manager) => finishStock(manager, history, nowMs));
    await this.source.transaction(async (manager) => {
      await optionBooks(manager, nowMs);
      await keepParts({ manager, parts: this.parts, nowMs }, history, SEED);
    });
    await this.fileAll(
      history.map((filing, i) => ({ ...filing, key: `tarrow-${String(i).padStart(6, '0')}` })),
      progress,
    );
    await this.source.query(
      `SELECT setval('load_number', 1 + count(DISTINCT body->'load'->>'code')) FROM log_entry
        WHERE type = 'start' AND body ? 'load'`,
    );
    await this.changedCutters(nowMs);
    await this.presentMoment(nowMs);
    await this.newerRoute();
    await this.source.transaction((manager) => finishMoment(manager, nowMs, SEED));
    const { parts, log, kits, floor } = this;
    await kitMoment({ parts, log, kits, floor, nowMs });
    progress('ready');
  }

  /** Cutters were changed now and then; the last changes leave each with some of its life. */
  private async changedCutters(nowMs: number): Promise<void> {
    await this.source.getRepository(CutterChangeRow).insert(
      CUTTER_CHANGES.map(({ daysAgo, ...change }, i) => ({
        ...change,
        key: `tarrow-cutter-${i}`,
        person: 'dorrit',
        at: new Date(nowMs - daysAgo * DAY_MS),
      })),
    );
  }

  /** A newer revision of one route, which the racks already under way do not follow. */
  private async newerRoute(): Promise<void> {
    const [route] = (await this.routes.ofModel('Halyard')).filter(({ kind }) => kind === 'N');
    if (!route) throw new Error('demo: Halyard has no necks');
    const operations = route.operations.map((operation) =>
      operation.key === 'rest' && operation.mode === 'hold' && operation.rule.rule === 'elapsed'
        ? { ...operation, rule: { ...operation.rule, hours: 4 * 24 } }
        : operation.key === 'fret' && operation.mode === 'attended'
          ? { ...operation, pieceMinutes: 27 }
          : operation,
    );
    const made = await this.routes.revise({
      by: 'brandt',
      model: route.model,
      kind: route.kind,
      operations,
      from: route.revision,
      note: 'four days of rest since the room holds its air; frets with the new press',
    });
    if (isRefusal(made)) throw new Error(`demo: the newer route was refused: ${made.refused}`);
  }

  /** Meters with their samples and lines, the lots, and pieces weighed back. */
  private async loadLumber(
    nowMs: number,
    climateOf: (room: string) => readonly BoothSample[],
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
  private async fileAll(filings: (PlannedFiling & { key: string })[], progress: Progress): Promise<void> {
    for (let from = 0; from < filings.length; from += CHUNK) {
      const chunk = filings.slice(from, from + CHUNK);
      await this.source.transaction(async (manager) => {
        for (const filing of chunk) await this.fileOne(manager, filing);
      });
      progress(`${Math.min(filings.length, from + CHUNK)} of ${filings.length} filings`);
    }
  }

  private async fileOne(
    manager: EntityManager,
    { aged, drawn: _drawn, ...filing }: PlannedFiling & { key: string },
  ): Promise<void> {
    const { key, by, batch, atMs } = filing;
    if (!aged || batch === null) {
      await this.log.fileWithin(manager, filing, atMs);
      return;
    }
    const { routeId, ways, recipe, reason } = aged;
    const entries: { batch: string; body: EntryBody }[] = [
      { batch, body: { type: 'reroute', routeId, ways, reason } },
      { batch, body: { type: 'refinish', finish: planOf(recipe), reason } },
    ];
    await this.log.fileTogetherWithin(
      manager,
      { key, by, asked: aged },
      () => Promise.resolve(entries),
      atMs,
    );
  }

  /** What is ordered, and whose the racks are. */
  private async orderBook(nowMs: number): Promise<void> {
    const rows = await this.source
      .getRepository(BatchRow)
      .find({ where: { closed: false }, order: { code: 'ASC' } });
    await this.source.transaction((manager) =>
      orderMoment({ manager, log: this.log, orders: this.orders, nowMs }, rows, SEED),
    );
  }

  /** One instrument moved on the shelf, a few of a rack are at set-up, and the relief of one of them is high. */
  private async benchMoment(
    nowMs: number,
    rows: readonly BatchRow[],
    file: (name: string, filing: Omit<FilingRequest, 'key'>) => Promise<void>,
  ): Promise<void> {
    const at = (row: BatchRow, operation: string) =>
      (row.state?.pieces ?? []).filter((piece) => piece.operation === operation && !hasLeft(piece));
    const settled = rows.find((row) =>
      at(row, 'settle').some(({ sinceMs }) => nowMs - sinceMs > SETTLING_DAYS * DAY_MS),
    );
    const [moved] = settled ? at(settled, 'settle') : [];
    if (settled && moved) {
      const [relief, bass, treble] = benchOf(settled.model).again.map(({ nominal }) => nominal) as [
        number,
        number,
        number,
      ];
      const values = {
        relief,
        'action-bass': hundredth(bass + 0.21),
        'action-treble': hundredth(treble + 0.13),
      };
      await file('moved', {
        ...{ by: 'wick', batch: settled.code, atMs: nowMs - HOUR_MS },
        actions: [{ type: 'sheet', operation: 'settle', pieces: [moved.position], values }],
      });
    }
    const next = rows.find(
      (row) => at(row, 'assemble').filter(({ standing }) => standing === 'inHand').length > AT_SET_UP,
    );
    if (!next) return;
    const early = at(next, 'assemble')
      .filter(({ standing }) => standing === 'inHand')
      .slice(0, AT_SET_UP);
    const pieces = early.map(({ position }) => position);
    const begunMs = Math.max(...early.map(({ sinceMs }) => sinceMs));
    const part = (share: number): number => begunMs + Math.round(share * (nowMs - begunMs));
    const [first = 1, second = 2] = pieces;
    const filing = { by: 'lorne', batch: next.code };
    await file('assembled', {
      ...{ by: 'fenn', batch: next.code, atMs: part(0.4) },
      actions: [{ type: 'done', operation: 'assemble', pieces }],
    });
    await file('set-up', {
      ...filing,
      atMs: part(0.5),
      actions: [{ type: 'start', operation: 'setup', pieces: [first, second] }],
    });
    const { checks } = benchOf(next.model);
    const good = Object.fromEntries(checks.map(({ key, nominal }) => [key, nominal]));
    await file('relief', {
      ...filing,
      atMs: part(0.9),
      actions: [
        {
          type: 'sheet',
          operation: 'setup',
          pieces: [first],
          values: { relief: 0.36, 'action-bass': good['action-bass'] ?? 0 },
        },
        {
          type: 'sheet',
          operation: 'setup',
          pieces: [second],
          values: good,
          note: 'nut slots filed, string 3',
        },
      ],
    });
  }

  /** The next set-neck bodies and necks that meet, every piece measured and nothing paired yet. */
  private async measuredPair(
    nowMs: number,
    file: (name: string, filing: Omit<FilingRequest, 'key'>) => Promise<void>,
  ): Promise<void> {
    const { forecast } = await this.meeting.meetings();
    const pair = forecast.meetings.find(({ model }) => model === 'Bowline');
    if (!pair) return;
    for (const [batch, check, aboutMm, seed] of [
      [pair.host, 'pocket-width', 56, 41],
      [pair.guest, 'heel-width', 55.9, 42],
    ] as const) {
      const row = await this.source.getRepository(BatchRow).findOneByOrFail({ code: batch });
      const pieces = (row.state?.pieces ?? []).filter((one) => !hasLeft(one)).map((one) => one.position);
      const values = spreadWidths(pieces.length, aboutMm, seed);
      await file(`measured-${batch}`, {
        by: 'oakes',
        batch,
        atMs: nowMs - HOUR_MS / 2,
        actions: [{ type: 'check', check, values, pieces }],
      });
    }
  }

  /** Two pairs that were told to meet before the mill's spindle went to service, and now wait for each other needlessly. */
  private async crossedPartners(): Promise<void> {
    const { forecast } = await this.meeting.meetings();
    const coming = forecast.meetings.filter(({ model, short }) => model === 'Halyard' && short === null);
    const [first, last] = [coming.at(-3), coming.at(-1)];
    if (!first || !last || first === last) return;
    const outcome = await this.meeting.tell({
      key: 'tarrow-now-crossed',
      by: 'brandt',
      meets: [
        { host: first.host, guest: last.guest },
        { host: last.host, guest: first.guest },
      ],
    });
    if (isRefusal(outcome)) throw new Error(`demo: the partners were refused: ${outcome.refused}`);
  }

  /** What a simulation seldom leaves behind at the very moment somebody looks: a sorted rack, a called hold, a slip. */
  private async presentMoment(nowMs: number): Promise<void> {
    const rows = await this.source
      .getRepository(BatchRow)
      .find({ where: { closed: false }, order: { code: 'ASC' } });
    const drying = rows.filter((row) =>
      row.state?.pieces.every(
        (piece) => piece.operation === 'dry' && nowMs - piece.sinceMs > LONG_ENOUGH_TO_BE_DRY_MS,
      ),
    );
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
      const valuesPct = pieces.map((_, i) => (i % 4 === 3 ? 8.8 + (i % 3) / 10 : 8 + (i % 4) / 10));
      await file('sorted', {
        by: 'venn',
        batch: sorted.code,
        atMs: nowMs - HOUR_MS,
        actions: [{ type: 'read', valuesPct, pieces }],
      });
    }
    // Two racks are dry and wait for the mills; one that was read wet too lately to be believed rests on.
    for (const [kind, back] of [
      ['B', 1],
      ['N', 2],
    ] as const) {
      const dry = drying.filter((row) => row.kind === kind && row.code !== sorted?.code).at(-back);
      if (!dry?.state) continue;
      const pieces = dry.state.pieces.map((one) => one.position);
      const valuesPct = pieces.map((_, i) => 7.9 + ((i * 3) % 5) / 10);
      await file(`dry-${kind}`, {
        by: 'venn',
        batch: dry.code,
        atMs: nowMs - 2 * HOUR_MS,
        actions: [{ type: 'read', valuesPct, pieces }],
      });
      const ended = await this.log.file({
        ...{ key: `tarrow-now-ended-${kind}`, by: 'venn', batch: dry.code },
        ...{ atMs: nowMs - HOUR_MS, actions: [{ type: 'end' }] },
      });
      if (isRefusal(ended) && ended.code !== 'hold-not-over')
        throw new Error(`demo: the end of ${dry.code} was refused: ${ended.refused}`);
    }
    await this.benchMoment(nowMs, rows, file);
    await this.orderBook(nowMs);
    await this.measuredPair(nowMs, file);
    await this.crossedPartners();
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

const hundredth = (value: number): number => Math.round(100 * value) / 100;

/** Widths that spread as much as a shop's do when nobody watches: some pairs fit at random, most by measurement. */
const spreadWidths = (count: number, aboutMm: number, seed: number): number[] => {
  const random = randomStream(seed);
  return Array.from({ length: count }, () => Math.round(100 * random.normal(aboutMm, 0.032)) / 100);
};

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
