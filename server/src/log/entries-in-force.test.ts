import { DataSource } from 'typeorm';
import { HOUR_MS } from '@ample-crane/core';
import { Works } from '../testing/works.ts';
import { batchesOfLoad, lastFiling, loadsStarted, otherLoadLay, entriesInForce } from './entries-in-force.ts';

let works: Works;
let db: DataSource;
beforeEach(async () => {
  works = await Works.open();
  db = works.app.get(DataSource);
});
afterEach(() => works.close());

/** A rack whose moisture was found right. */
async function atTheMill(quantity: number): Promise<string> {
  const rack = await works.openRack('B', quantity);
  works.later(1);
  await works.said(`${rack} end because dry by the other meter`);
  return rack;
}
const because = 'because the fixture was proved this morning';

describe('what the log is asked', () => {
  it('is told of entries that stand, oldest first, with what their batch is', async () => {
    const rack = await atTheMill(2);
    const beganMs = works.time.nowMs;
    await works.said(`${rack} body mill start ${because}`);
    for (const width of ['56.01', '56.02', '56.03']) {
      works.later(1);
      await works.said(`${rack} check pocket-width ${width} ${width}`);
    }
    await works.said(`${rack} check pocket-depth 16`);
    await works.said(`${rack} undo`);
    const checks = await entriesInForce(db, { type: 'check', batch: rack });
    // The depth was taken back.
    expect(checks.map(({ body }) => body.values)).toEqual([
      [56.01, 56.01],
      [56.02, 56.02],
      [56.03, 56.03],
    ]);
    expect(checks[0]).toMatchObject({
      batch: rack,
      model: 'Bowline',
      kind: 'B',
      by: 'ostrander',
      operation: 'mill',
    });
    expect(checks.map(({ atMs }) => (atMs - beganMs) / HOUR_MS)).toEqual([1, 2, 3]);
  });

  it('tells only what is asked for: the newest, of each, after a moment or an entry, by what it says', async () => {
    const racks = [await atTheMill(1), await atTheMill(1)];
    for (const rack of racks) {
      await works.said(`${rack} body mill start ${because}`);
      for (const depth of ['16', '16.1']) {
        works.later(1);
        await works.said(`${rack} check pocket-depth ${depth}`);
      }
      await works.said(`${rack} check body-thickness 44.5`);
    }
    const [first = '', second = ''] = racks;
    const depths = (wanted: object) =>
      entriesInForce(db, { type: 'check', says: { check: ['pocket-depth'] }, ...wanted }).then((entries) =>
        entries.map(({ batch, body }) => `${batch} ${body.values.join()}`),
      );
    const newest = (count: number) => ({ newest: { count } });
    expect(await depths({ batch: first })).toEqual([`${first} 16`, `${first} 16.1`]);
    expect(await depths(newest(3))).toEqual([`${first} 16.1`, `${second} 16`, `${second} 16.1`]);
    expect(await depths({ batch: first, ...newest(1) })).toEqual([`${first} 16.1`]);
    expect(await depths({ afterMs: works.time.nowMs - HOUR_MS / 2 })).toEqual([`${second} 16.1`]);
    expect(await depths({ model: 'Halyard' })).toEqual([]);
    const [{ seq: firstSeq = 0 } = {}] = await entriesInForce(db, { type: 'check', batch: second });
    expect(await depths({ batch: second, afterSeq: firstSeq })).toEqual([`${second} 16.1`]);
    const ofEach = await entriesInForce(db, {
      ...{ type: 'check', batch: second, newest: { count: 1, ofEach: ['check'] } },
    });
    expect(ofEach.map(({ body }) => body.check)).toEqual(['pocket-depth', 'body-thickness']);
    // Something was said under a key, whatever it was.
    expect(
      await entriesInForce(db, { type: 'start', batch: second, says: { because: 'something' } }),
    ).toHaveLength(1);
    expect(await entriesInForce(db, { type: 'start', batch: second, says: { who: 'something' } })).toEqual(
      [],
    );
  });

  it('names each load once, the batches it was started of, and what lay on a table at a moment', async () => {
    const rack = await atTheMill(12);
    const beganMs = works.time.nowMs;
    works.later(1);
    await works.said(`${rack} body mill start ${because}`);
    const [load, ...more] = await loadsStarted(db, { afterMs: beganMs, station: 'body-mill' });
    expect(more).toEqual([]);
    expect(load).toMatchObject({ model: 'Bowline', kind: 'B', firstPiece: false, pieces: 8 });
    expect(load?.atMs).toBe(works.time.nowMs);
    expect(await loadsStarted(db, { afterMs: beganMs, station: 'neck-mill' })).toEqual([]);
    const code = load?.code ?? '';
    expect(await batchesOfLoad(db, code)).toEqual([rack]);
    expect(await batchesOfLoad(db, 'L-99999')).toEqual([]);
    const [start] = await entriesInForce(db, { type: 'start', batch: rack });
    const bed = start?.body.bed ?? '';
    works.later(2);
    await works.measureLoads();
    await works.said(`${rack} body mill done`);
    const duringMs = works.time.nowMs - HOUR_MS;
    expect(await otherLoadLay(db, { bed, load: 'L-99999', atMs: duringMs })).toBe(true);
    expect(await otherLoadLay(db, { bed, load: code, atMs: duringMs })).toBe(false);
    expect(await otherLoadLay(db, { bed, load: 'L-99999', atMs: works.time.nowMs })).toBe(false);

    const sentence = await works.said(`${rack} body mill hold dust on the face`);
    expect(await lastFiling(db)).toMatchObject({
      ...{ batch: rack, sentence, by: 'ostrander' },
      correction: false,
    });
    // A start that is taken back was no load; that there was one is still known.
    await works.said(`${rack} undo`);
    expect(await lastFiling(db)).toMatchObject({ batch: rack, correction: true });
    await works.said(`${rack} undo`);
    await works.said(`${rack} body mill start ${because}`);
    const again = (await loadsStarted(db, { afterMs: beganMs })).at(-1)?.code ?? '';
    await works.said(`${rack} undo`);
    expect((await loadsStarted(db, { afterMs: beganMs })).map((one) => one.code)).not.toContain(again);
    expect(await batchesOfLoad(db, again)).toEqual([rack]);
  });
});
