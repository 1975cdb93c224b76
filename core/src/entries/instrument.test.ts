import type { BatchState } from '../ledger/index.ts';
import { isRefusal } from '../ledger/index.ts';
import { lineEffect } from '../logline/describe.ts';
import { YES_NO, type Check } from '../machining/check.ts';
import { checkCalls } from '../flow/check-calls.ts';
import { shelfCalls } from '../flow/shelf-calls.ts';
import { shelfApart } from '../holds/index.ts';
import { benchPieces, benchSheet, lookedAtBy } from '../measuring/index.ts';
import { passportOf } from '../passport/index.ts';
import type { Operation, Route } from '../route/index.ts';
import { bodyRoute, entry, hoursIn, openBody } from '../testing/tarrow.ts';
import type { EntryBody } from './kinds.ts';
import { applyEntry } from './reduce.ts';

const check = (key: string, nominal: number, lower: number, upper: number | null, unit = 'mm'): Check => ({
  ...{ key, name: key, unit, nominal, lower, upper, firstPiece: false, sample: 1, every: true },
});
const RELIEF = check('relief', 0.22, 0.15, 0.3);
const ACTION = check('action-bass', 1.8, 1.5, 2);
const LOOKS = check('looks', 1, 1, null, YES_NO);
const common = { stations: ['set-up'], setUpMinutes: 0, pieceMinutes: 5, skill: null, caution: null };
const OPERATIONS: Operation[] = [
  {
    ...common,
    key: 'setup',
    name: 'Set-up',
    mode: 'attended',
    coats: null,
    reworkTo: 'setup',
    checks: [RELIEF, ACTION],
    serial: true,
  },
  {
    ...{
      key: 'settle',
      name: 'Settling',
      mode: 'hold',
      stations: ['set-up'],
      room: 'Assembly',
      reworkTo: 'setup',
    },
    ...{ caution: null, checks: [ACTION] },
    rule: { rule: 'settle', word: 'settling', hours: 144, driftLimitMm: 0.1, drifts: { 'action-bass': 0.1 } },
  },
  {
    ...common,
    key: 'final',
    name: 'Final inspection',
    mode: 'gate',
    gate: { kind: 'inspection', eyes: 2 },
    reworkTo: 'setup',
    checks: [LOOKS],
  },
  { ...common, key: 'ship', name: 'Pack & ship', mode: 'ship', reworkTo: null },
];
const route: Route = { ...bodyRoute, kind: 'I', operations: OPERATIONS };

interface Filing {
  at?: number;
  by?: string;
  body: EntryBody;
}

/** Files one after the other, an hour apart unless said; gives the state and what each answered. */
function filed(
  filings: readonly Filing[],
  quantity = 2,
  on: Route = route,
): { state: BatchState; said: string[] } {
  let state: BatchState | null = null;
  const said: string[] = [];
  [{ body: openBody(on, 'I-7', quantity) } as Filing, ...filings].forEach(({ at, by = 'wick', body }, i) => {
    const outcome = applyEntry(state, on, { ...entry(i + 1, hoursIn(at ?? i), body), by });
    if (isRefusal(outcome)) said.push(`${outcome.code}: ${outcome.refused}`);
    else {
      state = outcome.state;
      said.push(lineEffect({ state, route: on, steps: [{ body, effect: outcome.effect }] }));
    }
  });
  if (!state) throw new Error('nothing was filed');
  return { state, said: said.slice(1) };
}
const sheet = (place: number, values: Record<string, number>, note?: string): EntryBody => ({
  ...{ type: 'sheet', pieces: [place], values },
  ...(note === undefined ? {} : { note }),
});
const start: EntryBody = { type: 'start' };
const done: EntryBody = { type: 'done' };
const good = { relief: 0.22, 'action-bass': 1.8 };
const setUp: Filing[] = [
  { body: start },
  { body: sheet(1, good) },
  { body: sheet(2, { ...good, 'action-bass': 1.75 }) },
  { body: { type: 'serial', serials: ['TW26001', 'TW26002'] } },
  { body: done },
];

describe('a bench sheet in the log', () => {
  it('is of one instrument where it stands, and says what it found', () => {
    const { said } = filed([
      { body: start },
      { body: sheet(1, { relief: 0.35 }) },
      { body: sheet(1, good, 'rod a quarter tighter') },
      { body: sheet(1, { plays: 1 }) },
      { body: { type: 'sheet', pieces: [1, 2], values: good } },
      { body: sheet(3, good) },
      { body: sheet(1, {}) },
      { body: done },
    ]);
    expect(said[1]).toBe(
      'I-7: /1 Adjust: relief 0.35 mm, limits 0.15–0.3 mm: it may not go on without a reason, 2 in hand at Set-up',
    );
    expect(said[2]).toBe('I-7: /1 Passes: 2 values inside their limits, 2 in hand at Set-up');
    expect(said[3]).toBe("unknown-operation: Set-up has no check 'plays': it has relief, action-bass");
    expect(said[4]).toBe('bad-value: a sheet is of one piece');
    expect(said[5]).toMatch(/^not-enough: I-7 has no piece 3/);
    expect(said[6]).toBe('bad-value: nothing is on the sheet');
    expect(said[7]).toBe(
      'checks-missing: Set-up is not measured yet: relief of 1 of 2, action-bass of 1 of 2',
    );
  });

  it('knows inches where mm are asked: 0.071 in are 1.8 mm', () => {
    expect(filed([{ body: start }, { body: sheet(1, { 'action-bass': 0.071 }) }]).said[1]).toMatch(
      /^implausible: 0\.071 was read in inches: .* 0\.071 in are 1\.8034 mm/,
    );
  });
});

describe('by every door', () => {
  it('values that come check by check count as those of a sheet do, on the shelf, too', () => {
    const each = (key: string, values: number[]): EntryBody => ({
      type: 'check',
      check: key,
      values,
      pieces: [1, 2],
    });
    const { state, said } = filed([
      { body: start },
      { body: each('relief', [0.22, 0.2]) },
      { body: each('action-bass', [1.8, 1.75]) },
      { body: { type: 'serial', serials: ['TW26001', 'TW26002'] } },
      { body: done },
      { at: 150, body: { ...each('action-bass', [1.85, 1.9]), operation: 'settle' } as EntryBody },
      { at: 151, body: { type: 'end' } },
      { at: 152, body: { type: 'end' } },
    ]);
    expect(state.pieces.map(({ operation }) => operation)).toEqual(['final', 'settle']);
    expect(said.at(-1)).toMatch(/^hold-not-over: Back to set-up: \/2 action-bass moved \+0\.15 mm/);
  });

  it('a value of a named piece is read where that piece stands, not where the rack’s first one does', () => {
    const { said } = filed([
      ...setUp,
      { at: 150, body: { type: 'rework', pieces: [2], reason: 'buzzes', to: 'setup' } },
      { at: 151, body: { type: 'start', pieces: [2] } },
      { at: 152, body: { type: 'check', check: 'action-bass', values: [1.8], pieces: [2] } },
      { at: 153, body: { type: 'done', pieces: [2] } },
    ]);
    // The first stands on the shelf, which reads the action, too.
    expect(said.at(-1)).toMatch(/^checks-missing: Set-up is not measured yet: relief of 0 of 1$/);
  });

  it('one action of the rack, which would count for nothing here, is refused with what is asked instead', () => {
    expect(filed([{ body: start }, { body: { type: 'measure', valuesMm: [1.8, 1.8] } }]).said[1]).toBe(
      'unknown-operation: I-7 is measured by a bench sheet, instrument by instrument: action-bass',
    );
  });
});

it('is not of a piece on the table of a machine, whose charts would not know of it', () => {
  const cut: Operation = {
    ...{
      key: 'mill',
      name: 'Mill',
      mode: 'load',
      stations: ['mill'],
      places: 8,
      setUpMinutes: 0,
      cycleMinutes: 9,
    },
    ...{ skill: null, reworkTo: 'mill', caution: null, checks: [RELIEF] },
  };
  const milled = { ...route, operations: [cut, ...OPERATIONS] };
  const opened = applyEntry(null, milled, entry(1, hoursIn(0), openBody(milled, 'I-7', 2)));
  if (isRefusal(opened)) throw new Error(opened.refused);
  expect(applyEntry(opened.state, milled, entry(2, hoursIn(1), sheet(1, { relief: 0.2 })))).toMatchObject({
    ...{
      code: 'nothing-here',
      refused: 'I-7/01 is waiting at Mill, not in hand or waiting or on hold for this',
    },
  });
});

describe('what the bench says', () => {
  const at = (filings: Filing[], hour: number) =>
    benchPieces(filed(filings).state, route, hoursIn(hour)).map(
      ({ position, verdict, words }) => `/${position} ${verdict}: ${words}`,
    );

  it('follows an instrument from what is to be read to what may go on', () => {
    expect(at([{ body: start }, { body: sheet(1, { relief: 0.35 }) }], 3)).toEqual([
      '/1 adjust: Adjust: relief 0.35 mm, limits 0.15–0.3 mm.',
      '/2 measure: Still to read: relief; action-bass.',
    ]);
    expect(at([{ body: start }, { body: sheet(1, good) }], 3)[0]).toBe(
      '/1 measure: Passes, and has no serial yet.',
    );
    expect(at(setUp, 149)).toEqual([
      '/1 measure: Second look is due: action-bass.',
      '/2 measure: Second look is due: action-bass.',
    ]);
    expect(at(setUp, 29)[0]).toBe('/1 wait: Settles: 5 days left.');
    const looked = [
      ...setUp,
      { at: 150, body: sheet(1, { 'action-bass': 1.82 }) },
      { at: 151, body: sheet(2, { 'action-bass': 1.9 }) },
    ];
    expect(at(looked, 152)).toEqual([
      '/1 pass: Passes: it held still.',
      '/2 back: Back to set-up: action-bass moved +0.15 mm, limit 0.10 mm.',
    ]);
  });

  it('shows the sheet of one: what counts, what it was, what to turn', () => {
    const { state } = filed([
      { body: start },
      { body: sheet(1, { relief: 0.22, 'action-bass': 2.2 }, 'as it came') },
    ]);
    expect(benchSheet(state, route, 1, hoursIn(3))).toMatchObject({
      values: { relief: 0.22, 'action-bass': 2.2 },
      sheets: [{ note: 'as it came' }],
    });
    expect(benchSheet(filed(setUp).state, route, 2, hoursIn(150))).toMatchObject({
      ...{ values: {}, before: { 'action-bass': 1.75 }, drifts: { 'action-bass': 0.1 } },
    });
    expect(benchSheet(state, route, 3, hoursIn(3))).toBeNull();
  });
});

describe('on the shelf what moved holds up none of the others', () => {
  const looked: Filing[] = [
    ...setUp,
    { at: 150, body: sheet(1, { 'action-bass': 1.82 }) },
    { at: 151, body: sheet(2, { 'action-bass': 1.9 }) },
  ];
  const shelf = OPERATIONS[1] as Operation;
  const group = { sinceMs: hoursIn(5), positions: [1, 2] };
  const calls = (filings: Filing[], hour: number) =>
    shelfCalls({ state: filed(filings).state, route }, hoursIn(hour));

  it('is judged apart once the hours are over: what may leave, and what may not', () => {
    expect(shelfApart(filed(looked).state, shelf, group, hoursIn(152))).toEqual([[1], [2]]);
    expect(shelfApart(filed(looked).state, shelf, group, hoursIn(148))).toEqual([[1, 2]]);
    expect(shelfApart(filed(setUp).state, shelf, group, hoursIn(152))).toEqual([[1, 2]]);
  });

  it('and is called: who is due, since when, and what moved', () => {
    expect(calls(setUp, 148)).toEqual([]);
    // Over at hour 149.
    expect(calls(setUp, 173)).toMatchObject([
      {
        ...{ kind: 'second-look', title: 'I-7 has settled: 2 to look at again', pieces: 2, cost: 2 },
        detail: '2 instruments due for a second look. On the shelf 24 h longer than it must.',
      },
    ]);
    expect(calls(looked, 152)).toMatchObject([
      {
        title: 'I-7 has settled: 1 moved',
        detail: expect.stringMatching(
          /^1 instrument moved: I-7\/02, Back to set-up: action-bass moved \+0\.15 mm/,
        ) as string,
      },
    ]);
  });

  it('what is in hand at the bench that read it is being put right and no call; elsewhere it is', () => {
    const high: Filing[] = [{ body: start }, { body: sheet(1, { ...good, relief: 0.35 }) }];
    expect(checkCalls([{ state: filed(high).state, route }])).toEqual([]);
    const passed: Filing[] = [
      ...high,
      { body: { type: 'serial', serials: ['A1', 'A2'] } },
      { body: { type: 'done', pieces: [1], because: 'seen' } },
      { body: { type: 'check', check: 'relief', operation: 'setup', pieces: [1], values: [0.4] } },
    ];
    expect(checkCalls([{ state: filed(passed).state, route }])).toMatchObject([{ kind: 'outside-limits' }]);
  });
});

describe('serials', () => {
  it('are given to those that have none, lowest place first, and once', () => {
    const { state, said } = filed([
      { body: start },
      { body: { type: 'serial', pieces: [2], serials: ['TW26001'] } },
      { body: { type: 'serial', serials: ['TW26002'] } },
      { body: { type: 'serial', serials: [] } },
      { body: { type: 'serial', pieces: [1], serials: ['TW26003'] } },
    ]);
    expect(state.pieces.map(({ serial }) => serial)).toEqual(['TW26002', 'TW26001']);
    expect(said[1]).toBe('I-7: serial TW26001 given, 2 in hand at Set-up');
    expect(said[3]).toMatch(/^taken: I-7\/01 has its serial: TW26002/);
    expect(said[4]).toMatch(/^taken: I-7\/01 has its serial/);
  });

  it('are wanted before the piece is through, or a reason; without one it is not shipped either', () => {
    const bare = setUp.filter(({ body }) => body.type !== 'serial');
    expect(filed(bare).said.at(-1)).toBe(
      "serial-missing: I-7/01 and 1 piece more have no serial yet, at Set-up: say 'I-7 serial'",
    );
    const { state, said } = filed(
      [
        { body: start },
        { body: sheet(1, good) },
        { body: { type: 'done', because: 'stamp is at the engraver' } },
        { at: 150, body: sheet(1, { 'action-bass': 1.82 }) },
        { at: 151, body: { type: 'end' } },
        { at: 152, by: 'rusk', body: sheet(1, { looks: 1 }) },
        { at: 153, by: 'lorne', body: sheet(1, { looks: 1 }) },
        { at: 154, body: done },
        { at: 155, body: { type: 'ship', to: 'Harbour Strings' } },
      ],
      1,
    );
    expect(state.overrides[0]?.against).toMatch(/^I-7\/01 has no serial yet/);
    expect(said.at(-1)).toMatch(/^serial-missing: I-7\/01 has no serial yet, at Pack & ship/);
  });
});

describe('settling, one instrument at a time', () => {
  const settled = (...filings: Filing[]) => filed([...setUp, ...filings]);

  it('asks for the second look of each, lets go what held still, and sends back the one that moved', () => {
    // On the shelf from hour 5, over at hour 149.
    const { state, said } = settled(
      { at: 148, body: { type: 'end' } },
      { at: 150, body: { type: 'end' } },
      { at: 151, body: sheet(1, { 'action-bass': 1.85 }) },
      { at: 152, body: sheet(2, { 'action-bass': 1.88 }) },
      { at: 153, body: { type: 'end', pieces: [2] } },
      { at: 154, body: { type: 'end' } },
    );
    expect(said[5]).toMatch(/^hold-not-over: Wait: 1 h of settling left/);
    expect(said[6]).toBe(
      'hold-not-over: Measure again: 6 days of settling are over, /1 /2 not yet looked at a second time.',
    );
    expect(said[9]).toBe('hold-not-over: Back to set-up: /2 action-bass moved +0.13 mm, limit 0.10 mm.');
    expect(state.pieces.map(({ operation }) => operation)).toEqual(['final', 'settle']);
  });

  it('what is sent back is set up and looked at anew: sheets of before do not count for it', () => {
    const { state, said } = settled(
      { at: 152, body: sheet(2, { 'action-bass': 1.88 }) },
      { at: 153, body: { type: 'rework', pieces: [2], reason: 'drifted', to: 'setup' } },
      { at: 154, body: { type: 'start', pieces: [2] } },
      { at: 155, body: { type: 'done', pieces: [2] } },
      { at: 156, body: sheet(2, { relief: 0.2, 'action-bass': 1.76 }) },
      { at: 157, body: { type: 'done', pieces: [2] } },
      { at: 302, body: sheet(2, { 'action-bass': 1.8 }) },
      { at: 303, body: { type: 'end', pieces: [2] } },
    );
    expect(said[8]).toMatch(/^checks-missing: .*relief of 0 of 1/);
    // Its serial stays its own.
    expect(state.pieces[1]).toMatchObject({ operation: 'final', serial: 'TW26002' });
  });
});

describe('two pairs of eyes, and shipping', () => {
  const upTo: Filing[] = [
    ...setUp,
    { at: 150, body: sheet(1, { 'action-bass': 1.8 }) },
    { at: 151, body: sheet(2, { 'action-bass': 1.8 }) },
    { at: 152, body: { type: 'end' } },
  ];

  it('want two people; the same twice is one', () => {
    const { said, state } = filed([
      ...upTo,
      { at: 153, by: 'rusk', body: sheet(1, { looks: 1 }) },
      { at: 154, by: 'rusk', body: sheet(1, { looks: 1 }) },
      { at: 155, by: 'rusk', body: sheet(2, { looks: 1 }) },
      { at: 156, body: { type: 'done', pieces: [1] } },
      { at: 157, by: 'lorne', body: sheet(1, { looks: 1 }) },
      { at: 158, body: { type: 'done', pieces: [1] } },
      { at: 159, by: 'lorne', body: sheet(1, { looks: 1 }) },
      { at: 160, by: 'lorne', body: sheet(2, { looks: 0 }) },
      { at: 161, body: { type: 'done', pieces: [2] } },
    ]);
    expect(said[11]).toBe(
      'second-eyes: Final inspection wants two pairs of eyes: I-7/01 was looked at, all of it, by rusk alone',
    );
    expect(state.pieces.map(({ operation }) => operation)).toEqual(['ship', 'final']);
    // It is past the inspection: the second inspector who was slower is told so.
    expect(said[14]).toMatch(/^nothing-here: I-7\/01 is waiting at Pack & ship/);
    expect(said[16]).toMatch(/^outside-limits: looks of I-7\/02 is no/);
  });

  it('count by whatever way they are filed, and only where all of it was looked at', () => {
    const FIT: Check = { ...LOOKS, key: 'plays', name: 'plays' };
    const two = {
      ...route,
      operations: OPERATIONS.map((one) => (one.key === 'final' ? { ...one, checks: [LOOKS, FIT] } : one)),
    };
    const yes = (key: string): EntryBody => ({ type: 'check', check: key, values: [1, 1], pieces: [1, 2] });
    const gate = two.operations[2] as Operation;
    const seen = (filings: Filing[]) => {
      const { state } = filed([...upTo, ...filings], 2, two);
      return state.pieces.map((piece) => lookedAtBy(state, gate, piece));
    };
    expect(seen([{ at: 153, by: 'rusk', body: yes('looks') }])).toEqual([[], []]);
    expect(
      seen([
        { at: 153, by: 'rusk', body: yes('looks') },
        { at: 154, by: 'rusk', body: yes('plays') },
        { at: 155, by: 'lorne', body: sheet(2, { looks: 1, plays: 1 }) },
        { at: 156, by: 'wick', body: sheet(1, { looks: 1 }) },
      ]),
    ).toEqual([['rusk'], ['rusk', 'lorne']]);
  });

  it('is kept with what left, for whom, and is not done twice', () => {
    const away: EntryBody = {
      type: 'ship',
      pieces: [1],
      to: 'Harbour Strings',
      order: 'O-12',
      carrier: 'C 881',
      contents: 'case',
    };
    const { state, said } = filed([
      ...upTo,
      ...[1, 2].flatMap((place) =>
        ['rusk', 'lorne'].map((by): Filing => ({ at: 153, by, body: sheet(place, { looks: 1 }) })),
      ),
      { at: 154, body: done },
      { at: 155, body: away },
      { at: 156, body: away },
      { at: 157, body: { type: 'rework', pieces: [2], reason: 'scratch', to: 'setup' } },
      { at: 158, body: { type: 'ship', pieces: [2] } },
    ]);
    expect(said[13]).toBe('I-7: 1 shipped to Harbour Strings, order O-12, 1 waiting at Pack & ship');
    expect(said[14]).toMatch(/^nothing-here: I-7\/01 is shipped/);
    expect(said[16]).toMatch(/^nothing-here: I-7\/02 is waiting at Set-up/);
    const lines = passportOf(state, route, 1);
    expect(lines.map(({ kind, words, by }) => `${kind}: ${words} (${by ?? 'nobody'})`)).toEqual([
      'sheet: relief 0.22 mm, action-bass 1.8 mm (wick)',
      'sheet: action-bass 1.8 mm (wick)',
      'sheet: looks yes (rusk)',
      'sheet: looks yes (lorne)',
      'shipment: shipped to Harbour Strings, order O-12, carrier C 881, with case (wick)',
    ]);
  });
});
