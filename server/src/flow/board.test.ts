import { DataSource } from 'typeorm';
import { HOUR_MS } from '@ample-crane/core';
import { Works } from '../testing/works.ts';
import type { BoardDto, RackLineDto, StageRowDto } from './board.dto.ts';
import type { FloorDto } from './floor.dto.ts';
import type { FlowDto } from './flow.dto.ts';

let works: Works;
beforeEach(async () => {
  works = await Works.open();
});
afterEach(() => works.close());

const floor = async (): Promise<FloorDto> => (await works.http.get('/api/floor')).body as FloorDto;
const board = async (): Promise<BoardDto> => (await works.http.get('/api/board')).body as BoardDto;
const stage = async (name: string): Promise<StageRowDto[]> =>
  (await works.http.get(`/api/stages/${name}`).expect(200)).body as StageRowDto[];
const flow = async (): Promise<FlowDto> => (await works.http.get('/api/flow?days=5')).body as FlowDto;
const titles = async (): Promise<string[]> => (await board()).calls.map((call) => call.title);

/** A rack of bodies that waits at the mill. */
async function atTheMill(quantity = 12): Promise<string> {
  const code = await works.openRack('B', quantity);
  works.later(0.1);
  await works.said(`${code} end because the test begins here`);
  return code;
}

describe('the floor', () => {
  it('says by its numbers that nothing is open', async () => {
    const seen = await floor();
    expect(seen).toMatchObject({
      factory: 'Tarrow Works',
      racks: [],
      operations: [],
      constraint: null,
      peopleIn: 22,
      peopleAll: 24,
    });
    expect(seen.stages.every((one) => one.pieces === 0)).toBe(true);
    expect(seen.shift).toEqual({ name: 'A', endMs: works.time.nowMs + 7.5 * HOUR_MS });
    expect(await board()).toMatchObject({ racks: 0, calls: [] });
  });

  it('counts the hours in front of a station by the route: two loads of the body mill and their set-ups', async () => {
    await atTheMill();
    await atTheMill();
    const mill = (await floor()).stations.find((station) => station.code === 'body-mill');
    expect(mill?.hoursWaiting).toBeCloseTo((2 * (30 + 150)) / 60, 6);
    expect(mill?.hoursADay).toBe(9);
  });

  it('names what a line may name: open racks with the operations of their routes, not what was taken back', async () => {
    const code = await works.openRack('B');
    const { racks, operations } = await floor();
    expect(racks).toMatchObject([{ code, seq: 1 }]);
    expect(operations.find(({ routeId }) => routeId === racks[0]?.routeId)?.operations).toContainEqual({
      key: 'mill',
      name: 'Body mill',
    });
    await works.said(`${code} undo`);
    expect((await floor()).racks).toEqual([]);
  });

  it('names the last thing filed', async () => {
    const code = await atTheMill();
    await works.said(`${code} start`);
    expect((await floor()).lastFiling).toMatchObject({
      sentence: `${code}: 1 started as L-1 on table-b1: the first piece, measure it before the rest is cut, 1 in hand and 11 waiting at Body mill`,
      by: 'ostrander',
    });
  });
});

describe('the board', () => {
  it('draws a rack at its station, and the stage draws the same', async () => {
    const code = await atTheMill();
    await works.said(`${code} start`);
    const row = (await board()).rows.find(({ station }) => station === 'body-mill');
    expect(row).toMatchObject({
      used: true,
      inHand: [{ batch: code, here: 1, done: 0, operationName: 'Body mill' }],
      waiting: [{ batch: code, here: 11, quantity: 12 }],
      moreWaiting: 0,
    });
    const { inHand, waiting } =
      (await stage('machining')).find(({ station }) => station === 'body-mill') ?? {};
    expect({ inHand, waiting }).toEqual({ inHand: row?.inHand, waiting: row?.waiting });
    await works.http.get('/api/stages/painting').expect(404);
  });

  it('is not sent twice while nothing changed', async () => {
    await atTheMill(2);
    const { etag } = (await works.http.get('/api/board').expect(200)).headers as { etag: string };
    await works.http.get('/api/board').set('if-none-match', etag).expect(304);
    await atTheMill(2);
    await works.http.get('/api/board').set('if-none-match', etag).expect(200);
  });

  it('is the same with and without compression, and goes compressed where that is understood', async () => {
    await atTheMill();
    for (const path of ['/api/board', '/api/floor']) {
      const as = (encoding: string) => works.http.get(path).set('accept-encoding', encoding).expect(200);
      const [zipped, plain] = [await as('gzip, deflate, br'), await as('identity')];
      expect(zipped.headers).toMatchObject({ 'content-encoding': 'gzip', 'cache-control': 'no-store' });
      expect(plain.headers['content-encoding']).toBeUndefined();
      expect(zipped.body).toEqual(plain.body);
      expect(zipped.headers['content-type']).toBe(plain.headers['content-type']);
    }
  });

  it('tells of three racks that wait and counts the others; the stage tells of all', async () => {
    for (let i = 0; i < 5; i += 1) await atTheMill(2);
    const row = (await board()).rows.find(({ station }) => station === 'body-mill');
    expect(row?.waiting).toHaveLength(3);
    expect(row?.moreWaiting).toBe(2);
    expect(row?.moreInHand).toBe(0);
    const all = (await stage('machining')).find(({ station }) => station === 'body-mill');
    expect(all?.waiting).toHaveLength(5);
    expect(all?.waiting.slice(0, 3)).toEqual(row?.waiting);
  });

  it('has a rack with its state, route and holds for whoever works on it, and its partners at the join', async () => {
    const code = await atTheMill(4);
    const rack = (await works.http.get(`/api/batches/${code}/rack`).expect(200)).body as object;
    expect(rack).toMatchObject({ code, holds: [], state: { code, quantity: 4 }, route: { kind: 'B' } });
    expect((await works.http.get(`/api/batches/${code}/partners`).expect(200)).body).toEqual([]);
    await works.http.get('/api/batches/B-999/rack').expect(404);
    await works.http.get('/api/batches/B-999/partners').expect(404);
  });
});

describe('calls', () => {
  it('come when a hold is over and go when it is ended', async () => {
    const code = await atTheMill();
    await works.mill(code);
    expect(await titles()).not.toContain(`${code} may leave Body rest`);
    works.later(49);
    expect(await titles()).toContain(`${code} may leave Body rest`);
    await works.said(`${code} end`);
    expect(await titles()).not.toContain(`${code} may leave Body rest`);
  });

  it('come when a gate must be decided, with the pieces that pass', async () => {
    const code = await works.openRack('B', 4);
    works.later(1);
    await works.air('Wood room', 21, 10);
    await works.said(`${code} read 7.1 7.2 9.4 7.3`);
    const call = (await board()).calls.find(({ kind }) => kind === 'gate-failed');
    expect(call?.actions[0]).toEqual({ label: 'End hold of the 3 that pass', line: `${code}/1,2,4 end` });
    await works.said(call?.actions[0]?.line ?? '');
    // The piece that is left was read itself: it only waits.
    const left = (await stage('wood')).flatMap(({ holds }) => holds).filter(({ batch }) => batch === code);
    expect(left.map(({ hold }) => hold)).toMatchObject([
      { positions: [3], over: false, sentence: expect.stringMatching(/^Wait: 1 read, mean 9.4 %/) as string },
    ]);
    expect((await board()).calls.filter(({ kind }) => kind === 'gate-failed')).toEqual([]);
  });

  it('do not cry about wood that only needs time, but about a room that will never dry it', async () => {
    const code = await works.openRack('B', 3);
    works.later(1);
    await works.air('Wood room', 21, 200);
    await works.said(`${code} read 9.4 9.2 9.6`);
    expect((await board()).calls.filter(({ kind }) => kind === 'gate-failed')).toEqual([]);
    const source = works.app.get(DataSource);
    await source.query("UPDATE climate_hour SET relative_humidity_pct = 75 WHERE room = 'Wood room'");
    const call = (await board()).calls.find(({ kind }) => kind === 'gate-failed');
    expect(call?.detail).toMatch(/Not in this room as its air is/);
  });

  it('come when a batch cannot be in time any more', async () => {
    const code = await works.openRack('B', 12);
    expect(await titles()).toEqual([`${code} has no wood for 12 of its 12 pieces`]);
    works.later(59 * 24);
    expect((await titles()).some((title) => title.startsWith(`${code} will be`))).toBe(true);
  });
});

describe('what is said to a call', () => {
  const KEY = 'call-answer-1';
  const say = (body: object) =>
    works.http.post('/api/calls/answers').send({ key: KEY, by: 'ostrander', ...body });
  const late = async () => (await board()).calls.find(({ kind }) => kind === 'late');
  const inHours = (hours: number): string => new Date(works.time.nowMs + hours * HOUR_MS).toISOString();

  it('puts it off until its time, once however often it is sent, and brings it back', async () => {
    await works.openRack('B', 12);
    works.later(59 * 24);
    const call = await late();
    const until = inHours(3);
    const asked = { call: call?.id, until, reason: 'the customer knows' };
    for (let i = 0; i < 2; i += 1) await say(asked).expect(200);
    expect(await late()).toBeUndefined();
    expect((await board()).putOff).toMatchObject([
      { id: call?.id, answer: { by: 'ostrander', reason: 'the customer knows', untilMs: Date.parse(until) } },
    ]);
    const [{ n }] = await works.app.get(DataSource).query('SELECT count(*)::int AS n FROM call_answer');
    expect(n).toBe(1);
    works.later(3);
    expect((await late())?.id).toBe(call?.id);
    await say({ key: 'call-answer-2', call: call?.id, until: inHours(3), reason: 'again' }).expect(200);
    await say({ key: 'call-answer-3', call: call?.id, reason: '' }).expect(200);
    expect((await late())?.answer).toBeNull();
  });

  it('gives it to somebody, whose it stays', async () => {
    const code = await works.openRack('B', 12);
    const [call] = (await board()).calls;
    expect(call?.subject).toBe(code);
    await say({ call: call?.id, to: 'venn', reason: 'you choose its wood' }).expect(200);
    expect((await board()).calls[0]?.answer).toMatchObject({ by: 'ostrander', to: 'venn', untilMs: null });
  });

  it('is refused of a call that is gone, by or to a stranger, without a reason, for a time past or far away', async () => {
    await works.openRack('B', 12);
    const [call] = (await board()).calls;
    const whys: string[] = [];
    for (const [i, wrong] of [
      { call: 'late:nowhere', until: inHours(1), reason: 'x' },
      { by: 'nobody', to: 'venn', reason: '' },
      { to: 'nobody', reason: '' },
      { until: inHours(1), reason: '  ' },
      { until: inHours(-1), reason: 'x' },
      { until: inHours(32 * 24), reason: 'x' },
    ].entries())
      whys.push(
        (
          (await say({ key: `call-wrong-${i}`, call: call?.id, ...wrong }).expect(409)).body as {
            refused: string;
          }
        ).refused,
      );
    expect(whys).toEqual([
      'this call is gone, with its cause',
      "nobody here is called 'nobody'",
      "nobody here is called 'nobody'",
      'say why it is put off',
      'a call is put off until a time to come',
      'a call is put off for 31 days at most',
    ]);
    await say({ key: 'call-wrong-9', call: call?.id, until: 'soon', reason: 'x' }).expect(400);
    expect((await board()).putOff).toEqual([]);
  });
});

describe('a board to scale', () => {
  it('says the same as its calls: what may leave, each rack once', async () => {
    const code = await atTheMill();
    await works.mill(code);
    expect((await board()).rows.flatMap(({ scale }) => scale.over)).toEqual([]);
    works.later(49);
    const { rows, calls: found } = await board();
    expect(rows.flatMap(({ scale }) => scale.over)).toEqual([code]);
    expect(found.filter(({ kind }) => kind === 'hold-over').map(({ subject }) => subject)).toEqual([code]);
  });
});

describe('the load of past days', () => {
  it('is what stood there at the end of each day, and is made again when a past day is corrected', async () => {
    const code = await atTheMill();
    works.later(24);
    const [monday] = (await flow()).load.filter((row) => row.station === 'body-mill').slice(-1);
    expect(monday).toMatchObject({ day: '2026-06-01', hoursWaiting: expect.closeTo(180 / 60, 3) as number });
    await works.said(`${code} undo`);
    const [corrected] = (await flow()).load.filter((row) => row.station === 'body-mill').slice(-1);
    expect(corrected).toMatchObject({ day: '2026-06-01', hoursWaiting: 0 });
  });

  it('is made again when something of that day is filed late', async () => {
    const code = await atTheMill();
    works.later(24);
    await flow();
    const happenedAt = new Date(works.time.nowMs - 20 * HOUR_MS).toISOString();
    const late = {
      key: works.key(),
      by: 'ostrander',
      batch: code,
      happenedAt,
      entries: [{ type: 'scrap', pieces: [1], reason: 'check' }],
    };
    await works.http.post('/api/log').send(late).expect(200);
    const scrapped = (await flow()).throughput.filter((row) => row.scrapped > 0);
    expect(scrapped).toMatchObject([{ day: '2026-06-01', station: 'body-mill', scrapped: 1 }]);
  });

  it('is counted in good pieces that left a station, once each: twelve boards on two ways to the frets are twelve', async () => {
    const neck = await works.openRack('N', 12);
    works.later(0.1);
    await works.said(`${neck} end because the test begins here`);
    const good = async (station: string): Promise<number> =>
      (await flow()).throughput
        .filter((row) => row.station === station)
        .reduce((sum, row) => sum + row.good, 0);
    expect(await good('wood-room')).toBe(0);
    await works.mill(neck, 'neck-mill');
    expect(await good('neck-mill')).toBe(12);
    works.later(30);
    await works.said(`${neck} end because rested`);
    expect(await good('wood-room')).toBe(0);
    await works.said(`${neck} done because dry`);
    expect(await good('wood-room')).toBe(12);
    // A hold that a person called ends, and the pieces are where they were.
    await works.said(`${neck} 2 hold loose dust`);
    await works.said(`${neck} end`);
    expect(await good('fret-bench')).toBe(0);
    // Slots are cut at the bench where the frets are put in later: they have not left it.
    await works.said(`${neck} start`);
    await works.said(`${neck} done`);
    expect(await good('fret-bench')).toBe(0);
  });

  it('skips days without a shift', async () => {
    works.later(24 * 7);
    expect((await flow()).days).toEqual([
      '2026-06-01',
      '2026-06-02',
      '2026-06-03',
      '2026-06-04',
      '2026-06-05',
      '2026-06-08',
    ]);
  });

  it('is asked for in days that make sense', async () => {
    await works.http.get('/api/flow?days=0').expect(400);
    await works.http.get('/api/flow?days=many').expect(400);
  });
});

describe('the board of those that are asked for', () => {
  const drawn = async (query: string): Promise<[number, number, string[]]> => {
    const said = (await works.http.get(`/api/board?${query}`).expect(200)).body as BoardDto;
    const codes = said.rows.flatMap(({ waiting, inHand, holds }) =>
      [...waiting, ...inHand, ...holds].map(({ batch }) => batch),
    );
    return [said.drawn, said.racks, [...new Set(codes)].toSorted()];
  };

  it('draws those racks alone, by model, by whose hands they are in, late ones; its calls stay those of all', async () => {
    const waiting = await atTheMill();
    const inHand = await atTheMill();
    await works.said(`${inHand} start`);
    const resting = await works.openRack('N', 12);
    expect(await drawn('model=Bowline')).toEqual([3, 3, [waiting, inHand, resting].toSorted()]);
    expect(await drawn('person=ostrander')).toEqual([1, 3, [inHand]]);
    expect(await drawn('person=venn&model=Bowline')).toEqual([0, 3, []]);
    expect(await drawn('model=Halyard')).toEqual([0, 3, []]);
    works.later(90 * 24);
    expect(await drawn('late=yes')).toEqual([3, 3, [waiting, inHand, resting].toSorted()]);
    const { calls } = (await works.http.get('/api/board?model=Halyard')).body as BoardDto;
    expect(calls).toEqual((await board()).calls);
  });

  it('is refused what nobody can ask', async () => {
    await works.http.get('/api/board?late=maybe').expect(400);
    await works.http.get(`/api/board?model=${'x'.repeat(61)}`).expect(400);
    await works.http.get('/api/board?colour=blue').expect(400);
  });
});

describe('the list of racks', () => {
  const list = async (): Promise<RackLineDto[]> =>
    (await works.http.get('/api/racks').expect(200)).body as RackLineDto[];

  it('tells of each open rack once, with the place, the hold and the lateness that board and calls tell of', async () => {
    const waiting = await atTheMill();
    const resting = await works.openRack('N', 12);
    const opened = await works.http.post('/api/batches').send({
      ...{ key: works.key(), by: 'ostrander', kind: 'B', model: 'Bowline', quantity: 6 },
      dueAt: new Date(works.time.nowMs + HOUR_MS).toISOString(),
    });
    const late = (opened.body as { entries: { batch: string }[] }).entries[0]?.batch ?? '';
    const lines = await list();
    expect(lines.map(({ batch }) => batch).toSorted()).toEqual([waiting, resting, late].toSorted());
    const of = (code: string): RackLineDto | undefined => lines.find(({ batch }) => batch === code);
    expect(of(waiting)).toMatchObject({ station: 'body-mill', standing: 'waiting', here: 12, hold: null });
    const { holds } =
      (await stage('wood')).find((row) => row.holds.some(({ batch }) => batch === resting)) ?? {};
    expect(of(resting)?.hold).toEqual(holds?.find(({ batch }) => batch === resting)?.hold);
    const called = (await board()).calls.find(({ kind }) => kind === 'late');
    const isLate = ({ earliestMs, dueMs }: RackLineDto): boolean => earliestMs !== null && earliestMs > dueMs;
    expect(lines.filter(isLate).map(({ batch }) => batch)).toEqual([late]);
    expect(called?.subject).toBe(late);
  });
});
