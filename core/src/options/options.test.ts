import { randomStream } from '../stats/random.ts';
import {
  checkOptions,
  neverSold,
  operationSpec,
  specDifference,
  specOf,
  validateBook,
  withUsual,
  type Option,
  type OptionRule,
} from './index.ts';

const option = (key: string, name: string, codes: string[], rest: Partial<Option> = {}): Option => ({
  ...{ key, name, values: codes.map((code) => ({ code, name: code.toUpperCase() })) },
  ...{ builtAt: [], shownAt: [], sharesRack: false },
  ...rest,
});
const FRETS = option('frets', 'Frets', ['medium', 'jumbo'], { builtAt: ['N/fret'], shownAt: ['N/slots'] });
const COLOUR = option('colour', 'Colour', ['blue', 'natural'], { builtAt: ['B/colour'], sharesRack: true });
const FIGURE = option('figure', 'Figure', ['plain', 'some', 'strong'], { shownAt: ['N/fret'] });
const NATURAL_NEEDS_FIGURE: OptionRule = {
  ...{ kind: 'needs', option: 'colour', value: 'natural', other: 'figure', values: ['some', 'strong'] },
};
const BLUE_WASTES_FIGURE: OptionRule = {
  ...{ kind: 'excludes', option: 'colour', value: 'blue', other: 'figure', values: ['strong'] },
};
const BOOK = {
  ...{ model: 'Halyard', revision: 3, options: [FRETS, COLOUR, FIGURE] },
  rules: [NATURAL_NEEDS_FIGURE, BLUE_WASTES_FIGURE],
};

describe('what is chosen, held against what is sold', () => {
  it('names the two options that disagree, and what would be right', () => {
    const problems = checkOptions({ frets: 'jumbo', colour: 'natural', figure: 'plain' }, BOOK);
    expect(problems).toEqual([
      {
        options: ['colour', 'figure'],
        sentence: 'Colour NATURAL needs Figure SOME or STRONG: Figure is PLAIN',
      },
    ]);
    expect(checkOptions({ frets: 'jumbo', colour: 'blue', figure: 'strong' }, BOOK)[0]?.sentence).toBe(
      'Colour BLUE does not go with Figure STRONG: Figure is STRONG',
    );
  });

  it('names what nobody sells, what is missing and what there is not', () => {
    const told = checkOptions({ frets: 'gold', colour: 'blue', pedal: 'yes' }, BOOK);
    expect(told.map(({ sentence }) => sentence)).toEqual([
      "there is no option 'pedal'",
      "Frets 'gold' is not sold: it is medium or jumbo",
      'Figure: nothing is chosen',
    ]);
    expect(checkOptions(withUsual(BOOK, { frets: 'jumbo' }), BOOK)).toEqual([]);
    // Names that every object has are no options.
    expect(checkOptions({ ...withUsual(BOOK, {}), constructor: 'blue' }, BOOK)).toHaveLength(1);
  });

  it('finds what brute force finds, for 2,000 specs of 40 options under 60 rules', () => {
    const random = randomStream(15);
    const codes = ['a', 'b', 'c', 'd'];
    const pick = <T>(from: readonly T[]): T => from[Math.floor(random.next() * from.length)] as T;
    const options = Array.from({ length: 40 }, (_, i) => option(`o${i}`, `O${i}`, codes));
    const rules = Array.from({ length: 60 }, (): OptionRule => {
      const [one, other] = [pick(options), pick(options)];
      const values = codes.filter(() => random.next() < 0.5);
      return {
        kind: random.next() < 0.5 ? 'needs' : 'excludes',
        ...{ option: one.key, value: pick(codes) },
        ...{ other: other === one ? (options.find((o) => o !== one)?.key ?? '') : other.key, values },
      };
    });
    let broken = 0;
    for (let i = 0; i < 2_000; i += 1) {
      const choices = Object.fromEntries(options.map(({ key }) => [key, pick(codes)]));
      // Every rule written out as the pairs of values it forbids, and every pair of the spec looked up among them.
      const expected = rules
        .filter((rule) =>
          codes.some(
            (other) =>
              choices[rule.option] === rule.value &&
              choices[rule.other] === other &&
              (rule.kind === 'needs') !== rule.values.some((value) => value === other),
          ),
        )
        .map((rule) => [rule.option, rule.other]);
      const told = checkOptions(choices, { options, rules });
      expect(told.map((one) => one.options)).toEqual(expected);
      for (const {
        options: [one, other],
        sentence,
      } of told) {
        expect(sentence).toContain(one.toUpperCase());
        expect(sentence).toContain(other?.toUpperCase());
      }
      broken += expected.length;
    }
    expect(broken).toBeGreaterThan(5_000);
  });
});

describe('what is to be sold', () => {
  const places = ['N/fret', 'N/slots', 'B/colour'];
  const built = { places, recipes: ['acrylic'], ways: [['slots', 'board'] as const] };

  it('is checked as it is entered', () => {
    expect(validateBook(BOOK, built)).toEqual([]);
    expect(validateBook(BOOK, { ...built, places: ['N/fret', 'B/colour'] })).toEqual([
      "Frets: no route has the operation 'N/slots'",
    ]);
    const rules: OptionRule[] = [
      { ...NATURAL_NEEDS_FIGURE, value: 'puce' },
      { ...NATURAL_NEEDS_FIGURE, other: 'colour', values: ['blue'] },
      { ...NATURAL_NEEDS_FIGURE, values: [] },
    ];
    expect(validateBook({ ...BOOK, rules }, built)).toEqual([
      "'Colour puce needs Figure SOME or STRONG': Colour 'puce' is not sold",
      "'Colour NATURAL needs Colour BLUE' is about one option only",
      "'Colour NATURAL needs Figure ' names no value of the other option",
    ]);
    expect(validateBook({ options: [FRETS, FRETS], rules: [] }, built)).toEqual([
      "two options have the key 'frets'",
    ]);
  });

  it('is built by recipes and ways that there are', () => {
    const value = (recipe: string, to: string) => ({ code: 'a', name: 'A', recipe, ways: { slots: to } });
    const sold = (recipe: string, to: string) =>
      validateBook({ options: [{ ...COLOUR, values: [value(recipe, to)] }], rules: [] }, built);
    expect(sold('acrylic', 'board')).toEqual([]);
    expect(sold('whitewash', 'moon')).toEqual([
      "Colour A: the model is not finished by a recipe 'whitewash'",
      "Colour A: no route goes from 'slots' to 'moon'",
    ]);
  });

  it('has no value that the rules leave nothing beside, seen through others', () => {
    // Jumbo needs natural, natural needs figure, and jumbo does not go with figure.
    const rules: OptionRule[] = [
      { kind: 'needs', option: 'frets', value: 'jumbo', other: 'colour', values: ['natural'] },
      NATURAL_NEEDS_FIGURE,
      { kind: 'excludes', option: 'frets', value: 'jumbo', other: 'figure', values: ['some', 'strong'] },
    ];
    expect(neverSold({ options: BOOK.options, rules }).map(({ value }) => value)).toEqual(['JUMBO']);
    expect(validateBook({ options: BOOK.options, rules }, built)[0]).toMatch(
      /^Frets JUMBO can never be chosen/,
    );
  });

  it('agrees with all specs written out, for small catalogues', () => {
    const random = randomStream(7);
    const codes = ['a', 'b', 'c'];
    const pick = <T>(from: readonly T[]): T => from[Math.floor(random.next() * from.length)] as T;
    const options = ['p', 'q', 'r', 's'].map((key) => option(key, key, codes));
    const all = codes.flatMap((p) =>
      codes.flatMap((q) => codes.flatMap((r) => codes.map((s) => ({ p, q, r, s })))),
    );
    let orphans = 0;
    for (let i = 0; i < 200; i += 1) {
      const rules = Array.from({ length: 7 }, (): OptionRule => {
        const [one, other] = [pick(options), pick(options)];
        return {
          kind: pick(['needs', 'excludes'] as const),
          ...{ option: one.key, value: pick(codes), values: [pick(codes)] },
          other: other === one ? (options.find((o) => o !== one)?.key ?? '') : other.key,
        };
      });
      const sold = all.filter((choices) => checkOptions(choices, { options, rules }).length === 0);
      const expected = options.flatMap(({ key }) =>
        codes
          .filter((code) => !sold.some((choices) => choices[key as 'p'] === code))
          .map((code) => `${key}${code}`),
      );
      const told = neverSold({ options, rules }).map(
        ({ option: { key }, value }) => `${key}${value.toLowerCase()}`,
      );
      expect(told).toEqual(expected);
      orphans += expected.length;
    }
    expect(orphans).toBeGreaterThan(50);
  });
});

describe('a spec', () => {
  const spec = specOf(BOOK, { frets: 'jumbo' }, 'Odile');

  it('has the usual where nothing is chosen, and says at an operation what matters there', () => {
    expect(spec.lines.map(({ value }) => value)).toEqual(['jumbo', 'blue', 'plain']);
    expect(spec.label).toBe('Odile');
    expect(operationSpec(spec, { kind: 'N', key: 'fret' })).toEqual([
      { option: 'frets', name: 'Frets', value: 'jumbo', valueName: 'JUMBO', built: true },
      { option: 'figure', name: 'Figure', value: 'plain', valueName: 'PLAIN', built: false },
    ]);
    expect(operationSpec(spec, { kind: 'N', key: 'slots' }).map(({ built }) => built)).toEqual([false]);
    // The same key on another kind's route is another operation.
    expect(operationSpec(spec, { kind: 'B', key: 'fret' })).toEqual([]);
    expect(() => specOf(BOOK, { frets: 'gold' })).toThrow('Frets has no value');
  });

  it('differs by what is otherwise, also by what was not sold then', () => {
    const bare = { lines: spec.lines.slice(1) };
    expect(specDifference(spec, specOf(BOOK, {}))).toEqual([
      { option: 'frets', name: 'Frets', from: 'JUMBO', to: 'MEDIUM', builtAt: ['N/fret'] },
    ]);
    expect(specDifference(bare, spec)[0]).toMatchObject({ from: null, to: 'JUMBO' });
    expect(specDifference(spec, bare)[0]).toMatchObject({ from: 'JUMBO', to: null });
    expect(specDifference(null, spec)).toHaveLength(3);
  });
});
