import {
  ACTION_CHECK,
  checksDue,
  factoryDate,
  HOUR_MS,
  nearestWorkingDays,
  startOfFactoryDay,
  type BatchState,
  type Route,
} from '@ample-crane/core';
import type { NestExpressApplication } from '@nestjs/platform-express';
import request from 'supertest';
import { DataSource } from 'typeorm';
import { createApp } from '../app.ts';
import { migrate } from '../database/data-source.ts';
import { keepParts } from '../demo/kit-moment.ts';
import { optionBooks } from '../demo/order-moment.ts';
import { FACTORY } from '../demo/tarrow-works.ts';
import { PartsService } from '../kits/parts.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { ClimateService } from '../wood/climate.service.ts';
import { freshWorks, MONDAY } from './databases.ts';

/** What the mill page tells, as far as loads are cut here. */
interface LoadTold {
  code: string;
  firstPiece: boolean;
  checks: { key: string; nominal: number; firstPiece: boolean; sample: number }[];
  parts: { batch: string; pieces: number[] }[];
}
interface MillTold {
  waiting: { batch: string }[];
  tables: { load: LoadTold | null }[];
}

/** What a test that failed left open would trouble the suites after it. */
const open = new Set<Works>();
afterAll(() => Promise.all([...open].map((works) => works.close())));

/** A server on Tarrow Works' master data with a clock the test turns. */
export class Works {
  private keys = 0;

  private constructor(
    readonly app: NestExpressApplication,
    readonly databaseUrl: string,
    readonly time: { nowMs: number },
  ) {}

  /** `databaseUrl`: a second server on the same database; a fresh one otherwise. */
  static async open(databaseUrl?: string): Promise<Works> {
    const url = databaseUrl ?? (await freshWorks());
    process.env.DATABASE_URL = url;
    // Tests ask faster than people.
    process.env.REQUESTS_A_MINUTE ??= '1000000';
    const app = await createApp({ logger: false });
    if (databaseUrl) await migrate(url);
    const time = { nowMs: MONDAY };
    jest.spyOn(app.get(FactoryClock), 'now').mockImplementation(() => Promise.resolve(time.nowMs));
    await app.listen(0, '127.0.0.1');
    const works = new Works(app, url, time);
    open.add(works);
    return works;
  }

  get http() {
    return request(this.app.getHttpServer());
  }

  get address(): string {
    const address = this.app.getHttpServer().address();
    return typeof address === 'object' && address ? `http://127.0.0.1:${address.port}` : '';
  }

  key(): string {
    return `test-key-${(this.keys += 1)}-${process.pid}`;
  }

  /** Hours pass. */
  later(hours: number): void {
    this.time.nowMs += hours * HOUR_MS;
  }

  line(line: string, key = this.key()) {
    return this.http.post('/api/log/line').send({ key, by: 'ostrander', line });
  }

  file(batch: string, ...entries: object[]) {
    return this.http.post('/api/log').send({ key: this.key(), by: 'ostrander', batch, entries });
  }

  /** Files a line that must be accepted, and gives its sentence. */
  async said(line: string): Promise<string> {
    const { body, status } = (await this.line(line)) as { status: number; body: { sentence?: string } };
    if (status !== 200) throw new Error(`'${line}' was answered ${status}: ${JSON.stringify(body)}`);
    return body.sentence ?? '';
  }

  /** The first working day in 60 days. */
  get dueAt(): string {
    const date = factoryDate(FACTORY.calendar, this.time.nowMs + 60 * 24 * HOUR_MS);
    const { after = date } = nearestWorkingDays(FACTORY.calendar, date);
    return new Date(startOfFactoryDay(FACTORY.calendar, after) + 15 * HOUR_MS).toISOString();
  }

  /** Opens a batch and gives its code. */
  async openRack(kind: string, quantity = 12, model = 'Bowline'): Promise<string> {
    const { body, status } = (await this.http
      .post('/api/batches')
      .send({ key: this.key(), by: 'ostrander', kind, model, quantity, dueAt: this.dueAt })) as {
      status: number;
      body: { entries: { batch: string }[] };
    };
    if (status !== 200) throw new Error(`opening was answered ${status}: ${JSON.stringify(body)}`);
    return body.entries[0]?.batch ?? '';
  }

  /** Measures what is due of the pieces that are worked on, all of it as it should be. */
  async measure(batch: string): Promise<void> {
    const { body } = (await this.http.get(`/api/batches/${batch}`)) as {
      body: { state: BatchState; route: Route };
    };
    const { state, route } = body;
    for (const operation of route.operations) {
      const pieces = state.pieces.filter(
        (piece) => piece.operation === operation.key && ['inHand', 'waiting'].includes(piece.standing),
      );
      if (pieces.length === 0) continue;
      for (const { check, open } of checksDue(state, { operation, pieces })) {
        const values = open.map(() => check.nominal);
        const at = { operation: operation.key, pieces: open };
        await this.file(
          batch,
          check.key === ACTION_CHECK
            ? { type: 'measure', ...at, valuesMm: values }
            : { type: 'check', ...at, check: check.key, values },
        );
      }
    }
  }

  /** The store is kept from now on: so many of every part, and what each model wants of them. */
  async stocked(quantity = 10_000): Promise<void> {
    const parts = this.app.get(PartsService);
    await this.app.get(DataSource).transaction(async (manager) => {
      const [{ books } = { books: 0 }] = await manager.query<{ books: number }[]>(
        'SELECT count(*)::int AS books FROM option_book',
      );
      if (books === 0) await optionBooks(manager, this.time.nowMs);
      await keepParts({ manager, parts, nowMs: this.time.nowMs }, [], 1);
    });
    for (const { code } of (await this.http.get('/api/parts')).body as { code: string }[]) {
      const asked = { type: 'part-count' as const, quantity };
      const filed = await parts.change({ key: this.key(), by: 'quill', part: code, asked });
      if ('refused' in filed) throw new Error(filed.refused);
    }
    this.later(0.1);
  }

  /** Accepts a rack on the bench, and picks its kits out of a store that is kept from then on. */
  async kitted(batch: string): Promise<void> {
    if (((await this.http.get('/api/parts')).body as object[]).length === 0) await this.stocked();
    await this.said(`${batch} kit`);
    await this.said(`${batch} accept`);
  }

  /** Cuts what of a batch waits for a mill, load by load, measured at its nominal sizes. */
  async mill(batch: string, station = 'body-mill'): Promise<void> {
    for (;;) {
      const { body } = (await this.http.get(`/api/mill/${station}`)) as { body: MillTold };
      if (!body.waiting.some((one) => one.batch === batch)) return;
      await this.said(`${batch} ${station.replace('-', ' ')} start`);
      const load = (await this.measureLoads(station)).find((one) =>
        one.parts.some((part) => part.batch === batch),
      );
      if (!load) throw new Error(`${batch} was started and lies on no table of ${station}`);
      const ended = (await this.http
        .post(`/api/loads/${load.code}/end`)
        .send({ key: this.key(), by: 'dorrit', scrap: [] })) as { status: number; body: object };
      if (ended.status !== 200) throw new Error(`${load.code} was not ended: ${JSON.stringify(ended.body)}`);
    }
  }

  /** Measures the loads that lie on the tables of a mill, all of it as it should be; gives them. */
  async measureLoads(station = 'body-mill'): Promise<LoadTold[]> {
    const { body } = (await this.http.get(`/api/mill/${station}`)) as { body: MillTold };
    const loads = body.tables.flatMap(({ load }) => load ?? []);
    for (const { checks, firstPiece, parts } of loads)
      for (const { key, nominal, sample } of checks.filter((one) => one.firstPiece || !firstPiece)) {
        let left = sample;
        for (const { batch, pieces } of parts) {
          const measured = pieces.slice(0, left);
          left -= measured.length;
          const values = measured.map(() => nominal);
          if (values.length > 0)
            await this.file(batch, { type: 'check', check: key, values, pieces: measured });
        }
      }
    return loads;
  }

  /** Air of one temperature in a room, hour by hour, from `hours` ago until now. */
  async air(room: string, temperatureC: number, hours: number): Promise<void> {
    const readings = Array.from({ length: hours + 1 }, (_, i) => ({
      room,
      atMs: this.time.nowMs - i * HOUR_MS,
      temperatureC,
      relativeHumidityPct: 45,
    }));
    await this.app.get(ClimateService).keep(readings);
  }

  async close(): Promise<void> {
    if (open.delete(this)) await this.app.close();
  }
}
