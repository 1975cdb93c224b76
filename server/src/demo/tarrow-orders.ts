import {
  placeOf,
  randomStream,
  type Choices,
  type Option,
  type OptionBook,
  type OptionRule,
} from '@ample-crane/core';
import { CUSTOMERS } from './tarrow-bench.ts';

type Values = readonly (readonly [code: string, name: string, recipe?: string])[];

const option = (
  key: string,
  name: string,
  values: Values,
  { built = [], shown = [], shares = false }: { built?: string[]; shown?: string[]; shares?: boolean },
): Option => ({
  ...{ key, name, builtAt: built, shownAt: shown, sharesRack: shares },
  values: values.map(([code, called, recipe]) => ({
    ...{ code, name: called },
    ...(recipe === undefined ? {} : { recipe }),
  })),
});
const at = (kind: string, ...keys: string[]): string[] => keys.map((key) => placeOf(kind, key));

const HAND = option(
  'hand',
  'Hand',
  [
    ['right', 'right-handed'],
    ['left', 'left-handed'],
  ],
  {
    ...{
      shown: [...at('B', 'mill'), ...at('N', 'mill'), ...at('I', 'assemble', 'setup', 'final')],
      shares: true,
    },
  },
);
const BOARD = option(
  'board',
  'Fingerboard',
  [
    ['rosewood', 'rosewood'],
    ['ebony', 'ebony'],
    ['maple', 'maple'],
  ],
  { built: at('N', 'board', 'board-epoxy'), shown: [...at('N', 'slots', 'fret'), ...at('I', 'final')] },
);
const FRETS = option(
  'frets',
  'Frets',
  [
    ['medium', 'medium'],
    ['jumbo', 'jumbo'],
    ['narrow', 'narrow, tall'],
  ],
  {
    ...{ built: at('N', 'fret'), shown: [...at('N', 'level'), ...at('I', 'setup', 'final')] },
  },
);
const INLAY = option(
  'inlay',
  'Inlay',
  [
    ['dots', 'dots'],
    ['blocks', 'blocks'],
    ['none', 'none'],
  ],
  {
    shown: [...at('N', 'board', 'fret'), ...at('I', 'final')],
  },
);
const PICKUPS = option(
  'pickups',
  'Pickups',
  [
    ['single', 'two single coils'],
    ['twin', 'twin coils'],
    ['soap', 'wide singles'],
  ],
  {
    ...{ built: at('I', 'assemble'), shown: at('I', 'setup', 'final') },
  },
);
const BRIDGE = option(
  'bridge',
  'Bridge',
  [
    ['fixed', 'fixed'],
    ['tail', 'stop tail'],
    ['sway', 'sway tail'],
  ],
  {
    ...{ built: at('I', 'assemble'), shown: at('I', 'setup', 'final') },
  },
);
const METAL = option(
  'metal',
  'Hardware',
  [
    ['nickel', 'nickel'],
    ['black', 'black'],
    ['brass', 'brushed brass'],
  ],
  {
    ...{ built: at('I', 'assemble'), shown: at('I', 'final') },
  },
);
const STRINGS = option(
  'strings',
  'Strings',
  [
    ['round', 'round wound'],
    ['flat', 'flat wound'],
  ],
  {
    ...{ built: at('I', 'setup'), shown: at('I', 'final') },
  },
);
const FIGURE = option(
  'figure',
  'Figure',
  [
    ['plain', 'plain'],
    ['some', 'some'],
    ['figured', 'figured'],
  ],
  {
    shown: at('B', 'mill'),
  },
);

const rule = (
  kind: OptionRule['kind'],
  [one, value]: readonly [string, string],
  other: string,
  ...values: string[]
): OptionRule => ({ kind, option: one, value, other, values });
const RULES: OptionRule[] = [
  rule('excludes', ['hand', 'left'], 'bridge', 'sway'),
  rule('needs', ['board', 'maple'], 'inlay', 'dots', 'none'),
  rule('excludes', ['metal', 'brass'], 'bridge', 'sway'),
  rule('excludes', ['bridge', 'sway'], 'strings', 'flat'),
];
const COMMON = [HAND, BOARD, FRETS, INLAY, PICKUPS, BRIDGE, METAL, STRINGS];
const colour = (values: Values, places: string[]): Option =>
  option('colour', 'Colour', values, { built: places, shown: at('I', 'final'), shares: true });

/** What is sold of each model that is built. */
export const OPTION_BOOKS: OptionBook[] = [
  {
    ...{ model: 'Bowline', revision: 1 },
    options: [
      colour(
        [
          ['amber', 'amber burst'],
          ['aged', 'aged amber'],
          ['clear', 'clear over figure'],
        ],
        at('I', 'colour'),
      ),
      FIGURE,
      ...COMMON,
    ],
    rules: [
      rule('needs', ['colour', 'clear'], 'figure', 'some', 'figured'),
      rule('excludes', ['colour', 'aged'], 'metal', 'brass'),
      ...RULES,
    ],
  },
  {
    ...{ model: 'Halyard', revision: 1 },
    options: [
      colour(
        [
          ['blue', 'night blue', 'acrylic-gloss'],
          ['pewter', 'pewter', 'metallic'],
        ],
        at('B', 'colour'),
      ),
      ...COMMON,
    ],
    rules: [rule('excludes', ['colour', 'pewter'], 'metal', 'brass'), ...RULES],
  },
  {
    ...{ model: 'Ratline', revision: 1 },
    options: [
      colour(
        [
          ['satin', 'satin'],
          ['gloss', 'gloss'],
        ],
        at('I', 'colour'),
      ),
      FIGURE,
      ...COMMON,
    ],
    rules: RULES,
  },
];

/** People who order one for themselves. */
const PLAYERS = [
  'Odile Farrow',
  'Bram Teasel',
  'Inga Lorrimer',
  'Pascoe Wyld',
  'Tomasz Żuraw',
  'Nell Orchard',
  'Ravi Senthil',
  'Mirela Ionescu-Albu',
  'Jon Ashby-Cole',
  'דנה לוי',
];

/** An order of Tarrow Works that is still to be filled. */
export interface TarrowOrder {
  customer: string | null;
  reference?: string;
  placedDaysAgo: number;
  dueInDays: number;
  lines: {
    model: string;
    quantity: number;
    choices: Choices;
    label?: string;
    weightKg?: { low: number; high: number };
  }[];
}

/** What is usual but for an option or two; every rule is kept. */
function choicesFor(random: ReturnType<typeof randomStream>, model: string): Choices {
  const halyard = model === 'Halyard';
  const choices: Record<string, string> = {};
  if (random.next() < 0.4) choices.frets = random.pick(['jumbo', 'narrow']);
  if (random.next() < 0.35) choices.board = 'ebony';
  if (random.next() < 0.3) choices.pickups = random.pick(['twin', 'soap']);
  if (random.next() < 0.25) choices.metal = 'black';
  if (random.next() < 0.3) choices.strings = 'flat';
  if (random.next() < 0.12) choices.hand = 'left';
  if (random.next() < 0.3) choices.colour = halyard ? 'pewter' : model === 'Ratline' ? 'gloss' : 'aged';
  return choices;
}

/** Orders nothing of which is begun, with a stock batch among them; dealers order several, players one. */
export function tarrowOrders(seed: number, count: number): TarrowOrder[] {
  const random = randomStream(seed);
  return Array.from({ length: count }, (_, i): TarrowOrder => {
    const model = random.pick(['Bowline', 'Bowline', 'Halyard', 'Halyard', 'Ratline']);
    const dueInDays = 62 + 2 * i + random.between(0, 6);
    const placedDaysAgo = random.between(3, 34);
    if (i % 9 === 8)
      return { customer: null, placedDaysAgo, dueInDays, lines: [{ model, quantity: 12, choices: {} }] };
    if (i % 2 === 0) {
      const player = PLAYERS[(i / 2) % PLAYERS.length] ?? '';
      const label = player.split(' ')[0] ?? player;
      return {
        ...{ customer: player, placedDaysAgo, dueInDays },
        lines: [{ model, quantity: 1, choices: choicesFor(random, model), label }],
      };
    }
    const quantity = random.between(2, 5);
    const second = {
      model: 'Halyard',
      quantity: random.between(1, 3),
      choices: choicesFor(random, 'Halyard'),
    };
    return {
      ...{
        customer: random.pick(CUSTOMERS),
        reference: `H${random.between(1000, 9999)}`,
        placedDaysAgo,
        dueInDays,
      },
      lines: [{ model, quantity, choices: choicesFor(random, model) }, ...(i % 4 === 1 ? [second] : [])],
    };
  });
}
