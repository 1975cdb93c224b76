import { BOOTH_LIMITS, materialsOf, SHIPPED_RECIPES, type BoothLimits } from '@ample-crane/core';
import type { ModelFinish } from '../setup/rows.ts';

/** How Tarrow Works finishes: what each model gets, its booths, and what it sprays. */

/** By model, then kind letter. */
export const FINISHES: Record<string, Record<string, ModelFinish>> = {
  Bowline: {
    I: {
      recipes: [
        'burst-over-sealer',
        'thin-lacquer-aged',
        'thin-lacquer-gloss',
        'thin-lacquer-worn-neck',
        'metallic',
      ],
      areaM2: 0.62,
    },
  },
  Halyard: {
    B: { recipes: ['acrylic-gloss', 'metallic', 'uv-gloss'], areaM2: 0.48 },
    N: { recipes: ['oil'], areaM2: 0.16 },
  },
  Ratline: { I: { recipes: ['catalysed-satin', 'uv-gloss'], areaM2: 0.66 } },
};

export const BOOTHS: {
  code: string;
  name: string;
  station: string;
  room: string;
  limits: BoothLimits;
  filterLifeHours: number;
}[] = [
  {
    code: 'booth-1',
    name: 'Booth 1',
    station: 'prep',
    room: 'Booth 1',
    limits: BOOTH_LIMITS,
    filterLifeHours: 12,
  },
  {
    code: 'booth-2',
    name: 'Booth 2',
    station: 'colour',
    room: 'Booth 2',
    limits: BOOTH_LIMITS,
    filterLifeHours: 20,
  },
  {
    code: 'booth-3',
    name: 'Booth 3',
    station: 'clear',
    room: 'Booth 3',
    limits: BOOTH_LIMITS,
    filterLifeHours: 24,
  },
];

/** Days until more comes. */
const LEAD_DAYS: Record<string, number> = { 'thin lacquer': 9, 'amber toner': 14, 'catalysed satin': 6 };
const USUAL_LEAD_DAYS = 5;

export const MATERIALS = materialsOf(SHIPPED_RECIPES).map((name) => ({
  name,
  leadDays: LEAD_DAYS[name] ?? USUAL_LEAD_DAYS,
}));

interface LotOfStory {
  code: string;
  material: string;
  litres: number;
  receivedDaysAgo: number;
  /** Null: still closed. */
  openedDaysAgo: number | null;
  finishedDaysAgo: number | null;
  /** Null: it keeps. */
  expiresInDays: number | null;
}
const lot = (
  code: string,
  material: string,
  litres: number,
  receivedDaysAgo: number,
  openedDaysAgo: number | null,
  finishedDaysAgo: number | null,
  expiresInDays: number | null,
): LotOfStory => ({ code, material, litres, receivedDaysAgo, openedDaysAgo, finishedDaysAgo, expiresInDays });

/** Drums and cans in order of their coming. */
export const MATERIAL_LOTS: LotOfStory[] = [
  lot('SL-40', 'sealer', 60, 100, 100, 41, null),
  lot('SL-41', 'sealer', 60, 60, 41, null, 220),
  lot('AT-17', 'amber toner', 20, 100, 100, 30, null),
  lot('AT-18', 'amber toner', 20, 44, 30, null, 75),
  lot('NB-09', 'night blue toner', 25, 100, 100, null, 140),
  lot('TL-86', 'thin lacquer', 110, 100, 100, 52, null),
  lot('TL-87', 'thin lacquer', 110, 70, 52, 15, null),
  lot('TL-88', 'thin lacquer', 15, 20, 15, null, 190),
  lot('AL-51', 'acrylic lacquer', 110, 100, 100, 38, null),
  lot('AL-52', 'acrylic lacquer', 110, 45, 38, null, 160),
  lot('CS-23', 'catalysed satin', 80, 100, 100, 40, null),
  lot('CS-24', 'catalysed satin', 80, 50, 40, null, 26),
  lot('CS-25', 'catalysed satin', 40, 6, null, null, 170),
  lot('HD-06', 'hardener', 10, 100, 100, null, 120),
  lot('TH-31', 'thinner', 25, 100, 100, null, null),
  lot('OL-05', 'oil', 10, 100, 100, null, null),
  lot('MB-03', 'metallic base', 10, 60, null, null, 120),
  lot('UV-02', 'UV gloss', 20, 60, null, null, 90),
];
