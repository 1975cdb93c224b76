import { FILED_KINDS } from '@ample-crane/core';
import { plainToInstance } from 'class-transformer';
import { validateSync } from 'class-validator';
import { FileEntriesDto } from './log.dto.ts';

const complaints = (entries: unknown): string[] =>
  validateSync(plainToInstance(FileEntriesDto, { key: 'a-key-of-8', by: 'venn', batch: 'B-217', entries }), {
    whitelist: true,
    forbidNonWhitelisted: true,
  }).flatMap(({ constraints = {} }) => Object.values(constraints));

/** One good entry of each kind, as somebody would send it. */
const GOOD = [
  { type: 'start', operation: 'mill', bed: 'table-b1', who: 'venn', because: 'first load' },
  { type: 'done', count: 6 },
  { type: 'scrap', pieces: [3], reason: 'tear-out' },
  { type: 'rework', count: 1, reason: 'run', to: 'clear', cause: 'thin edge', rest: 'waits' },
  { type: 'hold', reason: 'dust' },
  { type: 'end', panel: 'TP-4', seen: 'fine lines', because: 'sample is hard' },
  { type: 'read', valuesPct: [7.1, 7.4], woodTemperatureC: 18.5, meter: 'pin-1', depth: 'core' },
  { type: 'coat', wetUm: 105, number: 3, booth: 'booth-3', lot: 'TL-88', wetUms: [100, 110] },
  { type: 'sand', removalUm: 22, grits: [800, 1000], scuff: true },
  { type: 'mark', passed: false },
  { type: 'colour', labs: [{ l: 40, a: 30, b: -12 }] },
  { type: 'age', to: 'cold', bed: 'freezer-1' },
  { type: 'measure', valuesMm: [1.8] },
  { type: 'place', bed: 'press-2' },
  { type: 'sheet', pieces: [3], values: { relief: 0.22, 'action-bass': 1.9 }, note: 'rod a quarter tighter' },
  { type: 'serial', pieces: [1, 2] },
  { type: 'allot', pieces: [1, 2], line: null, because: 'cancelled' },
  { type: 'confirm', pieces: [1], option: 'frets', value: 'jumbo' },
  { type: 'accept', pieces: [1, 2] },
  { type: 'kit', pieces: [1], bin: '14', parts: [{ slot: 'tuners', part: 'C-101', quantity: 1 }] },
  { type: 'kit-back', pieces: [1], because: 'ordered otherwise' },
  { type: 'check', check: 'pocket-width', values: [56.02], load: 'L-1', source: 'gauge' },
  { type: 'adjust', how: 'plane', byMm: 0.1 },
  { type: 'join', partner: 'N-118', count: 4, station: 'assembly', because: 'by hand' },
  { type: 'split', count: 6 },
  { type: 'ship', to: 'Harrow Music' },
  { type: 'undo', seq: 4 },
];

describe('what may be filed (13)', () => {
  it('is every kind that can be filed, with all it may say', () => {
    expect(GOOD.map(({ type }) => type).toSorted()).toEqual(FILED_KINDS.map(({ type }) => type).toSorted());
    for (const entry of GOOD) expect(complaints([entry])).toEqual([]);
  });

  it.each([
    ['no list', 'B-217 done', 'entries must be an array'],
    ['an empty list', [], 'entries must be 1 to 20, not 0'],
    ['no object', [null], 'entries.0 must be an object'],
    ['a kind nobody knows', [{ type: 'varnish' }], /^entries\.0\.type must be one of .*start, done/],
    ['a kind that comes about by a join only', [{ type: 'arrive', parents: [] }], /^entries\.0\.type/],
    ['what must be said', [{ type: 'scrap' }], "entries.0 must have required property 'reason'"],
    ['a field of another kind', [{ type: 'sand', lot: 'TL-88' }], "entries.0 should not have 'lot'"],
    ['a null', [{ type: 'done', count: null }], 'entries.0.count must be integer'],
    ['a place before the first', [{ type: 'done', pieces: [0] }], 'entries.0.pieces.0 must be >= 1'],
    ['no words', [{ type: 'hold', reason: '' }], /^entries\.0\.reason must NOT have fewer than 1/],
    ['a bell', [{ type: 'hold', reason: 'd\u0007ust' }], 'entries.0.reason must not hold control characters'],
    ['neither', [{ type: 'age', to: 'ice' }], 'entries.0.to must be one of cold, warm'],
    ['a serial of its own', [{ type: 'serial', serials: ['TW1'] }], "entries.0 should not have 'serials'"],
    [
      'a sheet of two',
      [{ type: 'sheet', pieces: [1, 2], values: { a: 1 } }],
      /^entries\.0\.pieces must NOT have more than 1/,
    ],
    [
      'a spec of its own',
      [{ type: 'allot', pieces: [1], line: 'O-1/1', spec: {} }],
      "entries.0 should not have 'spec'",
    ],
    ['a key that is none', [{ type: 'sheet', pieces: [1], values: { 'A b': 1 } }], /^entries\.0\.values/],
    ['the second', [{ type: 'done' }, { type: 'undo', seq: '4' }], 'entries.1.seq must be integer'],
  ])('is told what is wrong with %s', (_, entries, said) => {
    expect(complaints(entries)).toEqual([
      said instanceof RegExp ? (expect.stringMatching(said) as string) : said,
    ]);
  });
});
