import { createServer, type Server } from 'node:net';
import { DAY_MS, MINUTE_MS } from '@ample-crane/core';
import { Aedes } from 'aedes';
import { connectAsync } from 'mqtt';
import { DataSource } from 'typeorm';
import { MONDAY } from '../testing/databases.ts';
import { Works } from '../testing/works.ts';
import { ClimateService } from './climate.service.ts';
import { SensorsService, topicOf } from './sensors.service.ts';

let works: Works;
beforeEach(async () => {
  works = await Works.open();
}, 30_000);
afterEach(() => works.close());

const keep = (...readings: [minutes: number, temperatureC: number, rh?: number][]) =>
  works.app.get(ClimateService).keep(
    readings.map(([minutes, temperatureC, rh = 40]) => ({
      room: 'Wood room',
      atMs: MONDAY + minutes * MINUTE_MS,
      temperatureC,
      relativeHumidityPct: rh,
    })),
  );
interface Room {
  room: string;
  emcPct: number | null;
  drift: { hours: number } | null;
  health: { state: string };
  trouble: { nonsense: number; nonsenseSaid: string; clockOffMs: number | null } | null;
}
const room = async (name = 'Wood room'): Promise<Room | undefined> =>
  ((await works.http.get('/api/climate/rooms').expect(200)).body as Room[]).find(
    (seen) => seen.room === name,
  );
const hours = async () =>
  (
    await works.app
      .get(ClimateService)
      .spans(['Wood room'], { fromMs: 0, toMs: MONDAY + 90 * DAY_MS, hoursASpan: 1 })
  ).get('Wood room') ?? [];

describe('the climate log', () => {
  it('rolls hours up from what is believed: a jump is kept, marked, and left out', async () => {
    await keep([0, 21], [10, 21.2], [20, 48], [30, 21.4]);
    expect(await hours()).toMatchObject([
      { temperatureC: expect.closeTo(21.2, 4), lowC: 21, highC: expect.closeTo(21.4, 4) },
    ]);
    const kept = await works.app
      .get(DataSource)
      .query<{ doubt: string | null }[]>('SELECT doubt FROM climate_reading ORDER BY at');
    expect(kept.map(({ doubt }) => doubt)).toEqual([null, null, 'jump', null]);
  });

  it('keeps each reading once, makes an hour anew when a late one comes, and has a part for each month', async () => {
    expect(await keep([0, 21], [45, 23])).toBe(2);
    expect(await keep([0, 21], [45, 23], [30, 22])).toBe(1);
    expect((await hours())[0]?.temperatureC).toBeCloseTo(22, 4);
    await keep([60 * 24 * 40, 20]);
    const parts = await works.app
      .get(DataSource)
      .query<{ name: string }[]>(
        "SELECT inhrelid::regclass::text AS name FROM pg_inherits WHERE inhparent = 'climate_reading'::regclass ORDER BY 1",
      );
    expect(parts.map(({ name }) => name)).toEqual(['climate_reading_2026_06', 'climate_reading_2026_07']);
  });

  it('shows a year without hiding its extremes', async () => {
    const days: [number, number][] = Array.from({ length: 300 }, (_, i) => [-60 * 24 * i, 21]);
    await keep(...days, [-60 * 24 * 100 + 90, 29]);
    works.later(1);
    const { body } = await works.http.get('/api/climate/rooms/Wood%20room?days=365').expect(200);
    const { spans, hoursASpan } = body as {
      spans: { highC: number; temperatureC: number }[];
      hoursASpan: number;
    };
    expect(hoursASpan).toBeGreaterThan(20);
    expect(spans.length).toBeLessThan(400);
    expect(Math.max(...spans.map(({ highC }) => highC))).toBe(29);
    await works.http.get('/api/climate/rooms/attic').expect(404);
    await works.http.get('/api/climate/rooms/Wood%20room?days=9999').expect(400);
  });

  it('judges a room against its band, calls when it drifts for more than an hour, and says what that does', async () => {
    for (let hour = 72; hour > 4; hour -= 1) await keep([-60 * hour, 21.1, 38]);
    const received = await works.http.post('/api/lots').send({
      ...{
        key: works.key(),
        by: 'venn',
        species: 'hard maple',
        thicknessMm: 27,
        boardFeet: 60,
        supplier: '',
      },
      ...{
        endsSealed: true,
        dryness: 'kiln-dried',
        room: 'Wood room',
        boards: Array.from({ length: 6 }, () => ({ lengthMm: 2400, widthMm: 180 })),
      },
    });
    const lot = (received.body as { entries: { batch: string }[] }).entries[0]?.batch ?? '';
    await works.said(`${lot} read 9.6 9.7 9.5`);
    expect((await room())?.drift).toBeNull();
    for (let hour = 4; hour >= 0; hour -= 1) await keep([-60 * hour, 21.1, 58]);
    expect((await room())?.drift).toMatchObject({ hours: 5, damp: true });
    // Calls are worked out anew every 20 seconds; this one was never worked out before.
    const { body } = await works.http.get('/api/board').expect(200);
    const call = (body as { calls: { kind: string; detail: string }[] }).calls.find(
      ({ kind }) => kind === 'room-drift',
    );
    expect(call?.detail).toMatch(new RegExp(`${lot} not in this air`));
  });

  it('reads a logger’s file, names its bad rows, and adds nothing twice', async () => {
    const send = (sheet: string, goodRowsOnly = false) =>
      works.http.post('/api/climate/sheet').send({ room: 'Wood room', sheet, goodRowsOnly });
    const sheet = 'Zeit;Temp;RH\n31.05.2026 08:00;20,8;41,5\n31.05.2026 09:00;;40';
    const { body, status } = await send(sheet);
    expect(status).toBe(400);
    expect(JSON.stringify(body)).toMatch(/row 3, column temperature: the temperature is missing/);
    expect((await send(sheet, true)).body).toEqual({ kept: 1 });
    expect((await send(sheet, true)).body).toEqual({ kept: 0 });
    expect((await hours())[0]?.temperatureC).toBeCloseTo(20.8, 4);
    // 08:00 at Tarrow Works is 13:00 UTC in summer.
    expect((await hours())[0]?.atMs).toBe(Date.UTC(2026, 4, 31, 13));
    await send('time,temperature,humidity\n2030-01-01 08:00,20,40').expect(400);
  });

  it('shows a shed in a frost, and the board with it', async () => {
    await keep([0, -14, 60], [60, -15, 60]);
    works.later(1);
    expect((await room())?.emcPct).toBeGreaterThan(9);
    await works.http.get('/api/board').expect(200);
  });

  it('refuses a band upside down', async () => {
    const put = (band: object) =>
      works.http.put('/api/climate/rooms/Wood%20room').send({ key: works.key(), by: 'venn', ...band });
    await put({ lowPct: 9, highPct: 6 }).expect(400);
    await put({ lowPct: 6, highPct: 7 }).expect(200);
  });
});

describe('sensors over MQTT', () => {
  let listener: Server;
  let port = 0;
  /** A broker as a factory would have one; started again on the same port after an outage. */
  async function broker(): Promise<Aedes> {
    const own = await Aedes.createBroker();
    listener = createServer(own.handle);
    await new Promise<void>((resolve) => listener.listen(port, '127.0.0.1', resolve));
    const address = listener.address();
    port = typeof address === 'object' && address ? address.port : 0;
    return own;
  }
  async function stop(own: Aedes): Promise<void> {
    await new Promise<void>((resolve) => own.close(resolve));
    await new Promise((resolve) => listener.close(resolve));
  }
  async function publish(...messages: (object | string)[]): Promise<void> {
    const client = await connectAsync(`mqtt://127.0.0.1:${port}`);
    for (const message of messages)
      await client.publishAsync(
        topicOf('Wood room'),
        typeof message === 'string' ? message : JSON.stringify(message),
        { qos: 1 },
      );
    await client.endAsync();
  }
  async function until(done: () => Promise<boolean>): Promise<void> {
    for (let i = 0; i < 100; i += 1) {
      if (await done()) return;
      await works.app.get(SensorsService).write();
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('it did not happen within ten seconds');
  }
  const reading = (
    minutes: number,
    temperatureC: number,
    at = new Date(MONDAY + minutes * MINUTE_MS).toISOString(),
  ) => ({
    at,
    temperatureC,
    relativeHumidityPct: 40,
  });

  it('are heard; nonsense is counted, a wrong clock stamped with arrival, and an outage of the broker waited for', async () => {
    const first = await broker();
    works.app.get(SensorsService).listen(`mqtt://127.0.0.1:${port}`);
    await until(async () => {
      await publish(reading(0, 21));
      return (await hours()).length > 0;
    });
    const nonsense = async () => (await room())?.trouble?.nonsense;
    // Messages sent together may be heard in another order.
    await publish('ERR 7', { temperatureC: null, relativeHumidityPct: 40 });
    await until(async () => (await nonsense()) === 2);
    await publish({ temperatureC: 21, relativeHumidityPct: 140 });
    await publish(reading(0, 21.5, '2001-01-01T00:00:00Z'));
    await until(async () => (await room())?.trouble?.clockOffMs != null && (await nonsense()) === 3);
    expect((await room())?.trouble?.nonsenseSaid).toMatch(/relativeHumidityPct must be 0…100, got 140/);
    // The server's clock stands still here: what came with a wrong clock falls on the reading already kept.
    expect(await hours()).toMatchObject([{ atMs: MONDAY, temperatureC: 21 }]);
    await stop(first);
    const second = await broker();
    works.later(1);
    await until(async () => {
      await publish(reading(60, 22));
      return (await hours()).length === 2;
    });
    await works.app.get(SensorsService).beforeApplicationShutdown();
    await stop(second);
  }, 40_000);

  it('that fall silent or stick are called', async () => {
    await keep(...Array.from({ length: 48 }, (_, i): [number, number] => [-30 * i, 21 + (i % 5) / 10]));
    expect((await room())?.health.state).toBe('well');
    works.later(8);
    expect((await room())?.health.state).toBe('silent');
    const { body } = await works.http.get('/api/board').expect(200);
    expect((body as { calls: { title: string }[] }).calls.map(({ title }) => title)).toContain(
      'The sensor in Wood room is silent',
    );
    // From half past one to eight o'clock not a tenth of change.
    await keep(...Array.from({ length: 14 }, (_, i): [number, number] => [480 - 30 * i, 20.7]));
    expect((await room())?.health.state).toBe('stuck');
  });
});
