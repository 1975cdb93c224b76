import type { BillLine, Given, PartWords } from '@ample-crane/core';

/** Codes go on where the paper list left off: the first part gets this number. */
export const FIRST_PART = 101;

interface TarrowPart extends PartWords {
  key: string;
}

const OAKUM = 'Oakum & Daughters';
const FATHOM = 'Fathom Coilworks';
const BRAZIER = 'Brazier Lane Metal';
const GUTTERIDGE = 'Gutteridge Strings';

const part = (
  key: string,
  name: string,
  [unit, weightG]: readonly [string, number],
  [supplier, leadDays]: readonly [string, number],
): TarrowPart => ({ key, name, unit, weightG, supplier, leadDays });
/** One of each metal: 'nickel', 'black', 'brass'. */
const metals = (
  key: string,
  name: string,
  weighed: readonly [string, number],
  from: readonly [string, number],
): TarrowPart[] =>
  [
    ['nickel', 'nickel'],
    ['black', 'black'],
    ['brass', 'brushed brass'],
  ].map(([metal = '', called = '']) => part(`${key}-${metal}`, `${name}, ${called}`, weighed, from));

/** What the store of Tarrow Works keeps, in the order of its codes. */
export const PARTS: readonly TarrowPart[] = [
  ...metals('tuners-6', 'Tuners, three a side', ['set', 180], [OAKUM, 28]),
  ...metals('tuners-4', 'Bass tuners', ['set', 340], [OAKUM, 28]),
  ...metals('tuners-4l', 'Bass tuners, light', ['set', 240], [OAKUM, 35]),
  part('coil-single', 'Single coil pickup', ['piece', 85], [FATHOM, 21]),
  part('coil-twin', 'Twin coil pickup', ['piece', 120], [FATHOM, 21]),
  part('coil-soap', 'Wide single pickup', ['piece', 110], [FATHOM, 72]),
  part('bridge-6', 'Bridge, fixed, six strings', ['piece', 150], [BRAZIER, 24]),
  part('tail-6', 'Bridge with stop tail, six strings', ['set', 240], [BRAZIER, 24]),
  part('sway-6', 'Sway tail, six strings', ['set', 410], [BRAZIER, 42]),
  part('bridge-4', 'Bridge, fixed, bass', ['piece', 290], [BRAZIER, 24]),
  part('tail-4', 'Bridge with stop tail, bass', ['set', 380], [BRAZIER, 24]),
  part('sway-4', 'Sway tail, bass', ['set', 520], [BRAZIER, 42]),
  part('loom', 'Wiring loom, two pots and a switch', ['piece', 100], [FATHOM, 14]),
  part('loom-old', 'Wiring loom, old pattern', ['piece', 105], [FATHOM, 14]),
  part('jack', 'Jack and plate', ['set', 45], [OAKUM, 14]),
  part('buttons-nickel', 'Strap buttons, nickel', ['pair', 20], [OAKUM, 14]),
  part('buttons-black', 'Strap buttons, black', ['pair', 20], [OAKUM, 14]),
  part('screws', 'Screws, one bag', ['bag', 39], [OAKUM, 7]),
  part('nut-bone', 'Nut blank, bone', ['piece', 6], [GUTTERIDGE, 21]),
  part('nut-composite', 'Nut blank, composite', ['piece', 5], [GUTTERIDGE, 21]),
  part('strings-6', 'Strings, baritone, round wound', ['set', 40], [GUTTERIDGE, 10]),
  part('strings-6-flat', 'Strings, baritone, flat wound', ['set', 44], [GUTTERIDGE, 18]),
  part('strings-4', 'Strings, short bass, round wound', ['set', 60], [GUTTERIDGE, 10]),
  part('strings-4-flat', 'Strings, short bass, flat wound', ['set', 66], [GUTTERIDGE, 18]),
  ...metals('knobs', 'Knobs', ['set', 30], [BRAZIER, 21]),
];

/** Code of a part by its key. @throws Error for one that is not kept */
export function partCode(key: string): string {
  const i = PARTS.findIndex((one) => one.key === key);
  if (i < 0) throw new Error(`partCode: Tarrow Works keeps no '${key}'`);
  return `C-${FIRST_PART + i}`;
}

const given = (option: string, ...values: string[]): Given => ({ option, values });
const line = (
  slot: string,
  key: string,
  quantity: number,
  when: Given[] = [],
  instead: BillLine['instead'] = [],
): BillLine => ({
  ...{ slot, part: partCode(key), quantity },
  ...(when.length > 0 ? { when } : {}),
  ...(instead.length > 0 ? { instead } : {}),
});
const inMetals = (slot: string, key: string): BillLine[] =>
  ['nickel', 'black', 'brass'].map((metal) => line(slot, `${key}-${metal}`, 1, [given('metal', metal)]));

const billOf = (tuners: string, strings: 4 | 6): BillLine[] => [
  ...inMetals('tuners', tuners),
  line('pickups', 'coil-single', 2, [given('pickups', 'single')]),
  line('pickups', 'coil-twin', 2, [given('pickups', 'twin')]),
  line('pickups', 'coil-soap', 2, [given('pickups', 'soap')]),
  line('bridge', `bridge-${strings}`, 1, [given('bridge', 'fixed')]),
  line('bridge', `tail-${strings}`, 1, [given('bridge', 'tail')]),
  line('bridge', `sway-${strings}`, 1, [given('bridge', 'sway')]),
  line('wiring loom', 'loom', 1, [], [{ part: partCode('loom-old'), when: [given('pickups', 'single')] }]),
  line('jack', 'jack', 1),
  line('strap buttons', 'buttons-nickel', 1, [given('metal', 'nickel', 'brass')]),
  line('strap buttons', 'buttons-black', 1, [given('metal', 'black')]),
  line('screws', 'screws', 1),
  line('nut', 'nut-bone', 1, [], [{ part: partCode('nut-composite') }]),
  line('strings', `strings-${strings}`, 1, [given('strings', 'round')]),
  line('strings', `strings-${strings}-flat`, 1, [given('strings', 'flat')]),
  ...inMetals('knobs', 'knobs'),
];

/** Which parts the kit of each model wants; as usual they weigh what the model's kit is reckoned at. */
export const BILLS: { model: string; lines: BillLine[] }[] = [
  { model: 'Bowline', lines: billOf('tuners-6', 6) },
  { model: 'Halyard', lines: billOf('tuners-4', 4) },
  { model: 'Ratline', lines: billOf('tuners-4l', 4) },
];
