import { FIRST_PART } from './tarrow-kits.ts';
import { factoryDate, shiftDate, type FactoryCalendar, type Station } from '@ample-crane/core';
import { DateTime } from 'luxon';
import type { BedRow, Construction, ModelPart, ModelWood } from '../setup/rows.ts';

/** Tarrow Works, a made-up factory of short-scale basses and baritone guitars. Nothing here is real. */

export const FACTORY = {
  name: 'Tarrow Works',
  /** A week less than is promised. */
  wantedLeadDays: 45,
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

/** Weeks ahead in which the works are closed for a long weekend. */
const CLOSED_IN_WEEKS = 5;

/** The calendar with what lies ahead of a moment: an evening at the burst, and a long weekend. */
export function tarrowCalendar(nowMs: number): FactoryCalendar {
  const { calendar } = FACTORY;
  const today = DateTime.fromMillis(nowMs, { zone: calendar.zone });
  const day = (weeks: number, weekday: number): string =>
    shiftDate(factoryDate(calendar, nowMs), 7 * weeks + weekday - today.weekday);
  const evening = { start: '15:30', end: '18:30', stations: ['colour'] };
  return {
    ...calendar,
    closedDays: [day(CLOSED_IN_WEEKS, 5), day(CLOSED_IN_WEEKS + 1, 1)],
    overtime: [{ date: day(1, 2), ...evening }],
  };
}

/** Codes go on where the paper tags left off. */
export const KINDS = [
  { letter: 'B', name: 'body', nextNumber: 164 },
  { letter: 'N', name: 'neck', nextNumber: 88 },
  { letter: 'F', name: 'fingerboard', nextNumber: 20 },
  { letter: 'I', name: 'instrument', nextNumber: 1 },
  { letter: 'P', name: 'panel pair', nextNumber: 12 },
  { letter: 'T', name: 'top', nextNumber: 12 },
  { letter: 'K', name: 'back', nextNumber: 12 },
  { letter: 'S', name: 'sides', nextNumber: 12 },
  { letter: 'W', name: 'lot of lumber', nextNumber: 66 },
  { letter: 'O', name: 'order', nextNumber: 2641 },
  { letter: 'C', name: 'component', nextNumber: FIRST_PART },
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
  construction: Construction;
  description: string;
  wood: ModelWood | null;
}[] = [
  {
    name: 'Bowline',
    construction: 'set',
    description: 'baritone guitar, set neck, amber burst',
    wood: {
      finishedKg: { low: 3.3, high: 3.7 },
      kitKg: 0.78,
      parts: {
        B: body('African mahogany', 3.8, 0.52, { chamberKg: 0.35, grade: 'some' }),
        N: neck(0.78, 0.62, 56),
        F: {
          species: 'Indian rosewood',
          blankMm: { lengthMm: 520, widthMm: 72, thicknessMm: 9 },
          usualBlankKg: 0.29,
          keep: { mean: 0.6, sd: 0.03 },
          chamberKg: 0,
          grade: 'plain',
          colour: 'dark',
          dimensions: [],
        },
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
  {
    name: 'Gaff',
    construction: 'hollow',
    description: 'hollow baritone guitar, bent sides, set neck; in preparation',
    wood: null,
  },
  {
    name: 'Keel',
    construction: 'composite',
    description: 'composite shell, bolted neck; in preparation',
    wood: null,
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
  station('side-bench', 'Side bench', 'fitting', 1, 'Fitting', 'bender, 2 moulds, carousel'),
  station('shell-shop', 'Shell shop', 'machining', 1, 'Shell shop', '2 moulds'),
  station('fret-bench', 'Fret bench', 'fitting', 2, 'Fitting', '2 benches'),
  station('neck-fit', 'Neck fit', 'fitting', 2, 'Fitting', '2 benches'),
  station('prep', 'Prep & seal', 'finishing', 1, 'Booth 1', 'booth 1'),
  station('colour', 'Colour', 'finishing', 1, 'Booth 2', 'booth 2 · burst by hand'),
  station('clear', 'Clear & cure', 'finishing', 1, 'Cure room', 'booth 3'),
  station('ageing', 'Ageing', 'finishing', 1, 'Buff room', 'freezer × 14'),
  station('buff', 'Sand & buff', 'finishing', 2, 'Buff room', '2 wheels'),
  station('assembly', 'Assembly', 'assembly', 2, 'Assembly', '2 benches'),
  station('set-up', 'Set-up', 'assembly', 2, 'Assembly', '2 benches'),
  station('packing', 'Packing', 'assembly', 1, 'Assembly', '1 table'),
];

const person = (code: string, name: string, role: string, ...skills: string[]) => ({
  ...{ code, name, role, skills },
  learning: LEARNING[code] ?? [],
  teaches: TEACHING[code] ?? [],
});

/** What somebody is learning, by their code. */
const LEARNING: Record<string, string[]> = {
  greave: ['burst'],
  pell: ['fit'],
  saltry: ['set-up'],
  arden: ['prep'],
};
/** Who teaches what. */
const TEACHING: Record<string, string[]> = {
  venn: ['wood'],
  dorrit: ['cnc', 'router'],
  brandt: ['fret', 'fit', 'carve', 'bend'],
  lund: ['spray', 'burst'],
  mottram: ['prep'],
  keld: ['buff'],
  rusk: ['assembly', 'set-up'],
  pike: ['inspect'],
  dray: ['pack'],
};

/** Working days until somebody can do a skill alone. */
export const TRAINING_DAYS: Record<string, number> = {
  ...{ wood: 15, cnc: 30, router: 20, fret: 45, fit: 30, carve: 60, bend: 30 },
  ...{ prep: 10, spray: 30, burst: 60, buff: 25, assembly: 20, 'set-up': 40, inspect: 30, pack: 3 },
};

export const PEOPLE = [
  person('ostrander', 'M. Ostrander', 'production'),
  person('quill', 'A. Quill', 'order desk'),
  person('venn', 'T. Venn', 'wood room lead', 'wood'),
  person('hask', 'L. Hask', 'wood room', 'wood'),
  person('dorrit', 'P. Dorrin', 'mill lead', 'cnc', 'router'),
  person('merrow', 'J. Merrow', 'mill', 'cnc'),
  person('stave', 'R. Stave', 'mill', 'cnc', 'router'),
  person('brandt', 'C. Brandle', 'fitting lead', 'fret', 'fit', 'carve', 'bend'),
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

/** Tables, presses and other places with room for several pieces at once. */
export const BEDS: Omit<BedRow, 'position'>[] = [
  { code: 'table-b1', station: 'body-mill', name: 'Body table 1', kind: 'table', places: 8 },
  { code: 'table-b2', station: 'body-mill', name: 'Body table 2', kind: 'table', places: 8 },
  { code: 'table-n1', station: 'neck-mill', name: 'Neck table 1', kind: 'table', places: 8 },
  { code: 'table-n2', station: 'neck-mill', name: 'Neck table 2', kind: 'table', places: 8 },
  { code: 'press-1', station: 'board-press', name: 'Board press 1', kind: 'press', places: 8 },
  { code: 'press-2', station: 'board-press', name: 'Board press 2', kind: 'press', places: 8 },
  { code: 'carousel-1', station: 'neck-fit', name: 'Joint carousel 1', kind: 'carousel', places: 8 },
  { code: 'carousel-2', station: 'neck-fit', name: 'Joint carousel 2', kind: 'carousel', places: 8 },
  { code: 'carousel-3', station: 'neck-fit', name: 'Joint carousel 3', kind: 'carousel', places: 8 },
  { code: 'side-mould-1', station: 'side-bench', name: 'Side mould 1', kind: 'mould', places: 4 },
  { code: 'box-carousel', station: 'side-bench', name: 'Box carousel', kind: 'carousel', places: 8 },
  { code: 'freezer-1', station: 'ageing', name: 'Freezer', kind: 'freezer', places: 14 },
  { code: 'shell-mould-1', station: 'shell-shop', name: 'Shell mould 1', kind: 'mould', places: 2 },
  { code: 'shell-mould-2', station: 'shell-shop', name: 'Shell mould 2', kind: 'mould', places: 2 },
];

/** Who files at each station. */
export const CREWS: Record<string, string[]> = {
  'wood-room': ['venn', 'hask'],
  'body-mill': ['dorrit', 'merrow'],
  'neck-mill': ['merrow', 'stave'],
  'board-press': ['oakes', 'yarrow'],
  'side-bench': ['oakes'],
  'shell-shop': ['merrow'],
  'fret-bench': ['pell', 'brandt'],
  'neck-fit': ['oakes', 'yarrow'],
  prep: ['mottram'],
  colour: ['tamsin', 'lund'],
  clear: ['greave'],
  ageing: ['arden'],
  buff: ['keld', 'arden'],
  assembly: ['fenn', 'saltry'],
  'set-up': ['wick', 'lorne'],
  packing: ['dray'],
};

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
  { room: 'Shell shop', temperatureC: 22.5, dailySwingC: 1.2, relativeHumidityPct: 43, band: [6, 11] },
  { room: 'Fitting', temperatureC: 20.5, dailySwingC: 1.4, relativeHumidityPct: 42, band: [6.5, 9.5] },
  { room: 'Booth 1', temperatureC: 21.5, dailySwingC: 2.2, relativeHumidityPct: 48, band: [6, 11] },
  { room: 'Booth 2', temperatureC: 22.0, dailySwingC: 2.2, relativeHumidityPct: 47, band: [6, 11] },
  { room: 'Booth 3', temperatureC: 21.4, dailySwingC: 2.4, relativeHumidityPct: 47, band: [6, 11] },
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

/** What brings a slip about. */
export const CAUSES: Record<string, string> = {
  'scrape slip': 'blade turned at the horn',
  'sand-through': 'thin at the edge',
  'colour off': 'too much amber at the waist',
  run: 'gun too close at the edge',
  'fish-eye': 'oil on the blank',
  'sink-back': 'grain not full',
};

/** Where a fault comes about, as far as the shop agrees on it. */
export const ORIGINS: Record<string, string> = {
  'colour off': 'I/colour',
  run: 'I/clear',
  'fish-eye': 'I/prep',
  'sink-back': 'I/prep',
  'switch dead': 'I/assemble',
  'nut too low': 'I/setup',
  'buzz at fret 9': 'N/level',
  'action high': 'I/setup',
};

export const REWORK_REASONS: Record<string, string[]> = {
  fret: ['high fret'],
  colour: ['colour off'],
  scrape: ['scrape slip'],
  clear: ['run', 'fish-eye'],
  buff: ['sand-through', 'sink-back'],
  assemble: ['switch dead'],
  setup: ['nut too low'],
  final: ['buzz at fret 9', 'action high'],
};
