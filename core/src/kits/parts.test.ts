import { isRefusal, replayed, takenBack, type Entry } from '../ledger/index.ts';
import { hoursIn } from '../testing/tarrow.ts';
import {
  applyPartEntry,
  broughtIn,
  partLedger,
  partWords,
  stillComing,
  type PartBody,
  type PartState,
} from './index.ts';

const entry = (seq: number, body: PartBody, atHours = seq): Entry<PartBody> => ({
  ...{ seq, atMs: hoursIn(atHours), filedMs: hoursIn(Math.max(atHours, seq)), by: 'brandt', body },
});
const TUNERS: PartBody = {
  ...{ type: 'part', code: 'C-12', name: 'Tuners, six in line', unit: 'set' },
  ...{ supplier: 'Oakum & Daughters', leadDays: 21, weightG: 220 },
};
/** Files one after the other, an hour apart; the last outcome, and what it came to before. */
function filed(...bodies: (PartBody | [PartBody, number])[]): { state: PartState; refused: string[] } {
  let state: PartState | null = null;
  const refused: string[] = [];
  [TUNERS, ...bodies].forEach((said, i) => {
    const [body, atHours] = Array.isArray(said) ? said : [said, i + 1];
    const outcome = applyPartEntry(state, entry(i + 1, body, atHours));
    if (isRefusal(outcome)) refused.push(`${outcome.code}: ${outcome.refused}`);
    else state = outcome;
  });
  if (!state) throw new Error('no part was made');
  return { state, refused };
}
const order = (quantity: number, atHours: number, reference?: string): PartBody => ({
  ...{ type: 'part-order', quantity, expectedMs: hoursIn(atHours) },
  ...(reference === undefined ? {} : { reference }),
});
const receive = (quantity: number, of?: number): PartBody => ({
  ...{ type: 'part-receive', quantity },
  ...(of === undefined ? {} : { of }),
});

test('what comes in and what is put right adds up, until somebody counts', () => {
  const lost: PartBody = { type: 'part-adjust', quantity: -3, because: 'threads stripped' };
  expect(broughtIn(filed(receive(40), lost).state)).toBe(37);
  expect(broughtIn(filed(receive(40), lost, { type: 'part-count', quantity: 31 }).state)).toBe(31);
  expect(broughtIn(filed(receive(40), { type: 'part-count', quantity: 31 }, receive(20)).state)).toBe(51);
});

test('what happened before a count and is filed later was seen by it', () => {
  const counted: PartBody = { type: 'part-count', quantity: 31 };
  const late = filed(receive(40), order(10, 90), [counted, 9], [receive(10), 8]);
  expect(broughtIn(late.state)).toBe(31);
  // It came all the same: nothing of it is on its way any more.
  expect(stillComing(late.state)).toBe(0);
  expect(filed([counted, 9], [{ type: 'part-adjust', quantity: -1, because: 'lost' }, 8]).refused).toEqual([
    'too-early: C-12 was counted since then: the count has seen it',
  ]);
  expect(filed([counted, 9], [{ ...counted, quantity: 30 }, 8]).refused[0]).toContain('counted since then');
});

test('a delivery is of the purchase that was to come first, unless it says of which', () => {
  const two = filed(order(30, 200, 'A-7'), order(20, 100));
  expect(two.state.coming.map(({ number }) => number)).toEqual([2, 1]);
  expect(filed(order(30, 200), order(20, 100), receive(25)).state.coming).toMatchObject([
    { number: 1, quantity: 25 },
  ]);
  expect(filed(order(30, 200), order(20, 100), receive(25, 1)).state.coming).toMatchObject([
    { number: 2, quantity: 20 },
    { number: 1, quantity: 5 },
  ]);
  // More than was ordered came: it is there all the same.
  expect(broughtIn(filed(order(20, 100), receive(24)).state)).toBe(24);
  expect(filed(order(20, 100), receive(24, 1)).refused).toEqual([
    'bad-value: 20 of purchase 1 are still to come, not 24',
  ]);
  expect(filed(receive(1, 3)).refused).toEqual(['bad-value: nothing of purchase 3 of C-12 is still to come']);
});

test('a purchase comes another day, or not at all', () => {
  const because = 'the ship was late';
  const expect1 = (expectedMs: number | null): PartBody => ({
    type: 'part-expect',
    of: 1,
    expectedMs,
    because,
  });
  expect(filed(order(30, 100), expect1(hoursIn(150))).state.coming[0]?.expectedMs).toBe(hoursIn(150));
  expect(filed(order(30, 100), expect1(null)).state.coming).toEqual([]);
  expect(filed(order(30, 100), expect1(hoursIn(100))).refused[0]).toContain('expected then already');
  expect(filed(order(30, 0)).refused[0]).toContain('cannot come before it was ordered');
});

test('what is known of a part can be told anew, and a part is made once', () => {
  expect(filed({ type: 'part-change', leadDays: 35, weightG: null }).state).toMatchObject({
    ...{ name: 'Tuners, six in line', leadDays: 35, weightG: null },
  });
  expect(filed({ type: 'part-change', leadDays: 21 }).refused[0]).toContain('like that already');
  expect(filed(TUNERS).refused[0]).toContain('already-open');
});

test('a filing taken back leaves the part as it would be without it', () => {
  const bodies: PartBody[] = [TUNERS, order(30, 100), receive(30, 1)];
  const log = bodies.map((body, i) => entry(i + 1, body));
  const undo = { ...entry(4, { type: 'undo', voids: [2] }), body: { type: 'undo' as const, voids: [2] } };
  expect(takenBack(partLedger, log, undo)).toMatchObject({ code: 'undo-needed-by-later' });
  const state = takenBack(partLedger, log, { ...undo, body: { type: 'undo', voids: [3] } });
  expect(state).toEqual(replayed(partLedger, log.slice(0, 2)));
});

test('an entry says in a few words what it did', () => {
  expect(partWords({ type: 'part-count', quantity: 31, believed: 34 })).toBe(
    '31 counted, −3 against what was believed',
  );
  expect(partWords({ type: 'part-adjust', quantity: 2, because: 'found' })).toBe('+2 because found');
  expect(partWords({ type: 'part-expect', of: 2, expectedMs: null, because: 'no more made' })).toBe(
    'purchase 2 will not come because no more made',
  );
});
