import fc from 'fast-check';
import type { OptionBook } from '../options/index.ts';
import { hoursIn } from '../testing/tarrow.ts';
import { DAY_MS } from '../units/quantities.ts';
import {
  billed,
  kitShortages,
  optionsOfBill,
  validateBill,
  type Bill,
  type PartStock,
  type WantedKits,
} from './index.ts';

const days = (n: number): number => hoursIn(24 * n);
const BOOK: Pick<OptionBook, 'options'> = {
  options: [
    {
      ...{ key: 'pickups', name: 'Pickups', builtAt: [], shownAt: [], sharesRack: false },
      values: ['single', 'twin', 'soap'].map((code) => ({ code, name: code })),
    },
    {
      ...{ key: 'metal', name: 'Hardware', builtAt: [], shownAt: [], sharesRack: false },
      values: ['nickel', 'black'].map((code) => ({ code, name: code })),
    },
  ],
};
const given = (option: string, ...values: string[]) => [{ option, values }];
const BILL: Bill = {
  ...{ model: 'Halyard', revision: 1 },
  lines: [
    { slot: 'pickups', part: 'C-1', quantity: 2, when: given('pickups', 'single') },
    { slot: 'pickups', part: 'C-2', quantity: 2, when: given('pickups', 'twin', 'soap') },
    { slot: 'tuners', part: 'C-3', quantity: 1, instead: [{ part: 'C-4', when: given('metal', 'nickel') }] },
    { slot: 'screws', part: 'C-5', quantity: 12 },
  ],
};
const USUAL = { pickups: 'single', metal: 'nickel' };
const wanted = (rack: string, pieces: number, wantDays: number, choices = USUAL): WantedKits => ({
  ...{ rack, model: 'Halyard', pieces, choices, wantMs: days(wantDays) },
});
const stock = (part: string, onHand: number, ...coming: [number, number][]): PartStock => ({
  ...{ part, onHand, leadDays: 10 },
  coming: coming.map(([quantity, onDay]) => ({ quantity, expectedMs: days(onDay) })),
});
const PLENTY = ['C-1', 'C-2', 'C-3', 'C-4', 'C-5'].map((part) => stock(part, 10_000));
const but = (...other: PartStock[]): PartStock[] => [
  ...PLENTY.filter(({ part }) => !other.some((one) => one.part === part)),
  ...other,
];
const BILLS = new Map([[BILL.model, BILL]]);

test('a kit is what the bill names for its spec', () => {
  expect(billed(BILL, { pickups: 'twin', metal: 'black' })).toEqual([
    { slot: 'pickups', part: 'C-2', quantity: 2, instead: [] },
    { slot: 'tuners', part: 'C-3', quantity: 1, instead: [] },
    { slot: 'screws', part: 'C-5', quantity: 12, instead: [] },
  ]);
  expect(billed(BILL, USUAL)[1]?.instead).toEqual(['C-4']);
  expect(optionsOfBill(BILL)).toEqual(['pickups', 'metal']);
});

test('whoever wants first is served first, and what is missing must be ordered by its lead time', () => {
  // 12 of 20 sets of two single coils are there: I-1 on day 5 takes 12 of its 12, I-2 on day 8 has 0 of 8.
  const plan = [wanted('I-2', 4, 8), wanted('I-1', 6, 5)];
  const { parts } = kitShortages(plan, but(stock('C-1', 12)), BILLS);
  expect(parts).toEqual([
    {
      ...{ part: 'C-1', short: 8, toOrder: 8 },
      racks: [{ rack: 'I-2', slot: 'pickups', short: 8, pieces: 4, wantMs: days(8), comesMs: null }],
      ...{ hereByMs: days(8), orderByMs: days(8) - 10 * DAY_MS },
    },
  ]);
});

test('what comes in time is no shortage, what comes late is one until then', () => {
  const plan = [wanted('I-1', 6, 5), wanted('I-2', 4, 8)];
  expect(kitShortages(plan, but(stock('C-1', 12, [8, 8])), BILLS).parts).toEqual([]);
  // 12 come on day 6, a day late for I-1, which is served first; 8 are left for I-2.
  const late = kitShortages(plan, but(stock('C-1', 0, [20, 6])), BILLS).parts;
  expect(late).toMatchObject([
    { short: 12, toOrder: 0, hereByMs: null, racks: [{ rack: 'I-1', comesMs: days(6) }] },
  ]);
});

test('what may stand in for a part does, where the spec allows it, and is named', () => {
  const plan = [wanted('I-1', 6, 5), wanted('I-2', 4, 6, { pickups: 'single', metal: 'black' })];
  const { parts, standIns } = kitShortages(plan, but(stock('C-3', 4), stock('C-4', 9)), BILLS);
  expect(standIns).toEqual([{ rack: 'I-1', slot: 'tuners', part: 'C-3', instead: 'C-4', quantity: 2 }]);
  expect(parts).toMatchObject([{ part: 'C-3', short: 4, racks: [{ rack: 'I-2' }] }]);
});

test('what lies in the bins already is not wanted again', () => {
  const half = { ...wanted('I-1', 1, 5), picked: [{ slot: 'pickups', quantity: 1 }] };
  expect(kitShortages([half], but(stock('C-1', 0)), BILLS).parts).toMatchObject([{ part: 'C-1', short: 1 }]);
});

test('a part nobody keeps is missing, a model without a bill wants nothing', () => {
  expect(kitShortages([wanted('I-1', 1, 5)], [], BILLS).parts.map(({ part }) => part)).toHaveLength(3);
  expect(kitShortages([{ ...wanted('I-1', 1, 5), model: 'Ratline' }], [], BILLS).parts).toEqual([]);
});

test('of one part: the n-th that is wanted gets the n-th that comes, in any order of both', () => {
  const one: Bill = { model: 'Halyard', revision: 1, lines: [{ slot: 'x', part: 'C-1', quantity: 1 }] };
  fc.assert(
    fc.property(
      fc.nat(12),
      fc.array(fc.record({ quantity: fc.integer({ min: 1, max: 6 }), day: fc.nat(20) }), { maxLength: 6 }),
      fc.array(fc.record({ pieces: fc.integer({ min: 1, max: 6 }), day: fc.nat(20) }), { maxLength: 8 }),
      (onHand, deliveries, racks) => {
        const comes = [
          ...Array.from({ length: onHand }, () => -1),
          ...deliveries
            .toSorted((a, b) => a.day - b.day)
            .flatMap(({ quantity, day }) => Array<number>(quantity).fill(day)),
        ];
        const plan = racks.map(({ pieces, day }, i) => wanted(`I-${i + 1}`, pieces, day));
        const inOrder = racks
          .map((rack, i) => ({ ...rack, code: `I-${i + 1}` }))
          .toSorted((a, b) => a.day - b.day || (a.code < b.code ? -1 : 1));
        let n = 0;
        const late = inOrder.flatMap(({ code, pieces, day }) => {
          const own = Array.from({ length: pieces }, () => comes[n++] ?? Infinity).filter((at) => at > day);
          const last = Math.max(...own);
          return own.length === 0
            ? []
            : [{ rack: code, short: own.length, comesMs: last === Infinity ? null : days(last) }];
        });
        const stands = stock('C-1', onHand, ...deliveries.map((d): [number, number] => [d.quantity, d.day]));
        const { parts } = kitShortages(plan, [stands], new Map([['Halyard', one]]));
        const told = parts[0]?.racks.map(({ rack, short, comesMs }) => ({ rack, short, comesMs })) ?? [];
        expect(told).toEqual(late);
      },
    ),
  );
});

test('a bill that cannot be is told line by line', () => {
  const lines = [
    ...BILL.lines,
    { slot: 'pickups', part: 'C-9', quantity: 2, when: given('pickups', 'soap', 'none') },
    { slot: 'nut', part: 'C-5', quantity: 1, when: given('nut', 'bone'), instead: [{ part: 'C-5' }] },
  ];
  const parts = new Set(['C-1', 'C-2', 'C-3', 'C-4', 'C-5']);
  expect(validateBill({ lines }, BOOK, parts).problems).toEqual([
    'pickups: there is no part C-9',
    "pickups: Pickups 'none' is not sold",
    "nut: there is no option 'nut'",
    'nut: C-5 cannot stand in for itself',
    'pickups: two lines can stand in one kit; say of which values each is',
  ]);
  expect(validateBill(BILL, BOOK, parts)).toEqual({ problems: [], hints: [] });
  const half = { lines: BILL.lines.filter(({ part }) => part !== 'C-2') };
  expect(validateBill(half, BOOK, parts).hints).toEqual(['pickups: nothing for Pickups twin, soap']);
});
