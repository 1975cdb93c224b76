import { ReplayCheckService } from '../log/replay-check.service.ts';
import { Works } from '../testing/works.ts';

let works: Works;
beforeAll(async () => {
  process.env.MACHINES = 'off';
  works = await Works.open();
});
afterAll(() => works.close());

interface Answer<T> {
  status: number;
  body: T & { refused?: string; code?: string };
}
interface Side {
  batch: string;
  pieces: { position: number; valueMm: number | null; partner: string | null; gapMm: number | null }[];
  movesMm: number | null;
}
interface Pairing {
  windowMm: { low: number; high: number };
  roomEmcPct: number | null;
  host: Side;
  guest: Side;
}

/** Set-neck bodies or necks that stand at their join. */
async function atJoin(kind: 'B' | 'N', quantity: number): Promise<string> {
  const code = await works.openRack(kind, quantity);
  const words =
    kind === 'B'
      ? ['end because dry', 'mill', 'end because rested']
      : [
          ...['end because dry', 'mill', 'end because rested', 'done because dry'],
          ...['start', 'done', 'start', 'done', 'end because warm', 'start', 'done', 'start', 'done'],
        ];
  for (const word of words) {
    works.later(0.1);
    if (word === 'mill') {
      // Proved by hand: nothing is measured yet.
      while ((await works.file(code, { type: 'start', because: 'proved by hand' })).status === 200)
        await works.file(code, { type: 'done', because: 'measured at the join' });
    } else {
      if (word === 'done') await works.measure(code);
      await works.said(`${code} ${word}`);
    }
  }
  return code;
}
const check = (batch: string, key: string, values: number[]) =>
  works.file(batch, { type: 'check', check: key, values, pieces: values.map((_, i) => i + 1) });
const pairing = async (host: string, guest: string): Promise<Answer<Pairing>> =>
  await works.http.get(`/api/pairings/${host}/${guest}`);
const filePairs = (host: string, guest: string, pairs: [number, number][], allow = false) =>
  works.http.post(`/api/pairings/${host}/${guest}`).send({
    ...{ key: works.key(), by: 'oakes', allow },
    pairs: pairs.map(([one, other]) => ({ host: one, guest: other })),
  }) as unknown as Promise<Answer<object>>;
const tell = (...meets: [string, string][]) =>
  works.http.post('/api/meetings').send({
    ...{ key: works.key(), by: 'brandt' },
    meets: meets.map(([host, guest]) => ({ host, guest })),
  }) as unknown as Promise<Answer<object>>;

describe('measured pairing', () => {
  let bodies = '';
  let necks = '';
  beforeAll(async () => {
    bodies = await atJoin('B', 3);
    necks = await atJoin('N', 3);
  });

  it('shows what is measured of both, and what is not', async () => {
    await check(bodies, 'pocket-width', [56, 56.03, 56.06]);
    const { body } = await pairing(bodies, necks);
    expect(body.windowMm).toEqual({ low: 0.05, high: 0.15 });
    expect(body.host.pieces.map(({ valueMm }) => valueMm)).toEqual([56, 56.03, 56.06]);
    expect(body.guest.pieces.map(({ valueMm }) => valueMm)).toEqual([null, null, null]);
    const { refused } = (await filePairs(bodies, necks, [[1, 1]])).body;
    expect(refused).toBe(`${necks}/01 is not measured: measure it, or leave it out`);
  });

  it('is filed on both sides, from the measurements and not from whoever asks', async () => {
    await check(necks, 'heel-width', [55.96, 55.9, 55.93]);
    expect(
      (
        await filePairs(bodies, necks, [
          [1, 2],
          [2, 3],
          [3, 1],
        ])
      ).status,
    ).toBe(200);
    const { body } = await pairing(bodies, necks);
    expect(body.host.pieces.map(({ partner, gapMm }) => [partner, gapMm])).toEqual([
      [`${necks}/02`, 0.1],
      [`${necks}/03`, 0.1],
      [`${necks}/01`, 0.1],
    ]);
    expect(body.guest.pieces.map(({ partner }) => partner)).toEqual([
      `${bodies}/03`,
      `${bodies}/01`,
      `${bodies}/02`,
    ]);
  });

  it('stands in the way of a pairing with another rack, and is taken back on both', async () => {
    const others = await atJoin('N', 3);
    await check(others, 'heel-width', [55.9, 55.9, 55.9]);
    expect((await filePairs(bodies, others, [[1, 1]])).body.refused).toMatch(
      /is paired with .*: undo that pairing first/,
    );
    await works.said(`${necks} undo`);
    const { body } = await pairing(bodies, necks);
    expect([...body.host.pieces, ...body.guest.pieces].every(({ partner }) => partner === null)).toBe(true);
    await filePairs(bodies, necks, [
      [1, 2],
      [2, 3],
      [3, 1],
    ]);
  });

  it('is checked again at the join: a tenon that swelled is refused, or joined for a reason', async () => {
    await works.file(necks, { type: 'check', check: 'heel-width', values: [55.99], pieces: [2] });
    const refused = (await works.line(`${bodies} join ${necks}`)) as Answer<object>;
    expect(refused.body.refused).toBe(
      `${bodies}/01 with ${necks}/02: a gap of 0.01 mm, wanted is 0.05–0.15 mm: pair them again, or say why`,
    );
    await works.said(`${bodies} join ${necks} because planed at the bench`);
    const made = bodies.replace('B', 'I');
    const { body } = (await works.http.get(`/api/batches/${made}`)) as Answer<{
      state: { pieces: { parents: string[] }[] };
    }>;
    expect(body.state.pieces.map(({ parents }) => parents)).toEqual([
      [`${bodies}/01`, `${necks}/02`],
      [`${bodies}/02`, `${necks}/03`],
      [`${bodies}/03`, `${necks}/01`],
    ]);
  });

  it('of 12 bodies and 11 necks says which are missing', async () => {
    const twelve = await atJoin('B', 12);
    const eleven = await atJoin('N', 11);
    const { body } = (await works.line(`${twelve} join ${eleven} 12`)) as Answer<object>;
    expect(body.refused).toBe(`only 11 of ${eleven} are at Neck joint, 12 wanted`);
  });

  it('allows for the wood when it is asked to, and remembers that at the join', async () => {
    const [one, other] = [await atJoin('B', 1), await atJoin('N', 1)];
    await works.air('Fitting', 21, 4);
    await works.file(one, { type: 'read', valuesPct: [12], pieces: [1] });
    await works.file(other, { type: 'read', valuesPct: [8], pieces: [1] });
    await check(one, 'pocket-width', [56.07]);
    await check(other, 'heel-width', [55.87]);
    const { body } = await pairing(one, other);
    // Mahogany, 4.5 % tangential, from 12 % to the room's EMC of 8.4: 56 · 0.045 · (8.4 − 12) / 30 = −0.30 mm.
    expect(body.roomEmcPct).toBeCloseTo(8.4, 0);
    expect(body.host.movesMm).toBeCloseTo((56 * 0.045 * ((body.roomEmcPct ?? 0) - 12)) / 30, 3);
    const moves = (body.host.movesMm ?? 0) - (body.guest.movesMm ?? 0);
    await filePairs(one, other, [[1, 1]], true);
    const after = (await pairing(one, other)).body.host.pieces[0];
    expect(after?.gapMm).toBeCloseTo(0.2 + moves, 2);
    const refused = ((await works.line(`${one} join ${other}`)) as Answer<object>).body.refused;
    expect(refused).toContain(`a gap of ${(0.2 + moves).toFixed(2)} mm`);
  });

  it('is not for racks that do not join, or are not there', async () => {
    expect((await pairing('B-1', necks)).status).toBe(404);
    expect((await pairing(necks, bodies)).status).toBe(404);
    const halyard = await works.openRack('N', 2, 'Halyard');
    expect((await pairing(bodies, halyard)).status).toBe(404);
    expect((await filePairs(bodies, necks, [[1, 0]])).status).toBe(400);
  });
});

describe('meeting', () => {
  interface Meetings {
    forecast: {
      meetings: { host: string; guest: string; told: boolean; waits: string | null }[];
      swaps: { meets: { host: string; guest: string }[] }[];
    };
  }
  const meetings = async (): Promise<Meetings['forecast']> =>
    ((await works.http.get('/api/meetings')) as Answer<Meetings>).body.forecast;

  it('is by due date until somebody says otherwise; whoever is left is free again', async () => {
    const [b1, n1] = [await works.openRack('B', 6, 'Ratline'), await works.openRack('N', 6, 'Ratline')];
    works.later(2);
    const [b2, n2] = [await works.openRack('B', 6, 'Ratline'), await works.openRack('N', 6, 'Ratline')];
    const pairs = async () =>
      (await meetings()).meetings
        .filter(({ host }) => [b1, b2].includes(host))
        .map(({ host, guest }) => `${host} ${guest}`);
    expect((await pairs()).sort()).toEqual([`${b1} ${n1}`, `${b2} ${n2}`]);
    expect((await tell([b1, n2], [b2, n1])).status).toBe(200);
    expect((await pairs()).sort()).toEqual([`${b1} ${n2}`, `${b2} ${n1}`]);
    // B-1 is told to meet another: N-2, which it leaves, is anybody's.
    expect((await tell([b1, n1])).status).toBe(200);
    expect((await pairs()).sort()).toEqual([`${b1} ${n1}`, `${b2} ${n2}`]);
    await works.said(`${b1} undo`);
    expect((await pairs()).sort()).toEqual([`${b1} ${n2}`, `${b2} ${n1}`]);
  });

  it('offers the swap that helps when the mill made one of them late', async () => {
    const [b1, n1] = [await works.openRack('B', 8, 'Halyard'), await works.openRack('N', 8, 'Halyard')];
    const [b2, n2] = [await works.openRack('B', 8, 'Halyard'), await works.openRack('N', 8, 'Halyard')];
    // The second bodies and the first necks are on their way; the others have not begun.
    for (const code of [b2, n1]) await works.said(`${code} end because dry`);
    await tell([b1, n1], [b2, n2]);
    const swap = (await meetings()).swaps.find(({ meets }) => meets.some(({ host }) => host === b1));
    expect(swap?.meets.map(({ host, guest }) => `${host} ${guest}`).sort()).toEqual([
      `${b1} ${n2}`,
      `${b2} ${n1}`,
    ]);
    expect((await tell([b1, n2], [b2, n1])).status).toBe(200);
    expect((await meetings()).swaps.filter(({ meets }) => meets.some(({ host }) => host === b1))).toEqual([]);
  });

  it('is refused across models, of two bodies, or of one with two', async () => {
    const [bowline, halyard] = [await works.openRack('B', 2), await works.openRack('N', 2, 'Halyard')];
    expect((await tell([bowline, halyard])).body.refused).toMatch(/is Bowline, .* Halyard: they cannot meet/);
    const second = await works.openRack('B', 2);
    expect((await tell([bowline, second])).body.refused).toMatch(/both of kind B/);
    const neck = await works.openRack('N', 2);
    expect((await tell([bowline, neck], [second, neck])).body.refused).toMatch(/one other only/);
    expect((await tell([bowline, 'N-1'])).status).toBe(404);
  });
});

describe('presses', () => {
  interface Presses {
    beds: {
      code: string;
      free: number;
      nextFreeMs: number | null;
      lying: { batch: string; pieces: number[]; endMs: number }[];
    }[];
    coming: { batch: string; state: string }[];
  }
  const presses = async (): Promise<Presses> =>
    ((await works.http.get('/api/presses')) as Answer<Presses>).body;

  /** Necks whose boards are just glued, on their hold in no noted place. */
  async function glued(quantity: number): Promise<string> {
    const code = await works.openRack('N', quantity);
    for (const word of [
      ...['end because dry', 'mill', 'end because rested', 'done because dry'],
      ...['start', 'done', 'start', 'done'],
    ]) {
      works.later(0.05);
      if (word === 'mill') await works.mill(code, 'neck-mill');
      else await works.said(`${code} ${word}`);
    }
    return code;
  }

  it('fill place by place, run their clock, and come free', async () => {
    const code = await glued(8);
    expect((await presses()).coming).toContainEqual(
      expect.objectContaining({ batch: code, state: 'unplaced' }),
    );
    await works.said(`${code} place press-1`);
    const bed = (await presses()).beds.find((one) => one.code === 'press-1');
    expect(bed).toMatchObject({ free: 0 });
    expect(bed?.lying[0]).toMatchObject({ batch: code, pieces: [1, 2, 3, 4, 5, 6, 7, 8] });
    // Seventy minutes from the moment the glue-up was done.
    expect((bed?.nextFreeMs ?? 0) - works.time.nowMs).toBeCloseTo(70 * 60_000, -3);
    const other = await glued(4);
    const full = (await works.line(`${other} place press-1`)) as Answer<object>;
    expect(full.body).toMatchObject({
      code: 'over-places',
      refused: 'Board press 1 has 0 of 8 places free, 4 do not fit',
    });
    const early = (await works.line(`${code} end`)) as Answer<object>;
    expect(early.body.code).toBe('hold-not-over');
    works.later(14);
    await works.said(`${code} end`);
    expect((await presses()).beds.find((one) => one.code === 'press-1')).toMatchObject({
      free: 8,
      lying: [],
    });
  });

  it('filled again since cannot get back what was taken out: that correction is refused', async () => {
    const first = await glued(8);
    await works.said(`${first} place press-1`);
    works.later(2);
    await works.said(`${first} end`);
    const second = await glued(4);
    await works.said(`${second} place press-1`);
    const { status, body } = (await works.line(`${first} undo`)) as Answer<object>;
    expect([status, body.refused]).toEqual([
      409,
      'Board press 1 has been filled since: 12 would lie in its 8 places',
    ]);
    works.later(2);
    await works.said(`${second} end`);
    await works.said(`${first} undo`);
    await works.said(`${first} end`);
  });

  it('taken out early keep the reason', async () => {
    const code = await glued(2);
    await works.said(`${code} place press-2`);
    works.later(0.2);
    await works.said(`${code} end because clamp slipped`);
    const { body } = (await works.http.get(`/api/batches/${code}`)) as Answer<{
      state: { overrides: { reason: string; against: string }[] };
    }>;
    expect(body.state.overrides.at(-1)).toMatchObject({
      reason: 'clamp slipped',
      against: expect.stringMatching(/of glue left/) as string,
    });
  });

  it('take no pieces of another station, and are not invented', async () => {
    const code = await glued(2);
    expect(((await works.line(`${code} place carousel-1`)) as Answer<object>).body.refused).toMatch(
      /does not belong to/,
    );
    expect(((await works.line(`${code} place press-9`)) as Answer<object>).body.refused).toBe(
      "there is no table or press 'press-9'",
    );
  });

  it('filled by two at once never hold more than their places', async () => {
    const codes = [await glued(5), await glued(5)];
    const answers = await Promise.all(
      codes.map((code) => works.line(`${code} place press-2`) as unknown as Promise<Answer<object>>),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await presses()).beds.find((one) => one.code === 'press-2')?.free).toBe(3);
  });
});

it('replays to the tables as they stand after all of this', async () => {
  const { wrong, batches } = await works.app.get(ReplayCheckService).disagreements();
  expect([wrong, batches > 10]).toEqual([[], true]);
});
