import fc from 'fast-check';
import { isRefusal, replayed, takenBack, type Entry } from '../ledger/index.ts';
import { specOf, type OptionBook } from '../options/index.ts';
import { hoursIn } from '../testing/tarrow.ts';
import {
  applyOrderEntry,
  groupIntoRacks,
  lineCode,
  orderLedger,
  orderOfLine,
  orderWords,
  wantedOf,
  type AllottedPiece,
  type OrderBody,
  type OrderedLine,
  type OrderState,
  type Wanted,
} from './index.ts';

const DAY_HOURS = 24;
const BOOK: OptionBook = {
  ...{ model: 'Halyard', revision: 1, rules: [] },
  options: [
    {
      ...{ key: 'frets', name: 'Frets', builtAt: ['N/fret'], shownAt: [], sharesRack: false },
      values: [
        { code: 'medium', name: 'medium' },
        { code: 'jumbo', name: 'jumbo' },
      ],
    },
    {
      ...{ key: 'colour', name: 'Colour', builtAt: ['B/colour'], shownAt: [], sharesRack: true },
      values: [
        { code: 'blue', name: 'night blue' },
        { code: 'natural', name: 'natural' },
      ],
    },
  ],
};
const line = (quantity: number, choices = {}, rest: Partial<OrderedLine> = {}): OrderedLine => ({
  ...{ model: 'Halyard', quantity, choices, spec: specOf(BOOK, choices) },
  ...rest,
});
const entry = (seq: number, body: OrderBody, atHours = seq): Entry<OrderBody> => ({
  ...{ seq, atMs: hoursIn(atHours), filedMs: hoursIn(atHours), by: 'brandt', body },
});
const placed: OrderBody = {
  ...{ type: 'order', code: 'O-12', customer: 'Odile Farrow', dueMs: hoursIn(30 * DAY_HOURS) },
  lines: [line(2), line(1, { frets: 'jumbo' }, { label: 'Odile', weightKg: { low: 3.2, high: 3.4 } })],
};
const after = (bodies: OrderBody[]): OrderState => {
  const state = replayed(
    orderLedger,
    [placed, ...bodies].map((body, i) => entry(i + 1, body)),
  );
  if (!state || isRefusal(state)) throw new Error(state?.refused ?? 'no order');
  return state;
};
const refused = (state: OrderState | null, body: OrderBody): string => {
  const outcome = applyOrderEntry(state, entry(9, body));
  return isRefusal(outcome) ? outcome.refused : 'taken';
};

describe('an order', () => {
  it('has lines, each with what it came to when it was placed', () => {
    const state = after([{ type: 'order-add', line: line(12, { colour: 'natural' }) }]);
    expect(state.lines.map(({ number, quantity }) => [number, quantity])).toEqual([
      [1, 2],
      [2, 1],
      [3, 12],
    ]);
    // What was added later says when: it was not wanted before.
    expect(state.lines.map(({ addedMs }) => addedMs)).toEqual([undefined, undefined, hoursIn(2)]);
    expect(state.lines[1]).toMatchObject({ label: 'Odile', weightKg: { low: 3.2, high: 3.4 } });
    expect(state.lines[2]?.spec.lines[1]?.valueName).toBe('natural');
    expect(orderOfLine(lineCode('O-12', 3))).toEqual({ order: 'O-12', line: 3 });
    expect(orderOfLine('B-12/3')).toBeUndefined();
  });

  it('is changed with a reason, which stays; what it was is told', () => {
    const choices = { frets: 'jumbo' };
    const state = after([
      { type: 'order-change', line: 1, choices, spec: specOf(BOOK, choices), because: 'they rang' },
      { type: 'order-change', line: 1, quantity: 3, label: 'Ode', because: 'one more' },
      { type: 'order-due', dueMs: hoursIn(40 * DAY_HOURS), because: 'later is as good' },
      { type: 'order-cancel', line: 2, because: 'twice ordered' },
    ]);
    expect(state.changes.map(({ line: number, what, because }) => [number, what, because])).toEqual([
      [1, 'Frets jumbo (was medium)', 'they rang'],
      [1, "3 pieces (were 2), label 'Ode' (was '')", 'one more'],
      [null, 'due another day', 'later is as good'],
      [2, 'cancelled', 'twice ordered'],
    ]);
    expect(state.lines.map(({ cancelled }) => cancelled)).toEqual([null, 'twice ordered']);
  });

  it('refuses what cannot be', () => {
    const state = after([]);
    expect(refused(null, { ...placed, lines: [] })).toBe('an order has a line at least');
    expect(refused(null, { ...placed, dueMs: hoursIn(1) })).toBe('the due day is not after the order');
    expect(refused(null, { ...placed, lines: [line(0)] })).toBe('line 1: 1 to 500 pieces, not 0');
    expect(refused(null, { ...placed, lines: [line(1, {}, { weightKg: { low: 4, high: 3 } })] })).toBe(
      'line 1: 4 to 3 kg is no weight of an instrument',
    );
    expect(refused(state, placed)).toBe('O-12 is already placed');
    expect(refused(null, { type: 'order-add', line: line(1) })).toBe('there is no such order');
    expect(refused(state, { type: 'order-change', line: 7, quantity: 2, because: 'x' })).toBe(
      'O-12 has no line 7',
    );
    expect(refused(state, { type: 'order-change', line: 1, quantity: 2, because: 'x' })).toBe(
      'O-12/1 is like that already',
    );
    const gone = after([{ type: 'order-cancel', line: null, because: 'they rang' }]);
    expect(refused(gone, { type: 'order-change', line: 1, quantity: 2, because: 'x' })).toBe(
      'O-12/1 was cancelled: they rang',
    );
    expect(refused(gone, { type: 'order-cancel', line: null, because: 'x' })).toBe(
      'O-12 was cancelled already',
    );
  });

  it('is corrected by taking an entry back, unless a later one needs it', () => {
    const log = [
      entry(1, placed),
      entry(2, { type: 'order-add', line: line(1) }),
      entry(3, { type: 'order-change', line: 3, quantity: 2, because: 'two' }),
    ];
    const back = (seq: number) =>
      takenBack(orderLedger, log, {
        ...entry(4, { type: 'undo', voids: [seq] }),
        body: { type: 'undo', voids: [seq] },
      });
    const without = back(3);
    expect(without && !isRefusal(without) && without.lines[2]?.quantity).toBe(1);
    expect(back(2)).toMatchObject({ code: 'undo-needed-by-later' });
    expect(orderWords(placed)).toBe('3 pieces ordered for Odile Farrow');
  });
});

const KINDS = new Map([
  [
    'Halyard',
    new Map([
      ['B', ['B', 'I']],
      ['N', ['N', 'I']],
    ]),
  ],
]);

describe('what no rack has yet', () => {
  const piece = (kind: string, standing: AllottedPiece['standing'], position = 1): AllottedPiece => ({
    ...{ line: 'O-12/1', batch: `${kind}-1`, kind, position, standing },
  });
  const wanted = (pieces: AllottedPiece[]): string[] =>
    wantedOf([after([])], pieces, KINDS).map(({ line: code, kind, count }) => `${code} ${kind} ${count}`);

  it('is what was ordered less what is there, of each part', () => {
    const second = ['O-12/2 B 1', 'O-12/2 N 1'];
    expect(wanted([])).toEqual(['O-12/1 B 2', 'O-12/1 N 2', ...second]);
    expect(wanted([piece('B', 'inHand')])).toEqual(['O-12/1 B 1', 'O-12/1 N 2', ...second]);
    // A body and a neck were joined: they are one instrument now, and it counts for both.
    const joined = [piece('B', 'joined'), piece('N', 'joined'), piece('I', 'waiting')];
    expect(wanted(joined)).toEqual(['O-12/1 B 1', 'O-12/1 N 1', ...second]);
    // The instrument was scrapped: all of it is wanted again. One that left is there.
    expect(wanted([piece('B', 'joined'), piece('I', 'scrapped')])).toEqual([
      'O-12/1 B 2',
      'O-12/1 N 2',
      ...second,
    ]);
    expect(wanted([piece('I', 'shipped'), piece('I', 'shipped', 2)])).toEqual(second);
  });
});

describe('racks out of orders', () => {
  const want = (code: string, kind: string, count: number, dueDay: number, colour = 'blue'): Wanted => ({
    ...{ line: code, order: code.split('/')[0] ?? '', model: 'Halyard', kind, count },
    ...{
      dueMs: hoursIn(dueDay * DAY_HOURS),
      choices: { colour, frets: 'jumbo' },
      spec: specOf(BOOK, { colour }),
    },
  });
  const options = new Map([['Halyard', BOOK.options]]);
  const grouping = { largest: { B: 12, N: 10 }, usual: 6, withinDays: 14 };

  it('puts together what runs together: one colour, due at much the same time, a body with its neck', () => {
    const racks = groupIntoRacks(
      [
        ...[want('O-1/1', 'B', 4, 20), want('O-1/1', 'N', 4, 20)],
        ...[want('O-2/1', 'B', 8, 22), want('O-2/1', 'N', 8, 22)],
        ...[want('O-3/1', 'B', 1, 21, 'natural'), want('O-3/1', 'N', 1, 21, 'natural')],
        ...[want('O-4/1', 'B', 2, 60), want('O-4/1', 'N', 2, 60)],
        // Its bodies are on their way: only a neck is wanted again.
        want('O-5/1', 'N', 1, 30),
      ],
      options,
      grouping,
    );
    expect(
      racks.map(({ kinds, quantity, family, lines }) => [
        kinds.join(''),
        quantity,
        family.colour,
        lines.map(({ line: code, count }) => `${count} of ${code}`).join(', '),
      ]),
    ).toEqual([
      ['BN', 10, 'blue', '4 of O-1/1, 6 of O-2/1'],
      ['BN', 1, 'natural', '1 of O-3/1'],
      ['BN', 2, 'blue', '2 of O-2/1'],
      ['N', 1, 'blue', '1 of O-5/1'],
      ['BN', 2, 'blue', '2 of O-4/1'],
    ]);
    expect(racks[0]?.dueMs).toBe(hoursIn(20 * DAY_HOURS));
  });

  it('has every piece once, no rack too large, none due too far apart', () => {
    const anyWanted = fc.record({
      ...{ count: fc.integer({ min: 1, max: 40 }), dueDay: fc.integer({ min: 1, max: 200 }) },
      ...{ kind: fc.constantFrom('B', 'N'), colour: fc.constantFrom('blue', 'natural') },
    });
    fc.assert(
      fc.property(fc.array(anyWanted, { maxLength: 30 }), (list) => {
        const all = list.map(({ count, dueDay, kind, colour }, i) =>
          want(`O-${i + 1}/1`, kind, count, dueDay, colour),
        );
        const racks = groupIntoRacks(all, options, grouping);
        for (const one of all) {
          const there = racks.flatMap(({ lines }) => lines).filter((part) => part.line === one.line);
          expect(there.reduce((sum, { count }) => sum + count, 0)).toBe(one.count);
        }
        for (const { quantity, lines, kinds, dueMs } of racks) {
          expect(quantity).toBeLessThanOrEqual(kinds[0] === 'N' ? 10 : 12);
          expect(quantity).toBe(lines.reduce((sum, { count }) => sum + count, 0));
          for (const part of lines)
            expect(part.dueMs - dueMs).toBeLessThanOrEqual(14 * DAY_HOURS * 3_600_000);
          for (const part of lines) expect(part.dueMs).toBeGreaterThanOrEqual(dueMs);
        }
      }),
    );
  });
});
