import { foundAndCaused } from '../flow/faults.ts';
import { validateRoute, type Route } from '../route/index.ts';
import { toAccept } from './accept.ts';
import { filed } from '../testing/filed.ts';
import { entry, hoursIn } from '../testing/tarrow.ts';
import { applyEntry } from './reduce.ts';
import type { EntryBody } from './kinds.ts';

const work = { setUpMinutes: 15, pieceMinutes: 30, skill: null, caution: null, coats: null };
/** Buffed, accepted and assembled, looked at at a gate that accepts too, shipped. */
const ROUTE: Route = {
  ...{ id: 'halyard-i-1', model: 'Halyard', kind: 'I', revision: 1 },
  operations: [
    { ...work, key: 'buff', name: 'Buff', mode: 'attended', stations: ['buff'], reworkTo: 'buff' },
    {
      ...{ ...work, key: 'assemble', name: 'Assembly', mode: 'attended', stations: ['bench'] },
      ...{ reworkTo: 'buff', accepts: true },
    },
    {
      ...{ ...work, key: 'final', name: 'Final', mode: 'gate', stations: ['bench'], reworkTo: null },
      ...{ accepts: true, gate: { kind: 'inspection' } },
    },
    { ...work, key: 'ship', name: 'Ship', mode: 'ship', stations: ['bench'], reworkTo: null },
  ],
};

const file = (...bodies: EntryBody[]) => filed(ROUTE, 'I-12', bodies);
const arrived: EntryBody[] = [{ type: 'start' }, { type: 'done' }];
const back: EntryBody = {
  ...{ type: 'rework', pieces: [2], operation: 'assemble', reason: 'haze', origin: 'B/colour' },
};

test('work begins on what was looked at and accepted, piece by piece', () => {
  const { state, said } = file(
    ...arrived,
    { type: 'start' },
    { type: 'accept', pieces: [1, 3] },
    { type: 'start', pieces: [1] },
    { type: 'start', pieces: [2] },
    { type: 'accept' },
    { type: 'accept' },
  );
  expect(said.slice(2)).toEqual([
    "not-accepted: I-12/01 was not accepted at Assembly, and 2 more: look at it, then say 'I-12 accept' or send it back",
    expect.stringContaining('2 pieces accepted'),
    expect.stringContaining('1 started'),
    expect.stringContaining('not-accepted: I-12/02'),
    expect.stringContaining('1 piece accepted'),
    expect.stringContaining('taken: I-12/02 is accepted already'),
  ]);
  expect(toAccept(state, ROUTE)).toEqual([]);
});

test('what is sent back is accepted anew when it comes again, and says where it was caused', () => {
  const again: EntryBody[] = [
    { type: 'start', operation: 'buff' },
    { type: 'done', operation: 'buff' },
  ];
  const { state, said } = file(...arrived, { type: 'accept' }, back, ...again, {
    type: 'start',
    pieces: [2],
  });
  expect(said[3]).toContain('1 sent back (haze, caused at B/colour)');
  expect(said.at(-1)).toContain('not-accepted: I-12/02');
  expect(toAccept(state, ROUTE).map(({ position }) => position)).toEqual([2]);
  expect(state.slips).toMatchObject([{ operation: 'assemble', origin: 'B/colour', reason: 'haze' }]);
});

test('a gate passes nothing that was not accepted; a reason passes by, and stays', () => {
  const toGate: EntryBody[] = [...arrived, { type: 'accept' }, { type: 'start' }, { type: 'done' }];
  expect(file(...toGate, { type: 'done' }).said.at(-1)).toContain('not-accepted');
  const { state } = file(...toGate, { type: 'done', because: 'the inspector saw them at the bench' });
  expect(state.overrides).toMatchObject([{ operation: 'final', pieces: 3 }]);
});

test('nothing is accepted before it came', () => {
  const { state } = file(...arrived);
  const early = applyEntry(state, ROUTE, entry(4, hoursIn(1), { type: 'accept' }));
  expect(early).toMatchObject({ code: 'too-early' });
});

test('nothing is accepted where nothing is handed over, and nothing comes of an operation the route has not', () => {
  expect(file({ type: 'accept' }).said[0]).toContain('nothing-here');
  expect(file(...arrived, { ...back, origin: 'I/polish' }).said.at(-1)).toBe(
    "unknown-operation: the route of I-12 has no operation 'polish'",
  );
  const scrapped: EntryBody = { type: 'scrap', pieces: [1], reason: 'split', origin: 'I/buff' };
  expect(file(...arrived, scrapped).said.at(-1)).toContain('1 scrapped (split, caused at I/buff)');
  const held = ROUTE.operations.map((one) => (one.key === 'ship' ? { ...one, accepts: true as const } : one));
  expect(validateRoute({ ...ROUTE, operations: held }).map(({ problem }) => problem)).toEqual([
    expect.stringContaining('what comes is accepted before work on it begins') as string,
  ]);
});

test('faults are counted where they were found and where they were caused', () => {
  const fault = { found: 'I/assemble', caused: 'I/clear', lost: false, reason: 'run', pieces: 1 };
  expect(
    foundAndCaused([
      fault,
      { ...fault, reason: 'haze', pieces: 2 },
      { ...fault, lost: true },
      { ...fault, caused: null, pieces: 3 },
    ]),
  ).toEqual([
    {
      ...{ found: 'I/assemble', caused: 'I/clear', sentBack: 3, scrapped: 1 },
      reasons: [
        { reason: 'haze', pieces: 2 },
        { reason: 'run', pieces: 2 },
      ],
    },
    {
      ...{ found: 'I/assemble', caused: null, sentBack: 3, scrapped: 0 },
      reasons: [{ reason: 'run', pieces: 3 }],
    },
  ]);
});
