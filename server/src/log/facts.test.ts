import type { EntryBody } from '@ample-crane/core';
import { DataSource } from 'typeorm';
import { Works } from '../testing/works.ts';
import { FactsService } from './facts.service.ts';
import { LogService } from './log.service.ts';

let works: Works;
beforeAll(async () => {
  works = await Works.open();
});
afterAll(() => works.close());

/** The facts of the last entry of a batch. */
async function factsOf(batch: string): Promise<unknown> {
  const [last] = await works.app
    .get(DataSource)
    .query<{ body: { facts?: unknown } }[]>(
      'SELECT body FROM log_entry WHERE batch = $1 ORDER BY seq DESC LIMIT 1',
      [batch],
    );
  return last?.body.facts;
}

describe('what stages add to an entry', () => {
  it('is added by whatever way it is filed, and never taken from whoever files', async () => {
    const rack = await works.openRack('B', 3);
    await works.air('Wood room', 21, 50);
    works.later(1);
    await works.file(rack, { type: 'read', pieces: [1, 2, 3], valuesPct: [9.1, 9.4, 9.8] });
    works.later(1);
    // So fast no wood dries: the floor it cannot be below is a fact of each reading.
    const floors = { floorsPct: [expect.any(Number), expect.any(Number), expect.any(Number)] };
    const readings = { type: 'read' as const, pieces: [1, 2, 3], valuesPct: [7.2, 7.3, 7.1] };
    await works.file(rack, readings);
    expect(await factsOf(rack)).toEqual(floors);
    await works.said(`${rack}/1-3 read 7.2 7.3 7.1`);
    expect(await factsOf(rack)).toEqual(floors);
    const body: EntryBody = { ...readings, facts: { floorsPct: [1, 1, 1] } };
    await works.app
      .get(LogService)
      .fileTogether({ key: 'together', by: 'venn', asked: body, batches: [rack] }, () =>
        Promise.resolve([{ batch: rack, body }]),
      );
    expect(await factsOf(rack)).toEqual(floors);
    expect(await factsOf(rack)).not.toEqual(body.facts);
  });

  it('comes from one stage after the other, of the types each knows; what takes a number comes last', async () => {
    const facts = new FactsService();
    facts.register(
      { scrap: (_db, _rack, body) => Promise.resolve({ ...body, reason: `${body.reason}, dry` }) },
      { last: true },
    );
    facts.register({
      scrap: (_db, _rack, body, { by }) => Promise.resolve({ ...body, reason: `${body.reason} (${by})` }),
    });
    const asked = { atMs: 0, by: 'venn' };
    const nothing = {} as Parameters<typeof facts.complete>[0];
    const rack = {} as Parameters<typeof facts.complete>[1];
    expect(await facts.complete(nothing, rack, { type: 'scrap', reason: 'split' }, asked)).toEqual({
      type: 'scrap',
      reason: 'split (venn), dry',
    });
    expect(await facts.complete(nothing, rack, { type: 'hold', reason: 'lost' }, asked)).toEqual({
      type: 'hold',
      reason: 'lost',
    });
  });
});
