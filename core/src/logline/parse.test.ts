import fc from 'fast-check';
import { parseLine, type LineAction, type Understood } from './parse.ts';

const vocabulary = {
  batches: ['B-217', 'N-118', 'I-31'],
  stations: [
    { code: 'body-mill', name: 'Body mill' },
    { code: 'neck-mill', name: 'Neck mill' },
    { code: 'neck-fit', name: 'Neck fit' },
    { code: 'colour', name: 'Colour booth' },
    { code: 'buff', name: 'Sand & buff' },
  ],
};

const understood = (line: string): Understood => {
  const parsed = parseLine(line, vocabulary);
  if ('notUnderstood' in parsed) throw new Error(parsed.notUnderstood.message);
  return parsed.understood;
};
const actions = (line: string): LineAction[] => understood(line).actions;
const trouble = (line: string) => {
  const parsed = parseLine(line, vocabulary);
  if ('understood' in parsed) throw new Error(`understood: ${JSON.stringify(parsed.understood)}`);
  return parsed.notUnderstood;
};

describe('a typed line', () => {
  it('says what was done and what was lost in one breath', () => {
    expect(understood('B-217 body mill 6 done 1 scrap tear-out')).toEqual({
      batch: 'B-217',
      moment: null,
      actions: [
        { type: 'done', station: 'body-mill', count: 6 },
        { type: 'scrap', station: 'body-mill', count: 1, reason: 'tear-out' },
      ],
    });
  });

  it('takes the number before or after the verb, and none for all', () => {
    expect(actions('B-217 done 6')).toEqual(actions('B-217 6 done'));
    expect(actions('B-217 done 6 1 scrap run')).toEqual(actions('B-217 6 done 1 scrap run'));
    expect(actions('B-217 start')).toEqual([{ type: 'start' }]);
    expect(actions('B-217 start all')).toEqual([{ type: 'start' }]);
  });

  it.each([
    ['body mill', 'body-mill'],
    ['bod', 'body-mill'],
    ['neck f', 'neck-fit'],
    ['col', 'colour'],
    ['buff', 'buff'],
    ['SAND & BUFF', 'buff'],
  ])('knows the station by %s', (said, code) => {
    expect(actions(`B-217 ${said} start`)).toEqual([{ type: 'start', station: code }]);
    expect(actions(`${said} B-217 start`)).toEqual([{ type: 'start', station: code }]);
  });

  it('reads batch codes without dash or capitals, and pieces after a slash', () => {
    expect(understood('b217 start').batch).toBe('B-217');
    expect(actions('B-217/03,05 done')).toEqual([{ type: 'done', pieces: [3, 5] }]);
  });

  it('reads moisture with point or comma, and the wood temperature', () => {
    expect(actions('B-217 read 7.1 7,4 6.9')).toEqual([{ type: 'read', valuesPct: [7.1, 7.4, 6.9] }]);
    expect(actions('B-217 read 7.1 7.4 temp 18.5')).toEqual([
      { type: 'read', valuesPct: [7.1, 7.4], woodTemperatureC: 18.5 },
    ]);
  });

  it.each([
    ['B-217 coat wet 110', [{ type: 'coat', wetUm: 110 }]],
    ['B-217 coat', [{ type: 'coat' }]],
    [
      'B-217 coat wet 105 booth 3 lot tl-88 by Tamsin because thin edges',
      [{ type: 'coat', wetUm: 105, booth: 'booth-3', lot: 'TL-88', who: 'tamsin', because: 'thin edges' }],
    ],
    ['B-217 colour start by tamsin', [{ type: 'start', station: 'colour', who: 'tamsin' }]],
    ['B-217 end panel tp-4', [{ type: 'end', panel: 'TP-4' }]],
    ['B-217/2 mark passed', [{ type: 'mark', pieces: [2], passed: true }]],
    ['B-217 mark failed', [{ type: 'mark', passed: false }]],
    ['B-217 age cold', [{ type: 'age', to: 'cold' }]],
    ['B-217 age warm because power cut', [{ type: 'age', to: 'warm', because: 'power cut' }]],
    ['I-31 measure 1.7 1.8', [{ type: 'measure', valuesMm: [1.7, 1.8] }]],
    ['B-217 join N-118 11', [{ type: 'join', partner: 'N-118', count: 11 }]],
    ['B-217 11 join N-118', [{ type: 'join', partner: 'N-118', count: 11 }]],
    ['I-31 3 ship to order 4711', [{ type: 'ship', count: 3, to: 'order 4711' }]],
    ['B-217 2 hold wrong colour', [{ type: 'hold', count: 2, reason: 'wrong colour' }]],
    ['B-217 end because the fair opens', [{ type: 'end', because: 'the fair opens' }]],
    ['B-217 1 rework run', [{ type: 'rework', count: 1, reason: 'run' }]],
    ['B-217 place press-1', [{ type: 'place', bed: 'press-1' }]],
    [
      'B-217/1,2 check pocket-width 55,91 55.9',
      [{ type: 'check', pieces: [1, 2], check: 'pocket-width', values: [55.91, 55.9] }],
    ],
    [
      'B-217 join N-118 because planed by hand',
      [{ type: 'join', partner: 'N-118', because: 'planed by hand' }],
    ],
    ['B-217 4 split', [{ type: 'split', count: 4 }]],
    ['B-217 undo', [{ type: 'undo' }]],
  ] as [string, LineAction[]][])('%s', (line, expected) => {
    expect(actions(line)).toEqual(expected);
  });

  it('leaves a check and a split in the reason they are', () => {
    expect(actions('B-217 done 6 1 scrap check unintended')).toEqual([
      { type: 'done', count: 6 },
      { type: 'scrap', count: 1, reason: 'check unintended' },
    ]);
    expect(actions('B-217 1 scrap split at a screw 1 rework run')).toEqual([
      { type: 'scrap', count: 1, reason: 'split at a screw' },
      { type: 'rework', count: 1, reason: 'run' },
    ]);
  });

  it('takes the time it happened', () => {
    expect(understood('B-217 6 done at 9:40')).toMatchObject({
      moment: { clock: '09:40', daysAgo: 0 },
      actions: [{ type: 'done', count: 6 }],
    });
    expect(understood('B-217 1 scrap chip at 09:40').actions).toEqual([
      { type: 'scrap', count: 1, reason: 'chip' },
    ]);
  });

  it('takes a bare undo as the last thing filed here', () => {
    expect(understood('undo')).toEqual({ batch: null, moment: null, actions: [{ type: 'undo' }] });
  });
});

describe('a line of somebody who measures in inches and °F', () => {
  const typed = (line: string) =>
    parseLine(line, { ...vocabulary, units: { length: 'in', temperature: 'F' } });

  it.each([
    [
      'B-217 measure 0.07 0.071',
      'is 0.07 0.071 in inches or in mm?',
      ['B-217 measure 0.07in 0.071in', 'B-217 measure 0.07mm 0.071mm'],
    ],
    [
      'B-217 coat wet 4 booth 3',
      'is 4 in mils or in µm?',
      ['B-217 coat wet 4mil booth 3', 'B-217 coat wet 4µm booth 3'],
    ],
    [
      'B-217 read 7.1 temp 68',
      'is 68 in °F or in °C?',
      ['B-217 read 7.1 temp 68°F', 'B-217 read 7.1 temp 68°C'],
    ],
  ])('%s is asked about, and what is offered is understood', (line, message, offered) => {
    const parsed = typed(line);
    if ('understood' in parsed) throw new Error('it was not asked');
    expect(parsed.notUnderstood.message).toBe(message);
    expect(parsed.notUnderstood.choices?.map((choice) => choice.line)).toEqual(offered);
    for (const one of offered) expect(typed(one)).toHaveProperty('understood');
  });

  it('is not asked about what is no length, or has its sign', () => {
    for (const line of [
      'B-217 6 done',
      'B-217 sand grit 800',
      'B-217 shim 0.004in',
      'B-217 check relief 0.2',
    ])
      expect(typed(line)).toHaveProperty('understood');
  });
});

describe('a line that is not understood', () => {
  it.each([
    ['B-999 start', 'B-999 is not an open batch', 'B-999'],
    ['B-217 drill 6 done', "'drill' is not understood", 'drill'],
    ['B-217 neck start', "'neck' may be Neck mill or Neck fit", 'neck'],
    ['B-217 read dry', "'dry' is not a number: 'read' takes readings", 'dry'],
    ['B-217 6.5 done', "'6.5' is not a number of pieces", '6.5'],
    ['B-217 start frobnicate', "'frobnicate' is not understood", 'frobnicate'],
    ['B-217 done at 25:00', '25:00 is not a time of day', '25:00'],
    ['B-217 mark perhaps', "'perhaps' is neither passed nor failed", 'perhaps'],
    ['B-217 join N-999', 'N-999 is not an open batch', 'N-999'],
    ['B-217 check pocket-width wide', "'wide' is not a number: 'check' takes values", 'wide'],
  ])('%s', (line, message, word) => {
    const at = trouble(line);
    expect(at.message).toBe(message);
    expect(line.slice(at.start, at.start + at.length)).toBe(word);
  });

  it.each([
    ['', 'type a batch and what was done'],
    [
      'B-217',
      'say what was done: start, done, accept, scrap, rework, hold, end, read, coat, sand, mark, age, measure, place, check, plane, shim, join, split, serial, confirm, kit, ship, undo',
    ],
    ['6 done', 'name the batch'],
    ['B-217 scrap', "'scrap' needs a reason"],
    ['B-217 read', "'read' needs readings"],
    ['B-217 join', "'join' needs the other batch"],
    ['B-217 place', "'place' needs a press or table"],
    ['B-217 coat wet', "'wet' needs a number"],
    ['B-217 mark', "'mark' needs passed or failed"],
    ['B-217 coat booth', "'booth' needs the number of a booth"],
  ])("'%s' says what is missing", (line, message) => {
    expect(trouble(line)).toMatchObject({ message, length: 0, start: line.length });
  });

  it('refuses ten thousand characters and control characters', () => {
    expect(trouble(`B-217 ${'x'.repeat(10_000)}`).message).toMatch(/10006 characters, at most 500/);
    expect(trouble('B-217 start\u0007').message).toBe('there is a control character at place 12');
  });

  it('is never a crash, whatever is typed (seed 5)', () => {
    const word = fc.constantFrom(
      'B-217',
      'done',
      'scrap',
      '6',
      'at',
      '09:40',
      'neck',
      'join',
      'N-118',
      'wet',
      'read',
      '7,1',
      'because',
      'temp',
      '&',
      '/',
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 80 }),
          fc.array(word, { maxLength: 12 }).map((words) => words.join(' ')),
        ),
        (line) => {
          const parsed = parseLine(line, vocabulary);
          return 'understood' in parsed || parsed.notUnderstood.start <= line.length;
        },
      ),
      { seed: 5, numRuns: 2000 },
    );
  });
});
