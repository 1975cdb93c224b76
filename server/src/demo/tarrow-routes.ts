import {
  cautionWords,
  GAP_WINDOWS,
  REMINDER,
  type Check,
  type HoldOperation,
  type JoinOperation,
  type LoadOperation,
  type Operation,
  type Route,
} from '@ample-crane/core';
import { BENCHES, every, FINAL, looked, type ModelBench } from './tarrow-bench.ts';

const CAUTION = {
  mill: cautionWords('CNC'),
  router: cautionWords('copy-router'),
  saw: cautionWords('gang saw'),
  dust: cautionWords('wood dust'),
  glue: cautionWords('white glue'),
  epoxy: cautionWords('epoxy'),
  cyanoacrylate: cautionWords('cyanoacrylate'),
  clamps: cautionWords('clamps'),
  bend: cautionWords('hot press'),
  cement: cautionWords('solvent cement'),
  resin: cautionWords('resin'),
  spray: `Highly flammable: booth extraction on, no ignition sources, respirator. ${REMINDER}`,
  buff: `Work can be thrown: hold below centre, hair and cuffs tied, eyes covered. ${REMINDER}`,
  freezer: `Cold burns; chips fly when it warms: cover hands and eyes. ${REMINDER}`,
  strings: `Strings under tension: cover your eyes. ${REMINDER}`,
};

/** Jointed blanks near their room's moisture settle faster than a 25 mm board from the yard. */
const BLANK_TAU_DAYS = 7;
const WINDOW = { lowPct: 6, highPct: 8.5 };
const rests = (
  key: string,
  name: string,
  hours: number,
  word: 'rest' | 'glue' | 'flash',
  at = 'wood-room',
  room = 'Wood room',
): HoldOperation => ({
  key,
  name,
  mode: 'hold',
  stations: [at],
  room,
  reworkTo: null,
  caution: null,
  rule: { rule: 'elapsed', word, hours },
});
const dries: HoldOperation = {
  key: 'dry',
  name: 'Rest & read',
  mode: 'hold',
  stations: ['wood-room'],
  room: 'Wood room',
  reworkTo: null,
  caution: CAUTION.dust,
  rule: { rule: 'moisture', word: 'drying', window: WINDOW, tauDays: BLANK_TAU_DAYS },
};
/** Pieces lie in a press or carousel of the station while they rest. */
const pressed = (key: string, name: string, hours: number, at: string, room = 'Fitting'): HoldOperation => ({
  ...rests(key, name, hours, 'glue', at, room),
  bedded: true,
  caution: CAUTION.clamps,
});
const mills = (
  key: string,
  name: string,
  at: string,
  cycleMinutes: number,
  checks: Check[] = [],
): LoadOperation => ({
  key,
  name,
  mode: 'load',
  stations: [at],
  places: 16,
  setUpMinutes: 30,
  cycleMinutes,
  skill: 'cnc',
  reworkTo: null,
  caution: CAUTION.mill,
  checks,
});
const width = (
  key: string,
  name: string,
  nominal: number,
  within: number,
  rest: Partial<Check> = {},
): Check => ({
  key,
  name,
  unit: 'mm',
  nominal,
  lower: Math.round(100 * (nominal - within)) / 100,
  upper: Math.round(100 * (nominal + within)) / 100,
  firstPiece: true,
  sample: 3,
  ...rest,
});
interface Work {
  key: string;
  name: string;
  at: string;
  pieceMinutes: number;
  skill: string;
  caution: string;
  reworkTo?: string;
  coats?: { wanted: number; material: string };
  next?: string[];
  needs?: Operation['needs'];
  risk?: string;
  yieldPct?: number;
  costPerPiece?: number;
  checks?: Check[];
  ableOnly?: boolean;
  serial?: true;
  kit?: true;
  accepts?: true;
}
const works = ({ at, reworkTo, coats, ...rest }: Work): Operation => ({
  ...rest,
  mode: 'attended',
  stations: [at],
  setUpMinutes: 15,
  reworkTo: reworkTo ?? null,
  coats: coats ?? null,
});
const joins = (
  role: 'host' | 'guest',
  at: string,
  name: string,
  windowMm?: { low: number; high: number },
): JoinOperation => ({
  key: 'join',
  name,
  mode: 'join',
  role,
  partnerKind: role === 'host' ? 'N' : 'B',
  makesKind: 'I',
  stations: [at],
  setUpMinutes: 15,
  pieceMinutes: 22,
  skill: 'fit',
  // Eased at the bench and tried again.
  reworkTo: 'join',
  caution: CAUTION.glue,
  ...(windowMm ? { fit: { hostCheck: 'pocket-width', guestCheck: 'heel-width', windowMm } } : {}),
});
const cures = (
  key: string,
  name: string,
  material: string,
  until: 'recoat' | 'sand' | 'buff',
  referenceHours: number,
  q: number,
): HoldOperation => ({
  key,
  name,
  mode: 'hold',
  stations: ['clear'],
  room: 'Cure room',
  reworkTo: null,
  caution: null,
  rule: { rule: 'cure', word: until === 'recoat' ? 'recoat' : 'cure', material, until, referenceHours, q },
});

/** Glued on at the press by racks of their own. */
const boardJoin = (role: 'host' | 'guest'): JoinOperation => ({
  ...joins(role, 'board-press', 'Board of its own rack'),
  key: 'board-rack',
  partnerKind: role === 'host' ? 'F' : 'N',
  makesKind: 'N',
  reworkTo: 'board-rack',
});
const gangSawn = works({
  key: 'slots',
  name: 'Fret slots, gang saw',
  at: 'fret-bench',
  pieceMinutes: 2,
  skill: 'fret',
  caution: CAUTION.saw,
  costPerPiece: 0.2,
  risk: 'dust; all slots at one spacing only',
});
const fingerboard: Operation[] = [
  dries,
  { ...gangSawn, needs: ['drying'] },
  works({
    key: 'inlay',
    name: 'Inlay & radius',
    at: 'fret-bench',
    pieceMinutes: 14,
    skill: 'fret',
    caution: CAUTION.dust,
    reworkTo: 'inlay',
  }),
  boardJoin('guest'),
];
/** The schools of making a neck, each a way of its own: near to finish or by hand, saw or machine, glue or epoxy. */
const neckBlank = (cycleMinutes: number, checks: Check[]): Operation[] => [
  { ...dries, next: ['mill', 'rough'] },
  {
    ...mills('mill', 'Neck mill', 'neck-mill', cycleMinutes, checks),
    needs: ['drying'],
    yieldPct: 99,
    costPerPiece: 1.8,
    risk: 'feel is the program’s: little is left to shape',
    next: ['rest'],
  },
  {
    ...mills('rough', 'Neck rough cut', 'neck-mill', 55),
    yieldPct: 99.5,
    costPerPiece: 0.7,
    risk: 'months to learn; every neck a little different',
    next: ['carve'],
  },
  works({
    key: 'carve',
    name: 'Carve by hand',
    at: 'fret-bench',
    pieceMinutes: 55,
    skill: 'carve',
    caution: CAUTION.dust,
    yieldPct: 97,
    checks,
    next: ['rest'],
  }),
  { ...rests('rest', 'Neck rest', 5 * 24, 'rest'), next: ['gate'] },
  {
    key: 'gate',
    name: 'Neck moisture gate',
    mode: 'gate',
    gate: { kind: 'moisture', window: WINDOW },
    stations: ['wood-room'],
    setUpMinutes: 5,
    pieceMinutes: 2,
    skill: 'wood',
    reworkTo: null,
    caution: null,
    needs: ['rest'],
    next: ['slots', 'slots-cnc', 'board-rack'],
  },
  { ...gangSawn, next: ['board', 'board-epoxy'] },
  {
    ...mills('slots-cnc', 'Fret slots, mill', 'neck-mill', 75),
    costPerPiece: 2.6,
    risk: 'wears a costly side-load head; one set-up with the inlay pockets',
    next: ['board', 'board-epoxy'],
  },
  {
    ...boardJoin('host'),
    risk: 'boards are made beforehand: two racks must meet',
    next: ['press'],
  },
  works({
    key: 'board',
    name: 'Board glue-up',
    at: 'board-press',
    pieceMinutes: 9,
    skill: 'fit',
    caution: CAUTION.glue,
    costPerPiece: 0.1,
    risk: 'water swells the face: keep the press hours',
    next: ['press'],
  }),
  { ...pressed('press', 'Board in press', 70 / 60, 'board-press'), next: ['fret'] },
  works({
    key: 'board-epoxy',
    name: 'Board glue-up, epoxy',
    at: 'board-press',
    pieceMinutes: 11,
    skill: 'fit',
    caution: CAUTION.epoxy,
    costPerPiece: 1.1,
    risk: 'skin contact; cannot be steamed apart again',
    next: ['press-epoxy'],
  }),
  { ...pressed('press-epoxy', 'Board in press, epoxy', 6, 'board-press'), next: ['fret'] },
  works({
    key: 'fret',
    name: 'Frets & shape',
    at: 'fret-bench',
    pieceMinutes: 30,
    skill: 'fret',
    caution: CAUTION.dust,
    reworkTo: 'fret',
    needs: ['glue'],
    checks: [looked('frets-seated', 'Frets seated, ends dressed')],
    next: ['level', 'level-scan'],
  }),
];
const LEVELLED = [looked('frets-level', 'Frets level and crowned')];
/** Levelling by hand or by scanning machine; what follows is told by its key. */
const levelled = (then: string): Operation[] => [
  works({
    key: 'level',
    name: 'Level frets by hand',
    at: 'fret-bench',
    pieceMinutes: 8,
    skill: 'fret',
    caution: CAUTION.dust,
    reworkTo: 'fret',
    checks: LEVELLED,
    risk: 'as good as the hand; string tension only guessed',
    next: [then],
  }),
  {
    ...mills('level-scan', 'Level frets by scan', 'fret-bench', 11, LEVELLED),
    places: 1,
    setUpMinutes: 10,
    skill: 'fret',
    reworkTo: 'fret',
    costPerPiece: 0.9,
    risk: 'the machine stands still when it does',
    next: [then],
  },
];
/** Two matched halves become one blank, which rests before it is cut. */
const halves: Operation[] = [
  works({
    key: 'halves',
    name: 'Joint & glue the halves',
    at: 'board-press',
    pieceMinutes: 8,
    skill: 'fit',
    caution: CAUTION.glue,
    needs: ['drying'],
    costPerPiece: 0.1,
    risk: 'a week of rest more; glued damp, the seam shows under the finish',
    next: ['halves-press'],
  }),
  {
    ...rests('halves-press', 'Halves in clamps', 55 / 60, 'glue', 'board-press', 'Fitting'),
    next: ['halves-rest'],
  },
  { ...rests('halves-rest', 'Blank rest', 7 * 24, 'rest'), next: ['mill', 'copy'] },
];
const bodyBlank = (checks: Check[]): Operation[] => [
  { ...dries, next: ['mill', 'copy', 'halves'] },
  ...halves,
  {
    ...mills('mill', 'Body mill', 'body-mill', 150, checks),
    needs: ['drying'],
    yieldPct: 99,
    costPerPiece: 2.4,
    risk: 'a wrong zero costs the whole load',
    next: ['rest'],
  },
  works({
    key: 'copy',
    name: 'Copy-router over template',
    at: 'body-mill',
    pieceMinutes: 34,
    skill: 'router',
    caution: CAUTION.router,
    yieldPct: 97,
    costPerPiece: 0.6,
    needs: ['drying'],
    checks,
    risk: 'hands near the cutter: authorised people only; tear-out at the horns',
    next: ['rest'],
  }),
  rests('rest', 'Body rest', 48, 'rest'),
];
/** Bolted parts are fitted dry and measured before they part for finish. */
const dryFit = works({
  key: 'dry-fit',
  name: 'Dry fit & measure',
  at: 'neck-fit',
  pieceMinutes: 5,
  skill: 'fit',
  caution: CAUTION.glue,
  needs: ['rest'],
  checks: [every('dry-gap', 'Gap at the heel, dry', 'mm', { nominal: 0.05, lower: 0, upper: 0.1 })],
});
const { needs: _rest, ...dryFitWithoutRest } = dryFit;
const pocket = (nominal: number): Check[] => [
  width('pocket-width', 'Pocket width', nominal, 0.08),
  width('pocket-depth', 'Pocket depth', 16, 0.12, { sample: 1 }),
  width('body-thickness', 'Body thickness', 44.5, 0.3, { firstPiece: false }),
];
const heel = (nominal: number): Check[] => [
  width('heel-width', 'Heel width', nominal, 0.08),
  width('neck-1', 'Neck thickness at fret 1', 21.5, 0.25, { firstPiece: false }),
  width('neck-12', 'Neck thickness at fret 12', 23, 0.25, { firstPiece: false }),
];

/** Checked by cold, then worn by hand: a way of its own after buffing. */
const ageing: Operation[] = [
  {
    key: 'age',
    name: 'Freezer & warm',
    mode: 'hold',
    stations: ['ageing'],
    room: 'Buff room',
    reworkTo: 'clear',
    caution: CAUTION.freezer,
    rule: { rule: 'ageing', word: 'ageing', coldHours: 18, warmHours: 6, cycles: 5, level: 'light' },
    needs: ['cure'],
    next: ['wear'],
  },
  works({
    key: 'wear',
    name: 'Wear by hand',
    at: 'ageing',
    pieceMinutes: 40,
    skill: 'buff',
    caution: CAUTION.buff,
    risk: 'some owners want it, some will not have it; it cannot be taken back',
    next: ['assemble'],
  }),
];

interface Finish {
  colourMinutes: number;
  material: string;
  coats: number;
  buffHours: number;
  q: number;
  /** Some of it is aged afterwards. */
  aged?: boolean;
  /** Open-pored wood that is filled first, and a bound edge that is scraped clean of colour. */
  filledAndBound?: boolean;
}
const fills: Operation[] = [
  works({
    key: 'fill',
    name: 'Fill the grain',
    at: 'prep',
    pieceMinutes: 9,
    skill: 'prep',
    caution: CAUTION.spray,
  }),
  rests('fill-dry', 'Filler dry', 24, 'rest', 'prep', 'Cure room'),
];
const scrapes = works({
  key: 'scrape',
  name: 'Scrape the binding',
  at: 'colour',
  pieceMinutes: 12,
  skill: 'prep',
  caution: 'The scraper is a blade: away from the thumb, and one slip sends the piece back to colour.',
  reworkTo: 'colour',
});
const finish = ({
  colourMinutes,
  material,
  coats,
  buffHours,
  q,
  aged = false,
  filledAndBound = false,
}: Finish): Operation[] => [
  ...(filledAndBound ? fills : []),
  works({
    key: 'prep',
    name: 'Prep & seal',
    at: 'prep',
    pieceMinutes: 24,
    skill: 'prep',
    caution: CAUTION.spray,
    coats: { wanted: 1, material: 'sealer' },
  }),
  cures('sealer', 'Sealer dry', 'sealer', 'sand', 4, q),
  works({
    key: 'colour',
    name: 'Colour',
    at: 'colour',
    pieceMinutes: colourMinutes,
    skill: 'burst',
    ableOnly: true,
    caution: CAUTION.spray,
    reworkTo: 'colour',
  }),
  ...(filledAndBound ? [scrapes] : []),
  works({
    key: 'clear',
    name: 'Clear coats',
    at: 'clear',
    pieceMinutes: 22,
    skill: 'spray',
    caution: CAUTION.spray,
    coats: { wanted: coats, material },
    reworkTo: 'colour',
  }),
  cures('cure', 'Cure', material, 'buff', buffHours, q),
  works({
    key: 'buff',
    name: 'Sand & buff',
    at: 'buff',
    pieceMinutes: 42,
    skill: 'buff',
    caution: CAUTION.buff,
    reworkTo: 'colour',
    needs: ['cure'],
    ...(aged ? { next: ['assemble', 'age'] } : {}),
  }),
  ...(aged ? ageing : []),
];
/** From the bench to the door: serial and set-up, the settling shelf, the inspection. */
const assemble = ({ checks, again, drifts, eyes }: ModelBench): Operation[] => [
  works({
    key: 'assemble',
    name: 'Assembly',
    at: 'assembly',
    pieceMinutes: 48,
    skill: 'assembly',
    caution: CAUTION.dust,
    reworkTo: 'assemble',
    serial: true,
    kit: true,
    accepts: true,
  }),
  works({
    key: 'setup',
    name: 'Set-up',
    at: 'set-up',
    pieceMinutes: 36,
    skill: 'set-up',
    caution: CAUTION.strings,
    reworkTo: 'setup',
    checks,
  }),
  {
    key: 'settle',
    name: 'Settling',
    mode: 'hold',
    stations: ['set-up'],
    room: 'Assembly',
    reworkTo: 'setup',
    caution: null,
    checks: again,
    rule: { rule: 'settle', word: 'settling', hours: 6 * 24, driftLimitMm: 0.1, drifts },
  },
  {
    key: 'final',
    name: 'Final inspection',
    mode: 'gate',
    gate: { kind: 'inspection', ...(eyes === 2 ? { eyes } : {}) },
    stations: ['set-up'],
    setUpMinutes: 10,
    pieceMinutes: 14,
    skill: 'inspect',
    reworkTo: 'setup',
    caution: CAUTION.strings,
    checks: FINAL,
  },
  {
    key: 'ship',
    name: 'Pack & ship',
    mode: 'ship',
    stations: ['packing'],
    setUpMinutes: 10,
    pieceMinutes: 9,
    skill: 'pack',
    reworkTo: null,
    caution: null,
  },
];

const lacquer: Finish = {
  colourMinutes: 71,
  material: 'thin lacquer',
  coats: 4,
  buffHours: 336,
  q: 1.6,
  aged: true,
  filledAndBound: true,
};
const acrylic: Finish = { colourMinutes: 62, material: 'acrylic lacquer', coats: 4, buffHours: 168, q: 1.6 };
const satin: Finish = { colourMinutes: 48, material: 'catalysed satin', coats: 3, buffHours: 96, q: 2 };

const route = (model: string, kind: string, operations: Operation[]): Route => ({
  id: `${model.toLowerCase()}-${kind.toLowerCase()}-1`,
  model,
  kind,
  revision: 1,
  operations,
});

/** A neck back that is oiled, not lacquered. */
const oiled: Operation[] = [
  works({
    key: 'oil',
    name: 'Neck oil',
    at: 'prep',
    pieceMinutes: 12,
    skill: 'prep',
    caution: CAUTION.spray,
    coats: { wanted: 2, material: 'oil' },
  }),
  cures('oil-cure', 'Oil cure', 'oil', 'buff', 72, 1.6),
];

/** Routes with racks on them. */
export const WORKED_ROUTES: Route[] = [
  // Set neck: glued before finish.
  route('Bowline', 'B', [...bodyBlank(pocket(56)), joins('host', 'neck-fit', 'Neck joint', GAP_WINDOWS.set)]),
  route('Bowline', 'N', [
    ...neckBlank(130, heel(55.9)),
    ...levelled('join'),
    joins('guest', 'neck-fit', 'Neck joint', GAP_WINDOWS.set),
  ]),
  // Fingerboards go on a rack of their own, slotted and inlaid before they meet their necks.
  ...['Bowline', 'Halyard', 'Ratline', 'Gaff', 'Keel'].map((model) => route(model, 'F', fingerboard)),
  route('Bowline', 'I', [
    pressed('clamp', 'Joint clamped', 12, 'neck-fit'),
    ...finish(lacquer),
    ...assemble(BENCHES.Bowline),
  ]),
  // Bolted: fitted dry, parted, finished apart, joined at assembly.
  route('Halyard', 'B', [
    ...bodyBlank(pocket(57.25)),
    dryFit,
    ...finish(acrylic),
    joins('host', 'assembly', 'Neck to body', GAP_WINDOWS.bolted),
  ]),
  route('Halyard', 'N', [
    ...neckBlank(120, heel(57.2)),
    ...levelled('dry-fit'),
    dryFit,
    ...oiled,
    joins('guest', 'assembly', 'Neck to body', GAP_WINDOWS.bolted),
  ]),
  route('Halyard', 'I', assemble(BENCHES.Halyard)),
  // Through neck: wings glued on before finish.
  route('Ratline', 'B', [
    ...bodyBlank([width('body-thickness', 'Body thickness', 42, 0.3)]),
    joins('host', 'neck-fit', 'Wings to neck'),
  ]),
  route('Ratline', 'N', [
    ...neckBlank(140, heel(66).slice(1)),
    ...levelled('join'),
    joins('guest', 'neck-fit', 'Wings to neck'),
  ]),
  route('Ratline', 'I', [
    pressed('clamp', 'Wings clamped', 14, 'neck-fit'),
    ...finish(satin),
    ...assemble(BENCHES.Ratline),
  ]),
];

// ---- a hollow body and a composite shell, ready to be worked -------------------------------------------------------

const takes = (role: 'host' | 'guest', key: string, name: string, partnerKind: string): JoinOperation => ({
  ...joins(role, 'side-bench', name),
  reworkTo: null,
  key,
  partnerKind,
  makesKind: 'S',
  skill: 'bend',
});
const plateThickness = (key: string, name: string, nominal: number): Check => ({
  ...width(key, name, nominal, 0.25, { sample: 1 }),
});
const brace = (name: string): Operation[] => [
  works({
    key: 'joint',
    name: `${name} jointed like a book`,
    at: 'side-bench',
    pieceMinutes: 12,
    skill: 'bend',
    caution: CAUTION.glue,
  }),
  pressed('joint-dry', `${name} joint in clamps`, 55 / 60, 'side-bench'),
  works({
    key: 'thin',
    name: `Thin ${name.toLowerCase()} to its stiffness`,
    at: 'side-bench',
    pieceMinutes: 14,
    skill: 'bend',
    caution: CAUTION.dust,
    reworkTo: 'thin',
    needs: ['glue'],
    checks: [plateThickness('plate', `${name} thickness`, 2.8)],
  }),
  works({
    key: 'brace',
    name: `Brace ${name.toLowerCase()}`,
    at: 'side-bench',
    pieceMinutes: 16,
    skill: 'bend',
    caution: CAUTION.glue,
  }),
  pressed('vacuum', 'In the vacuum bag', 12 / 60, 'side-bench'),
];
/** Binding by either school: wood under white glue, or plastic under solvent cement overnight; or wrapped, a side at a time. */
const bound: Operation[] = [
  works({
    key: 'ledge',
    name: 'Route the binding ledge',
    at: 'side-bench',
    pieceMinutes: 11,
    skill: 'router',
    caution: CAUTION.router,
    needs: ['glue'],
    next: ['bind', 'bind-ca', 'bind-plastic', 'bind-wrapped'],
  }),
  works({
    key: 'bind',
    name: 'Bind with wood',
    at: 'side-bench',
    pieceMinutes: 24,
    skill: 'bend',
    caution: CAUTION.glue,
    costPerPiece: 4.5,
    yieldPct: 98,
    risk: 'splits at tight bends',
    next: ['bind-dry'],
  }),
  { ...pressed('bind-dry', 'Binding taped', 40 / 60, 'side-bench'), next: ['tap'] },
  works({
    key: 'bind-ca',
    name: 'Bind, edges sealed, cyanoacrylate',
    at: 'side-bench',
    pieceMinutes: 19,
    skill: 'bend',
    caution: CAUTION.cyanoacrylate,
    costPerPiece: 5.1,
    yieldPct: 98,
    risk: 'stains an edge that is not sealed; no second try at the fit',
    next: ['ca-dry'],
  }),
  { ...pressed('ca-dry', 'Binding set', 10 / 60, 'side-bench'), next: ['tap'] },
  works({
    key: 'bind-plastic',
    name: 'Bind with plastic',
    at: 'side-bench',
    pieceMinutes: 15,
    skill: 'bend',
    caution: CAUTION.cement,
    costPerPiece: 2.2,
    yieldPct: 99,
    risk: 'shrinks over the years; fumes',
    next: ['plastic-dry'],
  }),
  { ...pressed('plastic-dry', 'Plastic binding overnight', 14, 'side-bench'), next: ['tap'] },
  works({
    key: 'bind-wrapped',
    name: 'Bind, wrapped',
    at: 'side-bench',
    pieceMinutes: 20,
    skill: 'bend',
    caution: CAUTION.glue,
    costPerPiece: 3,
    yieldPct: 99,
    risk: 'two sides, two waits',
    next: ['wrapped-dry'],
  }),
  { ...pressed('wrapped-dry', 'Wrapped, 4 h a side', 8, 'side-bench'), next: ['tap'] },
];

export const EXAMPLE_ROUTES: Route[] = [
  route('Gaff', 'P', [
    { ...dries, next: ['resaw'] },
    {
      key: 'resaw',
      name: 'Resaw to top and back',
      mode: 'split',
      makesKinds: ['T', 'K'],
      stations: ['side-bench'],
      setUpMinutes: 15,
      pieceMinutes: 9,
      skill: 'bend',
      reworkTo: null,
      caution: CAUTION.dust,
      needs: ['drying'],
    },
  ]),
  route('Gaff', 'T', [...brace('Top'), takes('guest', 'close', 'Close the box', 'S')]),
  route('Gaff', 'K', [...brace('Back'), takes('guest', 'back-on', 'Back on the sides', 'S')]),
  route('Gaff', 'S', [
    dries,
    works({
      key: 'bend',
      name: 'Bend sides in pairs',
      at: 'side-bench',
      pieceMinutes: 18,
      skill: 'bend',
      caution: CAUTION.bend,
      reworkTo: 'bend',
      needs: ['drying'],
      yieldPct: 94,
    }),
    { ...rests('form', 'In the over-bent form', 4, 'rest', 'side-bench', 'Fitting'), bedded: true },
    works({
      key: 'line',
      name: 'Blocks and lining in the mould',
      at: 'side-bench',
      pieceMinutes: 22,
      skill: 'bend',
      caution: CAUTION.glue,
    }),
    pressed('line-dry', 'Lining in clamps', 40 / 60, 'side-bench'),
    takes('host', 'back-on', 'Back on the sides', 'K'),
    pressed('back-dry', 'Back in the carousel', 40 / 60, 'side-bench'),
    takes('host', 'close', 'Close the box', 'T'),
    pressed('close-dry', 'Box in the carousel', 40 / 60, 'side-bench'),
    ...bound,
    {
      key: 'tap',
      name: 'Tap tone and top',
      mode: 'gate',
      gate: { kind: 'inspection' },
      stations: ['side-bench'],
      setUpMinutes: 5,
      pieceMinutes: 6,
      skill: 'bend',
      reworkTo: null,
      caution: null,
      checks: [
        {
          key: 'tone',
          name: 'Main tone',
          unit: 'Hz',
          nominal: 186,
          lower: 174,
          upper: 198,
          firstPiece: false,
          sample: 1,
          every: true,
        },
        { ...plateThickness('top', 'Top thickness', 2.7), every: true },
      ],
    },
    joins('host', 'neck-fit', 'Neck joint', GAP_WINDOWS.set),
  ]),
  route('Gaff', 'N', [
    ...neckBlank(130, heel(55.9)),
    ...levelled('join'),
    { ...joins('guest', 'neck-fit', 'Neck joint', GAP_WINDOWS.set), partnerKind: 'S' },
  ]),
  route('Gaff', 'I', [
    pressed('clamp', 'Joint clamped', 12, 'neck-fit'),
    ...finish(lacquer),
    ...assemble(BENCHES.Gaff),
  ]),
  route('Keel', 'B', [
    works({
      key: 'mould',
      name: 'Prepare mould and laminate',
      at: 'shell-shop',
      pieceMinutes: 65,
      skill: 'cnc',
      caution: CAUTION.resin,
      yieldPct: 96,
    }),
    {
      ...cures('resin', 'Resin cure', 'laminating resin', 'sand', 16, 2),
      stations: ['shell-shop'],
      room: 'Shell shop',
      bedded: true,
    },
    works({
      key: 'fill',
      name: 'Out of the mould, fill',
      at: 'shell-shop',
      pieceMinutes: 30,
      skill: 'cnc',
      caution: CAUTION.resin,
      reworkTo: 'fill',
      needs: ['cure'],
    }),
    { ...mills('cavities', 'Mill the cavities', 'body-mill', 70, pocket(57.25)), needs: ['cure'] },
    dryFitWithoutRest,
    ...finish(satin),
    joins('host', 'assembly', 'Neck to body', GAP_WINDOWS.bolted),
  ]),
  route('Keel', 'N', [
    ...neckBlank(120, heel(57.2)),
    ...levelled('dry-fit'),
    dryFit,
    ...oiled,
    joins('guest', 'assembly', 'Neck to body', GAP_WINDOWS.bolted),
  ]),
  route('Keel', 'I', assemble(BENCHES.Keel)),
];

export const ROUTES: Route[] = [...WORKED_ROUTES, ...EXAMPLE_ROUTES];

// ---- programs and cutters ------------------------------------------------------------------------------------------

const BODY_TOOLS = [
  { tool: 'upcut 6', minutes: 52 },
  { tool: 'ball 10', minutes: 38 },
  { tool: 'compression 12', minutes: 41 },
];
const NECK_TOOLS = [
  { tool: 'upcut 6', minutes: 34 },
  { tool: 'ball 16', minutes: 58 },
];
const program = (
  model: string,
  kind: string,
  operation: string,
  cycleMinutes: number,
  tools: { tool: string; minutes: number }[],
) => ({ model, kind, operation, revision: 1, setUpMinutes: 30, loadMinutes: 10, cycleMinutes, tools });

export const PROGRAMS = [
  program('Bowline', 'B', 'mill', 150, BODY_TOOLS),
  program('Halyard', 'B', 'mill', 150, BODY_TOOLS),
  program('Ratline', 'B', 'mill', 150, BODY_TOOLS.slice(1)),
  program('Keel', 'B', 'cavities', 70, BODY_TOOLS.slice(0, 1)),
  program('Bowline', 'N', 'mill', 130, NECK_TOOLS),
  program('Halyard', 'N', 'mill', 120, NECK_TOOLS),
  program('Ratline', 'N', 'mill', 140, NECK_TOOLS),
];

/** Life in cut minutes; the cost is of a new or sharpened one. */
export const CUTTERS = [
  { station: 'body-mill', tool: 'upcut 6', lifeMinutes: 480, changeMinutes: 8, cost: 46 },
  { station: 'body-mill', tool: 'ball 10', lifeMinutes: 600, changeMinutes: 8, cost: 58 },
  { station: 'body-mill', tool: 'compression 12', lifeMinutes: 480, changeMinutes: 8, cost: 71 },
  { station: 'neck-mill', tool: 'upcut 6', lifeMinutes: 480, changeMinutes: 8, cost: 46 },
  { station: 'neck-mill', tool: 'ball 16', lifeMinutes: 540, changeMinutes: 8, cost: 64 },
];

const changed = (station: string, tool: string, daysAgo: number, usedMinutes: number, reason: string) => ({
  station,
  tool,
  daysAgo,
  usedMinutes,
  reason,
});

export const CUTTER_CHANGES = [
  changed('body-mill', 'upcut 6', 24, 462, 'at its life'),
  changed('body-mill', 'upcut 6', 13, 380, 'burnt edge on ash'),
  changed('body-mill', 'ball 10', 19, 570, 'at its life'),
  changed('body-mill', 'compression 12', 8, 451, 'with the spindle service'),
  changed('neck-mill', 'upcut 6', 11, 476, 'at its life'),
  changed('neck-mill', 'ball 16', 9, 522, 'at its life'),
];
