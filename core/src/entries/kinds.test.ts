import { FILED_KINDS, kindOf, KINDS } from './kinds.ts';

describe('the kinds of entries', () => {
  it('have a type of their own each, and are found by it', () => {
    const types = KINDS.map(({ type }) => type);
    expect(new Set(types).size).toBe(types.length);
    for (const kind of KINDS) expect(kindOf(kind)).toBe(kind);
    expect(() => kindOf({ type: 'varnish' })).toThrow(/no kind of entry 'varnish'/);
  });

  it('are said by words that stand for one verb only', () => {
    const words = FILED_KINDS.flatMap(({ line }) =>
      Object.entries(line?.verbs ?? {}).flatMap(([verb, others]) => [verb, ...others]),
    );
    expect(words.filter((word, i) => words.indexOf(word) !== i)).toEqual([]);
    expect(words).toEqual(words.map((word) => word.toLowerCase()));
  });

  it('ask for nothing they have no form of', () => {
    const without = FILED_KINDS.flatMap(({ type, asked: { fields, needs } }) =>
      needs.filter((field) => !(field in fields)).map((field) => `${type}.${field}`),
    );
    expect(without).toEqual([]);
    // What only comes about by something else cannot be filed by itself.
    const filed: readonly string[] = FILED_KINDS.map(({ type }) => type);
    expect(KINDS.map(({ type }) => type).filter((type) => !filed.includes(type))).toEqual([
      'open',
      'arrive',
      'refinish',
      'meet',
      'pair',
      'reroute',
    ]);
  });
});
