import {
  decimalsIn,
  differenceIn,
  METRIC,
  numberIn,
  saidIn,
  signIn,
  typedIn,
  wordsIn,
  type ChosenUnits,
} from './chosen.ts';

const INCH: ChosenUnits = { length: 'in', temperature: 'F' };
const FAHRENHEIT: ChosenUnits = { length: 'mm', temperature: 'F' };

describe('a number in the units somebody chose', () => {
  it('is told in them, fine enough that no step is lost, and any other unit stays', () => {
    expect(saidIn(22, 'mm', 0, INCH)).toBe('0.87 in');
    expect(saidIn(55.5625, 'mm', 2, INCH)).toBe('2.1875 in');
    expect(saidIn(100, 'µm', 0, INCH)).toBe('3.9 mil');
    expect(saidIn(21, '°C', 0, INCH)).toBe('70 °F');
    expect(saidIn(-40, '°C', 0, INCH)).toBe('-40 °F');
    expect(saidIn(7.4, '%', 1, INCH)).toBe('7.4 %');
    expect(saidIn(22, 'mm', 0, METRIC)).toBe('22 mm');
    expect([signIn('mm', FAHRENHEIT), signIn('°C', FAHRENHEIT)]).toEqual(['mm', '°F']);
    expect([numberIn(25.4, 'mm', INCH), decimalsIn(1, 'mm', INCH), decimalsIn(1, '°C', INCH)]).toEqual([
      1, 3, 1,
    ]);
    expect([
      differenceIn(10, '°C', INCH),
      differenceIn(25.4, 'µm', INCH),
      differenceIn(3, '°C', METRIC),
    ]).toEqual([18, 1, 3]);
  });
});

describe('a number as it is typed', () => {
  it('is metric whatever it is typed in', () => {
    expect(typedIn('2 3/16', 'mm', INCH)).toBe(55.5625);
    expect(typedIn('2-3/16"', 'mm', INCH)).toBe(55.5625);
    expect(typedIn(' 3/16 in', 'mm', INCH)).toBe(4.7625);
    expect(typedIn('2,5', 'mm', INCH)).toBe(63.5);
    expect(typedIn('4', 'µm', INCH)).toBe(101.6);
    expect(typedIn('70', '°C', INCH)).toBe(21.111111);
    expect(typedIn('21,5', '°C', METRIC)).toBe(21.5);
    expect(typedIn('−3', '°C', METRIC)).toBe(-3);
  });

  it('is none where it is nonsense: nothing is guessed', () => {
    for (const text of ['', '1/0', '2 3/16/4', '2 3', '1e3', '0x10', '½', '--3', '1.2.3', 'in', '٣', '1 000'])
      expect([text, typedIn(text, 'mm', INCH)]).toEqual([text, null]);
    // Fractions are how inches are read, not millimetres.
    expect(typedIn('2 3/16', 'mm', METRIC)).toBeNull();
  });
});

describe('words in the units somebody chose', () => {
  it.each([
    ['22 mm of ash at 21 °C', '0.87 in of ash at 70 °F'],
    ['a blank of 520 × 180 × 45 mm is not in it', 'a blank of 20.47 × 7.09 × 1.77 in is not in it'],
    ['Dry at 103 ± 2 °C to constant mass.', 'Dry at 217 ± 4 °F to constant mass.'],
    ['the EMC of 21.0 °C, ± 1.0 %', 'the EMC of 69.8 °F, ± 1.0 %'],
    ['the work is 2.1 °C above the dew point', 'the work is 3.8 °F above the dew point'],
    ['the last day was 4.0 °C colder than usual', 'the last day was 7.2 °F colder than usual'],
    ['17.2 °C, wanted 18–24 °C', '63.0 °F, wanted 64–75 °F'],
    ['Faster by 10 °C', 'Faster by 18 °F'],
    ['speeds up twice for every 10 °C', 'speeds up twice for every 18 °F'],
    ['4 × 100 µm wet, takes 22 ± 3 µm', '4 × 3.9 mil wet, takes 0.9 ± 0.1 mil'],
    ['coat 3 of 8, 100 µm wet', 'coat 3 of 8, 3.9 mil wet'],
    ['above 0 to 500 µm', 'above 0.0 to 19.7 mil'],
    ['action of 2 is 1.72, 1.80 mm', 'action of 2 is 0.0677, 0.0709 in'],
    ['moved −0.31 mm', 'moved −0.0122 in'],
    ['at −5 °C', 'at 23 °F'],
    ['at −30 °C', 'at −22 °F'],
    ['B-104, 12 mm thick', 'B-104, 0.47 in thick'],
    ['1,250 mm long', '49.21 in long'],
  ])('%s', (metric, told) => {
    expect(wordsIn(metric, INCH)).toBe(told);
  });

  it('turn nothing that only looks like one, and nothing at all where metric is chosen', () => {
    for (const words of [
      '45 % at 7.1 kg',
      '12 mm² of it',
      'C-21 °Candle',
      'rack B-12 mmx',
      '3 pieces of 8 waiting',
      '60 min',
    ])
      expect(wordsIn(words, INCH)).toBe(words);
    expect(wordsIn('22 mm at 21 °C', METRIC)).toBe('22 mm at 21 °C');
    expect(wordsIn('22 mm at 21 °C', FAHRENHEIT)).toBe('22 mm at 70 °F');
  });
});
