import { applyEntry } from '../entries/reduce.ts';
import type { EntryBody } from '../entries/index.ts';
import type { BatchState } from '../ledger/batch.ts';
import { withLines } from '../ledger/lines.ts';
import { isRefusal } from '../ledger/refusal.ts';
import { entry, hoursIn, longRoute, openBody } from '../testing/tarrow.ts';
import { daysLate, isLike, rackLine, type RackQuestion } from './rack-line.ts';

function rack(bodies: EntryBody[]): { state: BatchState; route: typeof longRoute } {
  let state: BatchState | null = null;
  [openBody(longRoute, 'B-1'), ...bodies].forEach((body, i) => {
    const outcome = applyEntry(state, longRoute, entry(i + 1, hoursIn(i), body));
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    state = outcome.state;
  });
  return { state: state as unknown as BatchState, route: longRoute };
}
const hold = (operation: string, over = false) => ({ operation, word: operation, over });
const cleared: EntryBody[] = [{ type: 'read', valuesPct: [7, 7, 7] }, { type: 'end' }];

describe('the line of a rack in the list of all', () => {
  it('tells of the hold it rests in', () => {
    expect(rackLine(rack([]), [hold('mill'), hold('dry')], 5)).toMatchObject({
      ...{ batch: 'B-1', pieces: 12, operation: 'dry', standing: 'onHold', here: 12, people: [] },
      ...{ sinceMs: hoursIn(0), earliestMs: 5, hold: { word: 'dry' } },
    });
  });

  it('tells of those that are furthest behind, not of most: four wait at the mill, eight are through', () => {
    const line = rackLine(
      rack([...cleared, { type: 'start', count: 8 }, { type: 'done', count: 8 }]),
      [hold('mill')],
      null,
    );
    expect(line).toMatchObject({
      ...{ operation: 'mill', station: 'body-mill', standing: 'waiting', here: 4, pieces: 12 },
      // It came there as its hold was ended, two hours after it was opened.
      ...{ sinceMs: hoursIn(2), hold: null, earliestMs: null },
    });
  });

  it('says of all its pieces where they stand and what may leave, not only of the hindmost', () => {
    const line = rackLine(
      rack([...cleared, { type: 'start', count: 8 }, { type: 'done', count: 8 }]),
      [hold('cure', true), hold('cure', true), hold('dry')],
      null,
    );
    expect(line).toMatchObject({ station: 'body-mill', over: ['cure'] });
    // Eight went on from the mill to their rest, which is in the wood room.
    expect(line?.stations.toSorted()).toEqual(['body-mill', 'wood']);
  });

  it('waits where some wait and some are in hand, and names who has them', () => {
    expect(rackLine(rack([...cleared, { type: 'start', count: 5 }]), [], null)).toMatchObject({
      ...{ standing: 'waiting', here: 7, people: ['ostrander'] },
    });
    // Of eight that are left all are in hand: the table has eight places.
    const lost: EntryBody = { type: 'scrap', count: 4, reason: 'split' };
    expect(rackLine(rack([...cleared, lost, { type: 'start', count: 8 }]), [], null)).toMatchObject({
      ...{ standing: 'inHand', here: 8, pieces: 8, sinceMs: hoursIn(4) },
    });
  });

  it('counts what was scrapped neither as behind nor as left', () => {
    expect(
      rackLine(rack([...cleared, { type: 'scrap', count: 2, reason: 'split' }]), [], null),
    ).toMatchObject({ pieces: 10, here: 10, quantity: 12 });
  });

  it('is none where nothing is left', () => {
    expect(rackLine(rack([{ type: 'scrap', count: 12, reason: 'split' }]), [], null)).toBeNull();
  });
});

it('tells which orders its pieces are built for, and at which stations they stand; pieces for stock are in none', () => {
  const rested = rack([...cleared, { type: 'start', count: 8 }, { type: 'done', count: 8 }]);
  const spec = { revision: 1, lines: [] };
  const state = withLines(rested.state, [
    { line: 'O-12/1', spec, pieces: [1, 2, 10] },
    { line: 'O-9/2', spec, pieces: [11] },
    { line: 'O-12/3', spec, pieces: [9] },
  ]);
  const line = rackLine({ ...rested, state }, [], null);
  // Places 1 to 8 went on to their rest in the wood room.
  expect(line?.orders).toEqual([
    { order: 'O-9', pieces: 1, stations: ['body-mill'] },
    { order: 'O-12', pieces: 4, stations: ['wood', 'body-mill'] },
  ]);
  expect(line && [isLike(line, { order: 'O-9' }), isLike(line, { order: 'O-1' })]).toEqual([true, false]);
  expect(rackLine(rested, [], null)?.orders).toEqual([]);
});

it('is like what is asked by its model, by whose hands any of its pieces are in, and by whether it will be late', () => {
  const line = rackLine(rack([...cleared, { type: 'start', count: 5 }]), [], null);
  if (!line) throw new Error('no line');
  const late = { ...line, dueMs: hoursIn(0), earliestMs: hoursIn(36) };
  expect(daysLate(late)).toBe(1.5);
  expect(daysLate({ ...late, earliestMs: hoursIn(0) })).toBeNull();
  const asked = (question: RackQuestion) => [line, late].map((one) => isLike(one, question));
  expect(asked({})).toEqual([true, true]);
  expect(asked({ late: true })).toEqual([false, true]);
  expect(asked({ late: false })).toEqual([true, true]);
  expect(asked({ person: 'ostrander', model: line.model })).toEqual([true, true]);
  expect(asked({ person: 'venn' })).toEqual([false, false]);
  expect(asked({ model: 'Halyard', late: true })).toEqual([false, false]);
});
