import type { CureSpec } from './coat-cure.ts';
import type {
  AgeStep,
  CoatSpec,
  CoatStep,
  CureStep,
  Defect,
  Recipe,
  RecipeStep,
  SandStep,
  TreatStep,
} from './recipe.ts';

/**
 * Recipes to start from: DOMAIN §5's reference hours, films and grits as usual shops have them. Every number is a default the
 * factory changes; whoever buffs after a week or after six is right by their own test panels.
 */

/**
 * How each kind of material cures, at 21 °C and 50 % RH. The reference film is what its usual coats make, laid at once, over
 * its usual ground: coats laid over some days are through earlier.
 */
const CURES = {
  'thin lacquer': { q: 1.6, referenceUm: 92, hours: { recoat: 1.5, sand: 72, buff: 336 } },
  'acrylic lacquer': { q: 1.6, referenceUm: 96, hours: { recoat: 1, sand: 48, buff: 168 } },
  'catalysed satin': { by: 'reaction', q: 2, referenceUm: 38, hours: { recoat: 3, sand: 24, buff: 96 } },
  'UV gloss': { by: 'reaction', q: 2, referenceUm: 42, hours: { recoat: 0.05, sand: 0.1, buff: 2 } },
  oil: { by: 'oxidation', q: 1.6, referenceUm: 6, hours: { recoat: 12, sand: 24, buff: 72 } },
  sealer: { q: 1.6, referenceUm: 25, hours: { recoat: 1.5, sand: 4, buff: 48 } },
  'amber toner': { q: 1.6, referenceUm: 20, hours: { recoat: 1, sand: 24, buff: 96 } },
  'night blue toner': { q: 1.6, referenceUm: 20, hours: { recoat: 1, sand: 24, buff: 96 } },
  'metallic base': { q: 1.6, referenceUm: 30, hours: { recoat: 1, sand: 24, buff: 96 } },
} satisfies Record<string, CureSpec>;

interface Film {
  wetUm: number;
  solidsPct: number;
  maxRecoatHours?: number;
}
const spec = (material: keyof typeof CURES, { wetUm, solidsPct, maxRecoatHours }: Film): CoatSpec => ({
  material,
  ...CURES[material],
  wetUm,
  wetSdUm: Math.round(wetUm * 0.07),
  solidsPct,
  maxRecoatHours: maxRecoatHours ?? null,
});

const coat = (
  step: Pick<CoatStep, 'key' | 'name' | 'at' | 'coats' | 'spec'> & Partial<CoatStep>,
): CoatStep => ({
  kind: 'coat',
  touchMinutes: 4 * step.coats,
  boothMinutes: 5 * step.coats,
  mix: null,
  transferPct: 55,
  defects: SPRAYED,
  ...step,
});
const treat = (step: Pick<TreatStep, 'key' | 'name' | 'at'> & Partial<TreatStep>): TreatStep => ({
  kind: 'treat',
  touchMinutes: 6,
  boothMinutes: 0,
  waitHours: 0,
  defects: [],
  ...step,
});
const sand = (
  step: Pick<SandStep, 'key' | 'name' | 'at' | 'grits' | 'removalUm'> & Partial<SandStep>,
): SandStep => ({
  kind: 'sand',
  touchMinutes: 14,
  boothMinutes: 0,
  removalSdUm: Math.round(2 * step.removalUm) / 10,
  defects: [{ defect: 'sand-through', backTo: 'colour' }],
  ...step,
});
const cure = (key: string, name: string, until: CureStep['until']): CureStep => ({
  kind: 'cure',
  key: `${key}-done`,
  name,
  at: key,
  touchMinutes: 0,
  boothMinutes: 0,
  defects: [],
  until,
});

const SPRAYED: Defect[] = [
  { defect: 'blush', backTo: 'clear' },
  { defect: 'run', backTo: 'clear' },
  { defect: 'dry spray', backTo: 'clear' },
  { defect: 'orange peel', backTo: 'clear' },
  { defect: 'fish-eye', backTo: 'clear' },
  { defect: 'dust/hair', backTo: 'clear' },
];
const COLOURED: Defect[] = [
  { defect: 'colour off', backTo: 'colour' },
  { defect: 'run', backTo: 'colour' },
];

const fill = treat({ key: 'fill', name: 'Fill the grain', at: 'fill', touchMinutes: 9, waitHours: 24 });
const stain = treat({ key: 'stain', name: 'Stain', at: 'prep', touchMinutes: 5, waitHours: 2 });
const seal = coat({
  key: 'seal',
  name: 'Sealer',
  at: 'prep',
  coats: 1,
  spec: spec('sealer', { wetUm: 95, solidsPct: 22 }),
  defects: [{ defect: 'fish-eye', backTo: 'prep' }],
});
const sealed = cure('sealer', 'Sealer dry', 'sand');
const denib = sand({
  key: 'denib',
  name: 'Sand the sealer',
  at: 'colour',
  grits: [320],
  removalUm: 6,
  touchMinutes: 5,
  defects: [{ defect: 'sand-through', backTo: 'prep' }],
});
const toned = (material: 'amber toner' | 'night blue toner', name: string, coats: number): CoatStep =>
  coat({
    key: 'tone',
    name,
    at: 'colour',
    coats,
    spec: spec(material, { wetUm: 45, solidsPct: 11 }),
    touchMinutes: 16 * coats,
    boothMinutes: 16 * coats,
    transferPct: 40,
    defects: COLOURED,
  });
const scrape = treat({
  key: 'scrape',
  name: 'Scrape the binding',
  at: 'scrape',
  touchMinutes: 12,
  defects: [{ defect: 'scrape slip', backTo: 'colour' }],
});
const cleared = (coats: number): CoatStep =>
  coat({
    key: 'clear',
    name: 'Clear',
    at: 'clear',
    coats,
    spec: spec('thin lacquer', { wetUm: 105, solidsPct: 22 }),
  });
const cured = cure('cure', 'Cure', 'buff');
const flat = (removalUm: number): RecipeStep[] => [
  sand({
    key: 'level',
    name: 'Wet-sand flat',
    at: 'buff',
    grits: [800, 1000, 2000],
    removalUm,
    touchMinutes: 24,
  }),
  treat({
    key: 'buff',
    name: 'Buff and polish',
    at: 'buff',
    touchMinutes: 16,
    defects: [
      { defect: 'sink-back', backTo: 'buff' },
      { defect: 'sand-through', backTo: 'colour' },
    ],
  }),
];

const FLAMMABLE =
  'Solvents and lacquer are highly flammable: booth extraction interlocked, no ignition sources, bonded containers, overspray cleaned wet.';
const ISOCYANATE = 'Catalysed finishes hold isocyanates: supplied air, covered skin and health surveillance.';
const RAGS = 'Oily rags heat by themselves: metal lidded bin, emptied every day.';
const BUFFING = 'Buffing throws work: hold below centre, hair and cuffs tied.';
const COLD = 'Ageing: cold burns, chips that fly when it warms; cover hands and eyes.';
const LAMP = 'UV lamps burn skin and eyes: shutters closed, never bypass the interlock.';
const LACQUER_SCHOOLS =
  'Long-cured lacquer: shops buff after one week to six; the recipe decides, test panels prove it.';

const recipe = (
  name: string,
  title: string,
  school: string,
  film: { targetUm: number; minimumUm: number },
  cautions: string[],
  steps: RecipeStep[],
  colour: Recipe['colour'] = null,
): Recipe => ({ id: `${name}-1`, name, title, revision: 1, school, ...film, steps, cautions, colour });

const aged: AgeStep = {
  kind: 'age',
  key: 'cold',
  name: 'Cold and warm by turns',
  at: 'age',
  touchMinutes: 4,
  boothMinutes: 0,
  coldHours: 18,
  warmHours: 6,
  cycles: 5,
  level: 'light',
  defects: [{ defect: 'check unintended', backTo: 'clear' }],
};

const AMBER = { name: 'amber burst, centre', lab: { l: 58, a: 21, b: 52 }, withinDeltaE: 3 };

export const SHIPPED_RECIPES: readonly Recipe[] = [
  recipe(
    'thin-lacquer-gloss',
    'Thin lacquer, gloss',
    `${LACQUER_SCHOOLS} Sanded flat, then buffed.`,
    { targetUm: 85, minimumUm: 60 },
    [FLAMMABLE, BUFFING],
    [fill, stain, seal, sealed, denib, scrape, cleared(4), cured, ...flat(22)],
  ),
  recipe(
    'thin-lacquer-worn-neck',
    'Thin lacquer, worn-through neck',
    `${LACQUER_SCHOOLS} The back of the neck is worn to the wood and oiled.`,
    { targetUm: 62, minimumUm: 40 },
    [FLAMMABLE, RAGS, BUFFING],
    [
      fill,
      seal,
      sealed,
      denib,
      scrape,
      cleared(3),
      cured,
      ...flat(20),
      treat({
        key: 'wear',
        name: 'Wear the neck through and oil it',
        at: 'buff',
        touchMinutes: 18,
        waitHours: 12,
      }),
    ],
  ),
  recipe(
    'acrylic-gloss',
    'Acrylic lacquer, night blue',
    'Short-cured lacquer: half the wait of thin lacquer, sanded flat.',
    { targetUm: 85, minimumUm: 60 },
    [FLAMMABLE, BUFFING],
    [
      seal,
      sealed,
      denib,
      toned('night blue toner', 'Night blue', 2),
      coat({
        key: 'clear',
        name: 'Acrylic clear',
        at: 'clear',
        coats: 4,
        spec: spec('acrylic lacquer', { wetUm: 100, solidsPct: 24 }),
      }),
      cured,
      ...flat(22),
    ],
    { name: 'night blue', lab: { l: 22, a: 4, b: -31 }, withinDeltaE: 2 },
  ),
  recipe(
    'catalysed-satin',
    'Catalysed satin',
    'Cured by a hardener: days instead of weeks, used as it comes from the booth.',
    { targetUm: 105, minimumUm: 80 },
    [FLAMMABLE, ISOCYANATE],
    [
      stain,
      seal,
      sealed,
      denib,
      coat({
        key: 'clear',
        name: 'Satin',
        at: 'clear',
        coats: 3,
        spec: spec('catalysed satin', { wetUm: 90, solidsPct: 42, maxRecoatHours: 24 }),
        mix: {
          parts: [
            { name: 'satin base', parts: 10 },
            { name: 'hardener', parts: 1 },
            { name: 'thinner', parts: 2 },
          ],
          potLifeHours: 6,
        },
      }),
      cured,
      sand({ key: 'rub', name: 'Rub with a pad', at: 'buff', grits: [2000], removalUm: 3, touchMinutes: 8 }),
    ],
  ),
  recipe(
    'uv-gloss',
    'UV gloss',
    'Cured under lamps: buffed the same day.',
    { targetUm: 110, minimumUm: 80 },
    [FLAMMABLE, LAMP, BUFFING],
    [
      seal,
      sealed,
      denib,
      coat({
        key: 'clear',
        name: 'UV gloss',
        at: 'clear',
        coats: 3,
        spec: spec('UV gloss', { wetUm: 60, solidsPct: 70, maxRecoatHours: 8 }),
      }),
      cured,
      ...flat(22),
    ],
  ),
  recipe(
    'oil',
    'Oil',
    'Rubbed in and wiped off; hardly a film, and easily renewed.',
    { targetUm: 10, minimumUm: 3 },
    [RAGS],
    [
      coat({
        key: 'oil',
        name: 'Oil',
        at: 'oil',
        coats: 2,
        spec: spec('oil', { wetUm: 12, solidsPct: 45 }),
        boothMinutes: 0,
        transferPct: 95,
        defects: [{ defect: 'dust/hair', backTo: 'oil' }],
      }),
      cure('oil-cure', 'Oil cure', 'buff'),
    ],
  ),
  recipe(
    'burst-over-sealer',
    'Burst over sealer, thin lacquer',
    `${LACQUER_SCHOOLS} Shaded by hand over sealed wood.`,
    { targetUm: 92, minimumUm: 62 },
    [FLAMMABLE, BUFFING],
    [fill, seal, sealed, denib, toned('amber toner', 'Burst', 2), scrape, cleared(4), cured, ...flat(22)],
    AMBER,
  ),
  recipe(
    'metallic',
    'Metallic under thin lacquer',
    `${LACQUER_SCHOOLS} Sanding through to the metallic cannot be touched in.`,
    { targetUm: 100, minimumUm: 75 },
    [FLAMMABLE, BUFFING],
    [
      seal,
      sealed,
      denib,
      coat({
        key: 'base',
        name: 'Metallic base',
        at: 'colour',
        coats: 2,
        spec: spec('metallic base', { wetUm: 60, solidsPct: 18, maxRecoatHours: 24 }),
        touchMinutes: 20,
        transferPct: 40,
        defects: COLOURED,
      }),
      cleared(4),
      cured,
      ...flat(20),
    ],
    { name: 'pewter', lab: { l: 61, a: -0.6, b: 1.8 }, withinDeltaE: 2 },
  ),
  recipe(
    'thin-lacquer-aged',
    'Thin lacquer, artificially aged',
    `${LACQUER_SCHOOLS} Checked by cold, then worn by hand; some owners want it, some will not have it.`,
    { targetUm: 85, minimumUm: 60 },
    [FLAMMABLE, BUFFING, COLD],
    [
      fill,
      seal,
      sealed,
      denib,
      toned('amber toner', 'Burst', 2),
      scrape,
      cleared(4),
      cured,
      ...flat(22),
      aged,
      treat({ key: 'knock', name: 'Knocks and wear by hand', at: 'wear', touchMinutes: 40 }),
    ],
    AMBER,
  ),
];
