import type { FactoryCalendar, Operation, Route, Station } from '@ample-crane/core';
import type { ModelPart, ModelWood } from '../database/entities.ts';

/** Tarrow Works, a made-up factory of short-scale basses and baritone guitars. Nothing here is real. */

export const FACTORY = {
  name: 'Tarrow Works',
  calendar: {
    zone: 'America/Chicago',
    shifts: [
      {
        name: 'A',
        start: '06:00',
        end: '15:30',
        weekdays: [1, 2, 3, 4, 5],
        breaks: [{ start: '11:00', end: '11:30' }],
      },
    ],
    closedDays: [],
    overtime: [],
  } satisfies FactoryCalendar,
};

/** Codes go on where the paper tags left off. */
export const KINDS = [
  { letter: 'B', name: 'body', nextNumber: 164 },
  { letter: 'N', name: 'neck', nextNumber: 88 },
  { letter: 'I', name: 'instrument', nextNumber: 1 },
  { letter: 'W', name: 'lot of lumber', nextNumber: 66 },
];

const neck = (usualBlankKg: number, keep: number, widthMm: number): ModelPart => ({
  species: 'hard maple',
  blankMm: { lengthMm: 700, widthMm: 75, thicknessMm: 24 },
  usualBlankKg,
  keep: { mean: keep, sd: 0.03 },
  chamberKg: 0,
  grade: 'plain',
  dimensions: [{ name: 'neck across the heel', widthMm, grain: 'tangential' }],
});

const body = (species: string, usualBlankKg: number, keep: number, rest: Partial<ModelPart>): ModelPart => ({
  species,
  blankMm: { lengthMm: 520, widthMm: 180, thicknessMm: 45 },
  usualBlankKg,
  keep: { mean: keep, sd: 0.025 },
  chamberKg: 0,
  grade: 'plain',
  dimensions: [
    { name: 'body across', widthMm: 330, grain: 'tangential' },
    { name: 'neck pocket', widthMm: 55.9, grain: 'tangential' },
  ],
  ...rest,
});

export const MODELS: {
  name: string;
  construction: 'bolted' | 'set' | 'through';
  description: string;
  wood: ModelWood;
}[] = [
  {
    name: 'Bowline',
    construction: 'set',
    description: 'baritone guitar, set neck, amber burst',
    wood: {
      finishedKg: { low: 3.3, high: 3.7 },
      kitKg: 0.95,
      parts: {
        B: body('African mahogany', 3.8, 0.52, { chamberKg: 0.35, grade: 'some' }),
        N: neck(0.78, 0.62, 56),
      },
    },
  },
  {
    name: 'Halyard',
    construction: 'bolted',
    description: 'short-scale bass, bolted neck, night blue',
    wood: {
      finishedKg: { low: 3.2, high: 3.6 },
      kitKg: 1.1,
      parts: { B: body('red alder', 3.3, 0.55, {}), N: neck(0.8, 0.64, 57.2) },
    },
  },
  {
    name: 'Ratline',
    construction: 'through',
    description: 'short-scale bass, through neck, satin',
    wood: {
      finishedKg: { low: 3.6, high: 4.1 },
      kitKg: 1,
      parts: {
        B: body('white ash', 4.6, 0.46, { chamberKg: 0.3, grade: 'some' }),
        N: neck(0.95, 0.7, 66),
      },
    },
  },
];

const station = (
  code: string,
  name: string,
  stage: Station['stage'],
  parallel: number,
  room: string,
  note: string,
): Station => ({
  code,
  name,
  stage,
  parallel,
  room,
  note,
});

export const STATIONS: Station[] = [
  station('wood-room', 'Wood room', 'wood', 2, 'Wood room', 'rest & read'),
  station('body-mill', 'Body mill', 'machining', 1, 'Machine hall', '2 tables × 8'),
  station('neck-mill', 'Neck mill', 'machining', 1, 'Machine hall', '2 tables × 8'),
  station('board-press', 'Board press', 'fitting', 1, 'Fitting', '2 presses × 8'),
  station('fret-bench', 'Fret bench', 'fitting', 2, 'Fitting', '2 benches'),
  station('neck-fit', 'Neck fit', 'fitting', 2, 'Fitting', '2 benches'),
  station('prep', 'Prep & seal', 'finishing', 1, 'Booth 1', 'booth 1'),
  station('colour', 'Colour', 'finishing', 1, 'Booth 2', 'booth 2 · burst by hand'),
  station('clear', 'Clear & cure', 'finishing', 1, 'Cure room', 'booth 3'),
  station('buff', 'Sand & buff', 'finishing', 2, 'Buff room', '2 wheels'),
  station('assembly', 'Assembly', 'assembly', 2, 'Assembly', '2 benches'),
  station('set-up', 'Set-up', 'assembly', 2, 'Assembly', '2 benches'),
  station('packing', 'Packing', 'assembly', 1, 'Assembly', '1 table'),
];

const person = (code: string, name: string, role: string, ...skills: string[]) => ({
  code,
  name,
  role,
  skills,
});

export const PEOPLE = [
  person('ostrander', 'M. Ostrander', 'production'),
  person('quill', 'A. Quill', 'order desk'),
  person('venn', 'T. Venn', 'wood room lead', 'wood'),
  person('hask', 'L. Hask', 'wood room', 'wood'),
  person('dorrit', 'P. Dorrin', 'mill lead', 'cnc'),
  person('merrow', 'J. Merrow', 'mill', 'cnc'),
  person('stave', 'R. Stave', 'mill', 'cnc'),
  person('brandt', 'C. Brandle', 'fitting lead', 'fret', 'fit'),
  person('oakes', 'N. Oakley', 'fitting', 'fit'),
  person('pell', 'S. Pell', 'fitting', 'fret'),
  person('yarrow', 'D. Yarrow', 'fitting', 'fret', 'fit'),
  person('lund', 'E. Lundy', 'finish lead', 'spray', 'burst'),
  person('tamsin', 'V. Tamsel', 'sprayer', 'spray', 'burst'),
  person('greave', 'O. Greave', 'sprayer', 'spray'),
  person('mottram', 'B. Mottley', 'finish prep', 'prep'),
  person('keld', 'F. Keld', 'buffing', 'buff'),
  person('arden', 'H. Ardley', 'buffing', 'buff'),
  person('rusk', 'G. Rusk', 'assembly lead', 'assembly', 'set-up'),
  person('fenn', 'I. Fennick', 'assembly', 'assembly'),
  person('saltry', 'K. Saltry', 'assembly', 'assembly'),
  person('wick', 'U. Wickett', 'set-up', 'set-up'),
  person('lorne', 'Z. Lornley', 'set-up', 'set-up'),
  person('pike', 'W. Pikeman', 'inspection', 'inspect'),
  person('dray', 'Y. Drayle', 'packing', 'pack'),
];

/** Who files at each station. */
export const CREWS: Record<string, string[]> = {
  'wood-room': ['venn', 'hask'],
  'body-mill': ['dorrit', 'merrow'],
  'neck-mill': ['merrow', 'stave'],
  'board-press': ['oakes', 'yarrow'],
  'fret-bench': ['pell', 'brandt'],
  'neck-fit': ['oakes', 'yarrow'],
  prep: ['mottram'],
  colour: ['tamsin', 'lund'],
  clear: ['greave'],
  buff: ['keld', 'arden'],
  assembly: ['fenn', 'saltry'],
  'set-up': ['wick', 'lorne'],
  packing: ['dray'],
};

// ---- routes -----------------------------------------------------------------------------------------------------

const REMINDER =
  'Follow your local codes, the data sheet and your safety officer; this is a reminder, not training.';
const CAUTION = {
  mill: `Doors closed, vacuum proved before the spindle starts; extraction on. ${REMINDER}`,
  dust: `Wood dust: extraction and a fitted respirator. ${REMINDER}`,
  glue: `Glue and clamps: mind skin contact and pinch points. ${REMINDER}`,
  spray: `Highly flammable: booth extraction on, no ignition sources, respirator. ${REMINDER}`,
  buff: `Work can be thrown: hold below centre, hair and cuffs tied, eyes covered. ${REMINDER}`,
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
): Operation => ({
  key,
  name,
  mode: 'hold',
  stations: [at],
  room,
  reworkTo: null,
  caution: null,
  rule: { rule: 'elapsed', word, hours },
});
const dries: Operation = {
  key: 'dry',
  name: 'Rest & read',
  mode: 'hold',
  stations: ['wood-room'],
  room: 'Wood room',
  reworkTo: null,
  caution: CAUTION.dust,
  rule: { rule: 'moisture', word: 'drying', window: WINDOW, tauDays: BLANK_TAU_DAYS },
};
const mills = (key: string, name: string, at: string, cycleMinutes: number): Operation => ({
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
}
const works = ({ at, reworkTo, coats, ...rest }: Work): Operation => ({
  ...rest,
  mode: 'attended',
  stations: [at],
  setUpMinutes: 15,
  reworkTo: reworkTo ?? null,
  coats: coats ?? null,
});
const joins = (role: 'host' | 'guest', at: string, name: string): Operation => ({
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
  reworkTo: null,
  caution: CAUTION.glue,
});
const cures = (
  key: string,
  name: string,
  material: string,
  until: 'recoat' | 'sand' | 'buff',
  referenceHours: number,
  q: number,
): Operation => ({
  key,
  name,
  mode: 'hold',
  stations: ['clear'],
  room: 'Cure room',
  reworkTo: null,
  caution: null,
  rule: { rule: 'cure', word: until === 'recoat' ? 'recoat' : 'cure', material, until, referenceHours, q },
});

const board: Operation[] = [
  works({
    key: 'board',
    name: 'Board glue-up',
    at: 'board-press',
    pieceMinutes: 9,
    skill: 'fit',
    caution: CAUTION.glue,
  }),
  rests('press', 'Board in press', 70 / 60, 'glue', 'board-press', 'Fitting'),
  works({
    key: 'fret',
    name: 'Frets & shape',
    at: 'fret-bench',
    pieceMinutes: 38,
    skill: 'fret',
    caution: CAUTION.dust,
    reworkTo: 'fret',
  }),
];
const neckBlank = (cycleMinutes: number): Operation[] => [
  dries,
  mills('mill', 'Neck mill', 'neck-mill', cycleMinutes),
  rests('rest', 'Neck rest', 5 * 24, 'rest'),
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
  },
  ...board,
];
const bodyBlank: Operation[] = [
  dries,
  mills('mill', 'Body mill', 'body-mill', 320),
  rests('rest', 'Body rest', 48, 'rest'),
];

interface Finish {
  colourMinutes: number;
  material: string;
  coats: number;
  buffHours: number;
  q: number;
}
const finish = ({ colourMinutes, material, coats, buffHours, q }: Finish): Operation[] => [
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
    caution: CAUTION.spray,
    reworkTo: 'colour',
  }),
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
    reworkTo: 'clear',
  }),
];
const assemble: Operation[] = [
  works({
    key: 'assemble',
    name: 'Assembly',
    at: 'assembly',
    pieceMinutes: 48,
    skill: 'assembly',
    caution: CAUTION.dust,
    reworkTo: 'assemble',
  }),
  works({
    key: 'setup',
    name: 'Set-up',
    at: 'set-up',
    pieceMinutes: 36,
    skill: 'set-up',
    caution: CAUTION.strings,
    reworkTo: 'setup',
  }),
  {
    key: 'settle',
    name: 'Settling',
    mode: 'hold',
    stations: ['set-up'],
    room: 'Assembly',
    reworkTo: 'setup',
    caution: null,
    rule: { rule: 'settle', word: 'settling', hours: 6 * 24, driftLimitMm: 0.1 },
  },
  {
    key: 'final',
    name: 'Final inspection',
    mode: 'gate',
    gate: { kind: 'inspection' },
    stations: ['set-up'],
    setUpMinutes: 10,
    pieceMinutes: 14,
    skill: 'inspect',
    reworkTo: 'setup',
    caution: CAUTION.strings,
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

const lacquer: Finish = { colourMinutes: 71, material: 'thin lacquer', coats: 4, buffHours: 336, q: 1.6 };
const acrylic: Finish = { colourMinutes: 62, material: 'acrylic lacquer', coats: 4, buffHours: 168, q: 1.6 };
const satin: Finish = { colourMinutes: 48, material: 'catalysed satin', coats: 3, buffHours: 96, q: 2 };

const route = (model: string, kind: string, operations: Operation[]): Route => ({
  id: `${model.toLowerCase()}-${kind.toLowerCase()}-1`,
  model,
  kind,
  revision: 1,
  operations,
});

export const ROUTES: Route[] = [
  // Set neck: glued before finish.
  route('Bowline', 'B', [...bodyBlank, joins('host', 'neck-fit', 'Neck joint')]),
  route('Bowline', 'N', [...neckBlank(300), joins('guest', 'neck-fit', 'Neck joint')]),
  route('Bowline', 'I', [
    rests('clamp', 'Joint clamped', 12, 'glue', 'neck-fit', 'Fitting'),
    ...finish(lacquer),
    ...assemble,
  ]),
  // Bolted: finished apart, joined at assembly.
  route('Halyard', 'B', [...bodyBlank, ...finish(acrylic), joins('host', 'assembly', 'Neck to body')]),
  route('Halyard', 'N', [
    ...neckBlank(280),
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
    joins('guest', 'assembly', 'Neck to body'),
  ]),
  route('Halyard', 'I', assemble),
  // Through neck: wings glued on before finish.
  route('Ratline', 'B', [...bodyBlank, joins('host', 'neck-fit', 'Wings to neck')]),
  route('Ratline', 'N', [...neckBlank(340), joins('guest', 'neck-fit', 'Wings to neck')]),
  route('Ratline', 'I', [
    rests('clamp', 'Wings clamped', 14, 'glue', 'neck-fit', 'Fitting'),
    ...finish(satin),
    ...assemble,
  ]),
];

/** Mean air of each room, how it swings through a day, and the EMC it should hold. */
export const ROOMS: {
  room: string;
  temperatureC: number;
  dailySwingC: number;
  relativeHumidityPct: number;
  band: [number, number];
  holdsWood?: boolean;
}[] = [
  {
    room: 'Lumber shed',
    temperatureC: 16,
    dailySwingC: 3,
    relativeHumidityPct: 54,
    band: [9, 12],
    holdsWood: true,
  },
  {
    room: 'Lumber room',
    temperatureC: 21.3,
    dailySwingC: 0.8,
    relativeHumidityPct: 35,
    band: [6, 8],
    holdsWood: true,
  },
  {
    room: 'Wood room',
    temperatureC: 21.2,
    dailySwingC: 0.6,
    relativeHumidityPct: 37,
    band: [6, 8.5],
    holdsWood: true,
  },
  { room: 'Machine hall', temperatureC: 19.5, dailySwingC: 2.0, relativeHumidityPct: 41, band: [6.5, 9.5] },
  { room: 'Fitting', temperatureC: 20.5, dailySwingC: 1.4, relativeHumidityPct: 42, band: [6.5, 9.5] },
  { room: 'Booth 1', temperatureC: 21.5, dailySwingC: 2.2, relativeHumidityPct: 48, band: [6, 11] },
  { room: 'Booth 2', temperatureC: 22.0, dailySwingC: 2.2, relativeHumidityPct: 47, band: [6, 11] },
  { room: 'Cure room', temperatureC: 21.0, dailySwingC: 2.6, relativeHumidityPct: 46, band: [6, 10.5] },
  { room: 'Buff room', temperatureC: 20.0, dailySwingC: 1.8, relativeHumidityPct: 44, band: [6, 10] },
  { room: 'Assembly', temperatureC: 21.0, dailySwingC: 1.0, relativeHumidityPct: 44, band: [6.5, 9.5] },
];

export const METERS = [
  {
    code: 'pin-1',
    name: 'Pin meter, wood room',
    kind: 'pin' as const,
    note: 'two pins, 8 mm; core readings with the hammer',
  },
  { code: 'pin-2', name: 'Pin meter, mill', kind: 'pin' as const, note: 'two pins, 8 mm' },
  { code: 'flat-1', name: 'Pinless meter', kind: 'pinless' as const, note: 'reads about 15 mm deep' },
];

export const SCRAP_REASONS: Record<string, string[]> = {
  machining: ['tear-out', 'cutter broke', 'clamp slipped'],
  fitting: ['crack at the joint', 'slot too wide'],
  finishing: ['sand-through', 'check unintended'],
  assembly: ['chip', 'split at a screw'],
  wood: ['check', 'twist'],
};

export const REWORK_REASONS: Record<string, string[]> = {
  fret: ['high fret'],
  colour: ['colour off', 'scrape slip'],
  clear: ['run', 'fish-eye', 'scrape slip'],
  buff: ['sand-through', 'sink-back'],
  assemble: ['switch dead'],
  setup: ['nut too low'],
  final: ['buzz at fret 9', 'action high'],
};
