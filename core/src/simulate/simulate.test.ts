import fc from 'fast-check';
import type { FactoryModel, SimResult, SimStay, SimWork } from './factory-model.ts';
import { simulate } from './simulate.ts';

const work = (key: string, each: number, more: Partial<SimWork> = {}): SimWork => ({
  ...{ mode: 'work', key, stations: [key], hours: { each, cv: 0 } },
  ...more,
});
const station = (code: string, servers = 1, more = {}) => ({ code, servers, ...more });
const racks = (count: number, pieces = 1, more = {}) =>
  Array.from({ length: count }, () => ({ route: 'r', step: 'a', pieces, ...more }));

/** Plays a model and gives what left and every stay. */
function played(
  model: FactoryModel,
  rest: Partial<Parameters<typeof simulate>[0]> = {},
): SimResult & { stays: SimStay[] } {
  const stays: SimStay[] = [];
  const result = simulate({ model, until: 1000, seed: 1, onStay: (stay) => stays.push(stay), ...rest });
  return { ...result, stays };
}
const leaves = ({ finished }: SimResult): number[] => finished.map(({ to }) => to);

describe('a factory that is played', () => {
  it('is worked out by hand: three racks of two, two benches, then one press that sets up for each', () => {
    const model: FactoryModel = {
      stations: [station('a', 2), station('b')],
      routes: [{ code: 'r', steps: [work('a', 1), work('b', 0.5, { setUpHours: 0.25, places: 2 })] }],
      arrivals: [],
    };
    // At 2 h two come off the benches: the press takes them one after the other, sets up once: 2.75, 3.25; the third at 4.5.
    const result = played(model, { state: racks(3, 2) });
    expect(leaves(result)).toEqual([2.75, 3.25, 4.5]);
    expect(result.stations[1]).toMatchObject({ started: 3, utilisation: 1.75 / 1000 });
    expect(result.stations[1]?.meanWaitHours).toBeCloseTo(0.75 / 3);
  });

  it('fills a load from several racks that need the same set-up', () => {
    const load = { places: 6, family: 'body' };
    const model: FactoryModel = {
      stations: [station('a')],
      routes: [{ code: 'r', steps: [work('a', 2, load)] }],
      arrivals: [],
    };
    // The first goes alone, since it is begun as it comes; the next two fit together, the last waits.
    expect(leaves(played(model, { state: racks(4, 3) }))).toEqual([2, 4, 4, 6]);
  });

  it('stops for the night, but what rests goes on, and so does a room that never closes', () => {
    const open = [0, 24, 48].map((from) => ({ from, to: from + 8 }));
    const model: FactoryModel = {
      open,
      stations: [station('a'), station('room', 1, { neverCloses: true })],
      routes: [
        {
          code: 'r',
          steps: [work('a', 6), { mode: 'hold', key: 'rest', hours: { each: 12, cv: 0 } }, work('room', 3)],
        },
      ],
      arrivals: [],
    };
    // Six hours; the other two today and four tomorrow. Then 12 h of rest and 3 in the room, day or night.
    const result = played(model, { until: 50, state: racks(2) });
    expect(leaves(result)).toEqual([21, 43]);
    expect(result.stations[0]?.utilisation).toBeCloseTo(12 / 18);
  });

  it('waits for whoever can, and for those who are away', () => {
    const model: FactoryModel = {
      stations: [station('a', 3), station('b')],
      people: [
        { code: 'one', skills: ['glue'], away: [{ from: 0, to: 5 }] },
        { code: 'two', skills: ['glue', 'saw'] },
      ],
      routes: [
        { code: 'r', steps: [work('a', 2, { skill: 'glue' })] },
        { code: 's', steps: [work('b', 1, { skill: 'saw' })] },
      ],
      arrivals: [],
    };
    const state = [...racks(3), { route: 's', step: 'b', pieces: 1 }];
    // Two does all the gluing until one comes at 5; only two can saw, and is asked for gluing first.
    const { finished } = played(model, { state });
    expect(finished.map(({ route, to }) => [route, to])).toEqual([
      ['r', 2],
      ['r', 4],
      ['r', 6],
      ['s', 7],
    ]);
  });

  it('takes what is due first, what is shortest, or what needs no set-up, where it is told to', () => {
    const steps = [work('a', 1, { setUpHours: 1, family: 'x' })];
    const model = (rule: 'first due' | 'shortest' | 'same set-up'): FactoryModel => ({
      stations: [station('a', 1, { rule })],
      routes: [
        { code: 'r', steps },
        { code: 's', steps: [work('a', 1, { setUpHours: 1, family: 'y' })] },
      ],
      arrivals: [],
    });
    const state = [
      { route: 'r', step: 'a', pieces: 1, due: 9 },
      { route: 's', step: 'a', pieces: 2, due: 5 },
      { route: 'r', step: 'a', pieces: 3, due: 7 },
      { route: 's', step: 'a', pieces: 1, due: 6 },
    ];
    const order = (rule: Parameters<typeof model>[0]): number[] =>
      played(model(rule), { state }).finished.map(({ rack }) => rack);
    expect(order('first due')).toEqual([0, 1, 3, 2]);
    expect(order('shortest')).toEqual([0, 3, 1, 2]);
    expect(order('same set-up')).toEqual([0, 2, 1, 3]);
  });

  it('goes to another station that is free, and joins what belongs together, whichever comes first', () => {
    const model: FactoryModel = {
      stations: [station('a'), station('c'), station('b')],
      routes: [
        {
          code: 'r',
          steps: [
            work('a', 4, { stations: ['a', 'c'] }),
            { mode: 'join', key: 'meet', at: 'neck', makes: 'whole' },
          ],
        },
        { code: 'n', steps: [work('b', 1), { mode: 'join', key: 'meet', at: 'neck' }] },
        { code: 'whole', steps: [work('b', 2)] },
      ],
      arrivals: [],
    };
    const neck = { route: 'n', step: 'b', pieces: 1 };
    const result = played(model, { state: [...racks(2), neck, neck] });
    expect(result.finished.map(({ route, to }) => [route, to])).toEqual([
      ['whole', 6],
      ['whole', 8],
    ]);
    expect(
      result.stays.filter(({ status }) => status === 'partner').map(({ from, to }) => [from, to]),
    ).toEqual([
      [1, 4],
      [2, 4],
    ]);
    expect(result.left).toBe(0);
  });

  it('plays the same for the same seed, and leaves other stations’ chance alone when one changes', () => {
    const model = (each: number): FactoryModel => ({
      stations: [station('a'), station('b')],
      routes: [
        { code: 'r', steps: [work('a', each, { hours: { each, cv: 1 } })] },
        { code: 's', steps: [work('b', 1, { hours: { each: 1, cv: 1 } })] },
      ],
      arrivals: ['r', 's'].map((route) => ({ route, everyHours: 2, cv: 1, pieces: 1 })),
    });
    expect(played(model(1))).toEqual(played(model(1)));
    expect(played(model(1), { seed: 2 }).finished).not.toEqual(played(model(1)).finished);
    const ofB = (each: number) => played(model(each)).stations[1];
    expect(ofB(1.2)).toEqual(ofB(1));
  });

  it('loses nothing: every piece left, was scrapped, or is still there, and stays follow each other', () => {
    fc.assert(
      fc.property(
        fc.integer(),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 0, max: 40 }),
        (seed, pieces, scrap) => {
          const model: FactoryModel = {
            stations: [station('a', 2), station('b')],
            routes: [
              {
                code: 'r',
                steps: [
                  work('a', 0.3, { hours: { each: 0.3, cv: 0.5 } }),
                  { mode: 'hold', key: 'rest', hours: { each: 5, cv: 0.2 } },
                  work('b', 0.2, {
                    scrap: scrap / 100,
                    rework: { share: 0.2, to: 'a' },
                    hours: { each: 0.2, cv: 1 },
                  }),
                ],
              },
            ],
            arrivals: [],
          };
          const result = played(model, { seed, until: 10_000, state: racks(20, pieces) });
          const out = result.finished.reduce((sum, one) => sum + one.pieces, 0);
          expect(out + result.scrapped).toBe(20 * pieces);
          expect(result.left).toBe(0);
          for (const { from, to } of result.stays) expect(to).toBeGreaterThanOrEqual(from);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('refuses a model that does not hold together', () => {
    const model = (change: Partial<FactoryModel>): FactoryModel => ({
      ...{ stations: [station('a')], routes: [{ code: 'r', steps: [work('a', 1)] }], arrivals: [] },
      ...change,
    });
    const refused = (change: Partial<FactoryModel>) => () =>
      simulate({ model: model(change), until: 1, seed: 0 });
    expect(refused({ stations: [] })).toThrow('simulate: there is no station a');
    expect(refused({ stations: [station('a', 0)] })).toThrow('a has 0 places');
    expect(refused({ routes: [{ code: 'r', steps: [work('a', 1, { skill: 'glue' })] }] })).toThrow(
      'nobody can glue',
    );
    expect(refused({ routes: [{ code: 'r', steps: [work('a', -1)] }] })).toThrow('a of r takes -1 h');
    expect(refused({ routes: [{ code: 'r', steps: [work('a', 1, { scrap: 1.2 })] }] })).toThrow(
      'more goes away',
    );
    expect(refused({ arrivals: [{ route: 'x', everyHours: 1, cv: 0, pieces: 1 }] })).toThrow('no route x');
    expect(refused({ open: [{ from: 4, to: 4 }] })).toThrow('spans must rise');
    expect(() => simulate({ model: model({}), until: 0, seed: 0 })).toThrow('cannot play');
    expect(() => played(model({}), { state: racks(1, 1, { step: 'z' }) })).toThrow('there is no step z of r');
  });
});
