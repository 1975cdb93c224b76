import { awaitKit, binOf, kitsToPick } from '../kits/index.ts';
import { isRefusal, type KitPart } from '../ledger/index.ts';
import { specOf, type OptionBook } from '../options/index.ts';
import type { Route } from '../route/index.ts';
import { entry, hoursIn, openBody } from '../testing/tarrow.ts';
import { filed } from '../testing/filed.ts';
import type { EntryBody } from './kinds.ts';
import { applyEntry } from './reduce.ts';

const work = { setUpMinutes: 15, pieceMinutes: 30, skill: null, caution: null, coats: null, reworkTo: null };
/** Buffed, assembled out of its kit, shipped. */
const ROUTE: Route = {
  ...{ id: 'halyard-i-1', model: 'Halyard', kind: 'I', revision: 1 },
  operations: [
    { ...work, key: 'buff', name: 'Buff', mode: 'attended', stations: ['buff'] },
    { ...work, key: 'assemble', name: 'Assembly', mode: 'attended', stations: ['bench'], kit: true },
    { ...work, key: 'ship', name: 'Ship', mode: 'ship', stations: ['bench'] },
  ],
};
const BOOK: OptionBook = {
  ...{ model: 'Halyard', revision: 1, rules: [] },
  options: [
    {
      ...{ key: 'pickups', name: 'Pickups', builtAt: [], shownAt: [], sharesRack: false },
      values: ['single', 'twin'].map((code) => ({ code, name: code })),
    },
  ],
};
const PICKUPS: KitPart = { slot: 'pickups', part: 'C-1', quantity: 2 };
const TUNERS: KitPart = { slot: 'tuners', part: 'C-3', quantity: 6 };
const SINGLE = { choices: { pickups: 'single' } };

const file = (...bodies: EntryBody[]) => filed(ROUTE, 'I-12', bodies);
const kit = (pieces: number[] | undefined, parts: KitPart[], missing: KitPart[] = []): EntryBody => ({
  ...{ type: 'kit', parts, missing, ...SINGLE },
  ...(pieces ? { pieces } : {}),
});
const buffed: EntryBody[] = [{ type: 'start' }, { type: 'done' }];
const take: EntryBody = { type: 'start', pieces: [1] };

test('nothing is taken in hand before its kit is picked and whole', () => {
  const { said } = file(
    ...buffed,
    take,
    kit([1], [TUNERS], [PICKUPS]),
    take,
    { ...kit([1], [PICKUPS]), bin: '14' } as EntryBody,
    take,
  );
  expect(said.slice(2)).toEqual([
    'kit-missing: I-12/01 has no kit yet: pick it before it is taken in hand',
    expect.stringContaining('1 kit picked, without 2 pickups'),
    'kit-missing: the kit of I-12/01 lacks 2 pickups',
    expect.stringContaining('1 kit picked into bin 14'),
    expect.stringContaining('1 started'),
  ]);
});

test('a kit can be passed by with a reason, which is kept with what it was said against', () => {
  const { state } = file(...buffed, { ...take, because: 'pickups come at noon' });
  expect(state.overrides).toMatchObject([
    { reason: 'pickups come at noon', against: expect.stringContaining('has no kit yet') as string },
  ]);
});

test('every rule that is passed by at a start stands with the reason', () => {
  const handed = {
    ...ROUTE,
    operations: ROUTE.operations.map((one) => (one.kit ? { ...one, accepts: true as const } : one)),
  };
  const { state } = filed(handed, 'I-12', [...buffed, { ...take, because: 'the fair opens' }]);
  expect(state.overrides[0]?.against).toMatch(/was not accepted at Assembly.*; I-12\/01 has no kit yet/);
});

test('what went on without all of its kit still wants the rest, and does not leave without it', () => {
  const because = 'pickups come at noon';
  const gone: EntryBody[] = [
    ...buffed,
    kit([1], [TUNERS], [PICKUPS]),
    { ...take, because },
    { type: 'done', pieces: [1], because },
  ];
  const { state, said } = file(...gone, { type: 'ship', pieces: [1] });
  expect(kitsToPick(state, ROUTE).map(({ position }) => position)).toEqual([1, 2, 3]);
  expect(awaitKit(state, ROUTE).map(({ position }) => position)).toEqual([2, 3]);
  expect(said.at(-1)).toBe('kit-missing: the kit of I-12/01 lacks 2 pickups');
  const filled = file(...gone, kit([1], [PICKUPS]), { type: 'ship', pieces: [1] });
  expect(filled.said.at(-1)).toContain('1 shipped');
});

test('a bin is what was laid into it and not put back', () => {
  const back: EntryBody = {
    type: 'kit-back',
    pieces: [1],
    because: 'scratched',
    missing: [PICKUPS],
    parts: [PICKUPS],
  };
  const { state } = file(kit([1, 2], [PICKUPS, TUNERS]), back);
  expect(binOf(state, 1)).toMatchObject({ parts: [TUNERS], missing: [PICKUPS] });
  expect(binOf(state, 2)).toMatchObject({ parts: [PICKUPS, TUNERS], missing: [] });
  expect(binOf(state, 3)).toBeUndefined();
  expect(kitsToPick(state, ROUTE).map(({ position }) => position)).toEqual([1, 3]);
  const all = file(kit([1], [PICKUPS]), { type: 'kit-back', pieces: [1], because: 'sold as it is' });
  expect(binOf(all.state, 1)).toBeUndefined();
});

test('what does not lie in a bin cannot be put back', () => {
  const because = 'wrong';
  expect(
    file(kit([1], [PICKUPS]), { type: 'kit-back', pieces: [1], because, parts: [TUNERS] }).said[1],
  ).toContain('has no tuners of C-3 to put back');
  expect(file({ type: 'kit-back', pieces: [2], because }).said[0]).toContain('has no kit to put back');
  expect(file(kit([1], [PICKUPS]), kit([2], [TUNERS]), { type: 'kit-back', because }).said[2]).toContain(
    'not alike',
  );
});

test('a kit whose option was changed since is not as the tag says', () => {
  const line: EntryBody = {
    type: 'allot',
    pieces: [1],
    line: 'O-5/1',
    spec: specOf(BOOK, { pickups: 'twin' }),
  };
  const { said, state } = file(...buffed, kit(undefined, [PICKUPS, TUNERS]), line, take, {
    type: 'start',
    pieces: [2],
  });
  expect(said[4]).toBe(
    "other-option: the kit of I-12/01 was picked for Pickups 'single', its tag says twin: put it back and pick it anew",
  );
  expect(said[5]).toContain('1 started');
  expect(kitsToPick(state, ROUTE).map(({ position }) => position)).toEqual([1]);
});

test('parts have no kits, and what has left has none picked', () => {
  const parts: Route = {
    ...ROUTE,
    operations: ROUTE.operations.map(({ kit: _kit, ...rest }) => rest),
  };
  const opened = applyEntry(null, parts, entry(1, hoursIn(0), openBody(parts, 'B-1', 2)));
  if (isRefusal(opened)) throw new Error(opened.refused);
  expect(applyEntry(opened.state, parts, entry(2, hoursIn(1), kit([1], [TUNERS])))).toMatchObject({
    refused: 'nothing on the route of B-1 wants a kit',
  });
  const scrapped: EntryBody = { type: 'scrap', pieces: [1], reason: 'cracked' };
  expect(file({ type: 'start' }, scrapped, kit([1], [TUNERS])).said[2]).toContain('I-12/01 has left');
});
