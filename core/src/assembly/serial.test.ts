import fc from 'fast-check';
import { isUsedOnPaper, parseSerial, serialCounts, serialFromPattern, serialProblems } from './serial.ts';

const of = (pattern: string, sequence = 7, date = '2026-11-24', model = 'BL') =>
  serialFromPattern(pattern, { date, model, sequence });

describe('a serial', () => {
  it('is put together from its tokens: 24 November is day 328 of 2026, 31 December day 366 of 2028', () => {
    expect(of('TW{yy}{day}{n:3}')).toEqual({ serial: 'TW26328007' });
    expect(of('{model}-{year}/{all:6}')).toEqual({ serial: 'BL-2026/000007' });
    expect(of('{year}{day}{n:2}', 99, '2028-12-31')).toEqual({ serial: '202836699' });
    expect(of('{year}{day}{n:2}', 1, '2026-01-01')).toEqual({ serial: '202600101' });
  });

  it('ends in the check character of ISO/IEC 7064 MOD 37,36: M for A12425GABC1234002, an example of the standard', () => {
    expect(of('A12425GABC{all:7}{check}', 1234002)).toEqual({ serial: 'A12425GABC1234002M' });
    // Signs between do not count.
    expect(of('A1-2425G-ABC{all:7}{check}', 1234002)).toEqual({ serial: 'A1-2425G-ABC1234002M' });
  });

  it('reads back, and not with one character wrong', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999 }), fc.integer({ min: 0, max: 9 }), (sequence, sign) => {
        const pattern = 'TW{yy}{day}{n:3}{check}';
        const made = of(pattern, sequence);
        if (!('serial' in made)) throw new Error(made.problem);
        const { serial } = made;
        expect(parseSerial(serial, pattern)).toEqual({ year: '26', day: 328, sequence });
        const wrong = serial.slice(0, 5) + String(sign) + serial.slice(6);
        if (wrong !== serial) expect(parseSerial(wrong, pattern)).toBeNull();
      }),
    );
    expect(parseSerial('BL-2026/000007', '{model}-{year}/{all:6}')).toEqual({
      ...{ year: '2026', sequence: 7, model: 'BL' },
    });
    expect(parseSerial('TW26399007', 'TW{yy}{day}{n:3}')).toBeNull();
    expect(parseSerial('TW26328000', 'TW{yy}{day}{n:3}')).toBeNull();
    expect(parseSerial('anything', 'TW{yy}{day}{n:3}')).toBeNull();
  });

  it('is not given where the number has outgrown its digits, or the model has no letters', () => {
    expect(of('TW{yy}{day}{n:2}', 100)).toEqual({
      problem: 'number 100 does not fit into 2 digits: the pattern is used up for the day',
    });
    expect(of('{all:1}', 10)).toMatchObject({
      problem: expect.stringMatching(/1 digit: .* used up$/) as string,
    });
    expect(of('{model}{all:3}', 1, '2026-01-01', '')).toMatchObject({
      problem: expect.stringMatching(/no letters/) as string,
    });
    expect(() => of('{n:3}')).toThrow(RangeError);
    expect(() => of('{all:3}', 0)).toThrow(RangeError);
  });
});

describe('a pattern that would repeat', () => {
  it.each([
    ['TW{yy}{day}', /would repeat at once/],
    ['TW{n:3}', /needs the year and the day/],
    ['TW{yy}{n:3}', /needs the year and the day/],
    ['TW{all:3}{all:3}', /the number stands in it twice/],
    ['TW{yy}{year}{all:3}', /year stands in it twice/],
    ['{check}{all:3}', /check character comes last/],
    ['tw{all:3}', /'tw' is not fixed text/],
    ['{all}', /nothing is called '\{all\}'/],
    ['{all:0}', /nothing is called/],
    ['{year:4}{all:3}', /nothing is called/],
    ['TW{all:3', /nothing is called '\{all:3'/],
    ['', /1 to 60 characters/],
    [`${'X'.repeat(20)}{all:6}`, /up to 26 characters: 24 at most/],
  ])('%s is refused with the reason', (pattern, reason) => {
    expect(serialProblems(pattern).join('; ')).toMatch(reason);
    expect(parseSerial('X', pattern)).toBeNull();
  });

  it('and one that does not is not', () => {
    for (const pattern of ['TW{yy}{day}{n:3}', '{all:6}', '{model}{yy}{all:5}{check}'])
      expect(serialProblems(pattern)).toEqual([]);
    expect(serialCounts('TW{yy}{day}{n:3}')).toBe('day');
    expect(serialCounts('{all:6}')).toBe('overall');
    expect(serialCounts('TW')).toBeNull();
  });

  it('never gives the same twice: different days, numbers and models make different serials', () => {
    const days = fc.constantFrom('2026-01-11', '2026-11-01', '2026-11-24', '2027-11-24');
    const context = fc.record({
      date: days,
      model: fc.constantFrom('B', 'B1', '1', '11'),
      sequence: fc.integer({ min: 1, max: 99 }),
    });
    fc.assert(
      fc.property(context, context, (a, b) => {
        const pattern = '{model}{yy}{day}{n:2}';
        // Within a day all models share one number.
        const same = a.date === b.date && a.sequence === b.sequence;
        if (same) return;
        expect(serialFromPattern(pattern, a)).not.toEqual(serialFromPattern(pattern, b));
      }),
      { numRuns: 2000 },
    );
  });
});

it('knows what paper has used, both ends included', () => {
  const ranges = [{ from: 'TW26320001', to: 'TW26320040' }];
  expect(['TW26320001', 'TW26320040'].every((serial) => isUsedOnPaper(serial, ranges))).toBe(true);
  expect(['TW26320041', 'TW26319040', 'TW2632'].some((serial) => isUsedOnPaper(serial, ranges))).toBe(false);
});
