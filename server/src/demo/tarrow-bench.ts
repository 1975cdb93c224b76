import { YES_NO, type Check, type SetupPractice } from '@ample-crane/core';

/** Measured on every piece, between limits. */
export const every = (
  key: string,
  name: string,
  unit: string,
  { nominal, lower, upper }: { nominal: number; lower: number; upper: number },
): Check => ({ ...{ key, name, unit, nominal, lower, upper }, firstPiece: false, sample: 1, every: true });
/** Looked at on every piece, and answered by yes or no. */
export const looked = (key: string, name: string): Check => ({
  ...{ key, name, unit: YES_NO, nominal: 1, lower: 1, upper: null },
  ...{ firstPiece: false, sample: 1, every: true },
});

/** How the instruments of a model are set up, looked at again and inspected. */
export interface ModelBench {
  /** Read at set-up. */
  checks: Check[];
  /** Read again when they have settled, and how far each may have moved. */
  again: Check[];
  drifts: Record<string, number>;
  /** How many people inspect them. */
  eyes: 1 | 2;
  practice: SetupPractice;
  strings: number;
  /** Letters that stand for the model in a serial. */
  letters: string;
}

interface Model {
  strings: number;
  scaleMm: number;
  /** Of each outer string at fret 12, mm. */
  actionMm: { low: number; high: number };
  weightKg: { low: number; high: number };
  letters: string;
  eyes?: 1 | 2;
}

const RELIEF = every('relief', 'Neck relief at fret 7', 'mm', { nominal: 0.22, lower: 0.15, upper: 0.3 });
/** Drift of each value while it settles: action and relief, mm. */
const DRIFTS = { relief: 0.06, 'action-bass': 0.1, 'action-treble': 0.1 };
const SADDLE_MM_PER_TURN = 0.5;

function bench({
  strings,
  scaleMm,
  actionMm: { low, high },
  weightKg,
  letters,
  eyes = 1,
}: Model): ModelBench {
  const middle = (low + high) / 2;
  const action = (side: 'bass' | 'treble', about: number): Check =>
    every(`action-${side}`, `Action at fret 12, ${side} side`, 'mm', {
      nominal: Math.round(100 * about) / 100,
      lower: low,
      upper: high,
    });
  const again = [RELIEF, action('bass', middle + 0.1), action('treble', middle - 0.1)];
  return {
    checks: [
      ...again,
      every('nut', 'Nut clearance at fret 1', 'mm', { nominal: 0.45, lower: 0.35, upper: 0.55 }),
      ...Array.from({ length: strings }, (_, i) =>
        every(`intonation-${i + 1}`, `Intonation, string ${i + 1}`, 'cents', {
          nominal: 0,
          lower: -3,
          upper: 3,
        }),
      ),
      every('weight', 'Weight, strung', 'kg', {
        nominal: Math.round(50 * (weightKg.low + weightKg.high)) / 100,
        lower: weightKg.low,
        upper: weightKg.high,
      }),
      looked('switches', 'Every switch position and pot tried'),
      looked('taps', 'Pickups tapped, each one sounds'),
    ],
    ...{ again, drifts: DRIFTS, eyes, strings, letters },
    practice: { scaleMm, saddleMmPerTurn: SADDLE_MM_PER_TURN },
  };
}

export const BENCHES = {
  Bowline: bench({
    strings: 6,
    scaleMm: 711,
    actionMm: { low: 1.8, high: 2.3 },
    weightKg: { low: 3.3, high: 3.7 },
    letters: 'BW',
  }),
  Halyard: bench({
    strings: 4,
    scaleMm: 762,
    actionMm: { low: 2, high: 2.7 },
    weightKg: { low: 3.2, high: 3.6 },
    letters: 'HY',
  }),
  Ratline: bench({
    strings: 4,
    scaleMm: 762,
    actionMm: { low: 2, high: 2.7 },
    weightKg: { low: 3.6, high: 4.1 },
    letters: 'RL',
  }),
  Gaff: bench({
    strings: 6,
    scaleMm: 711,
    actionMm: { low: 1.8, high: 2.3 },
    weightKg: { low: 2.6, high: 3.1 },
    letters: 'GF',
    eyes: 2,
  }),
  Keel: bench({
    strings: 6,
    scaleMm: 648,
    actionMm: { low: 1.5, high: 2 },
    weightKg: { low: 2.7, high: 3.2 },
    letters: 'KL',
  }),
};

/** How a model is set up. @throws Error for one that Tarrow Works does not build */
export const benchOf = (model: string): ModelBench => {
  const found = Object.entries(BENCHES).find(([name]) => name === model);
  if (!found) throw new Error(`benchOf: Tarrow Works builds no ${model}`);
  return found[1];
};

export const FINAL: Check[] = [
  looked('looks', 'Looks'),
  looked('plays', 'Plays at every fret'),
  looked('works', 'Every switch and pot works'),
  looked('options', 'Options as ordered'),
  looked('serial', 'Serial on tag and headstock'),
];

/** Letters of the model, day, number in the day, check character. */
export const SERIALS = {
  pattern: '{model}{yy}{day}{n:2}{check}',
  letters: Object.fromEntries(Object.entries(BENCHES).map(([model, { letters }]) => [model, letters])),
  onPaper: [],
};

/** Who the instruments go to. */
export const CUSTOMERS = [
  'Harbour Strings, Port Ellery',
  'Lantern Street Music',
  'Fiddler & Quay',
  'The Low String, Ambry',
  'Osterby Road Guitars',
  'Northgate Sound',
  'Saltmarsh Music Hall',
  'Wren and Daughters',
];
export const CARRIERS = ['Tern Freight', 'Overland Blue'];
