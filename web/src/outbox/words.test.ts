import { wordsOf } from './words.ts';

it.each<[string, Record<string, unknown>, string]>([
  ['/api/log/line', { line: 'B-201 done' }, 'B-201 done'],
  [
    '/api/log',
    {
      batch: 'N-118',
      entries: [
        { type: 'done', pieces: [1, 2] },
        { type: 'scrap', count: 1, operation: 'mill' },
      ],
    },
    'N-118: /1,2 done, 1 scrap mill',
  ],
  ['/api/log/take-back', { filing: 'abcdefgh-1234' }, 'take back what was filed as abcdefgh'],
  ['/api/batches', { model: 'Ratline', kind: 'B', quantity: 12 }, 'open 12 Ratline B'],
  ['/api/batches/B-201/readings', { sheet: 'x' }, 'B-201: a sheet of readings'],
  [
    '/api/loads',
    { table: 'table-b1', parts: [{ batch: 'B-201' }, { batch: 'B-199' }] },
    'load on table-b1: B-201, B-199',
  ],
  ['/api/loads/L-140/end', {}, 'end L-140'],
  ['/api/parts', { part: { name: 'Strap pin' } }, 'keep Strap pin as a part'],
  ['/api/parts/sheet', { sheet: 'code,counted' }, 'a sheet of the store'],
  ['/api/parts/C-101/entries', { entry: { type: 'part-count', quantity: 4 } }, 'C-101: part-count'],
  ['/api/stock/take', { batch: 'B-200', blanks: ['a', 'b'] }, 'take 2 blanks for B-200'],
  ['/api/finish/panels/P%2012/weighings', { grams: 31.4 }, 'P 12 weighs 31.4 g'],
  ['/api/something/new', {}, 'something/new'],
])('%s with %j is said as words', (path, body, words) => {
  expect(wordsOf(path, body)).toBe(words);
});

it('what is not as it should be is said as far as it goes', () => {
  expect(wordsOf('/api/loads', { table: 5, parts: 'none' })).toBe('load on 5: ');
  expect(wordsOf('/api/log', { batch: { no: 'text' } })).toBe(': ');
});
