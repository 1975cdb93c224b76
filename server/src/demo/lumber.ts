import {
  boardFeet,
  DAY_MS,
  densityKgM3,
  equilibriumMoistureContentPct,
  FIGURE_GRADES,
  HOUR_MS,
  inchesFromMm,
  randomStream,
  speciesNamed,
  type ClimateSample,
  type Dryness,
  type RandomStream,
} from '@ample-crane/core';
import type { LotDraft } from '../wood/lots.service.ts';
import { KINDS } from './tarrow-works.ts';

/** The lines Tarrow Works found for its meters, and what it weighed to find them. */
export const METER_LINES: {
  meter: string;
  species: string;
  a: number;
  b: number;
  daysAgo: number;
  samples: number;
}[] = [
  { meter: 'pin-1', species: 'hard maple', a: 0.5, b: 0.93, daysAgo: 160, samples: 9 },
  { meter: 'pin-1', species: 'red alder', a: -0.3, b: 1.05, daysAgo: 160, samples: 7 },
  { meter: 'pin-1', species: 'white ash', a: 0.2, b: 0.97, daysAgo: 410, samples: 6 },
  { meter: 'pin-2', species: 'hard maple', a: 0.1, b: 1.02, daysAgo: 90, samples: 5 },
];
const SAMPLES_WITHOUT_A_LINE = { meter: 'pin-1', species: 'African mahogany', samples: 2 };

export interface DemoSample {
  meter: string;
  species: string;
  readingPct: number;
  woodTemperatureC: number;
  wetG: number;
  dryG: number;
  daysAgo: number;
}

/** Oven-dry samples that lead to those lines, more or less. */
export function tarrowSamples(seed: number): DemoSample[] {
  const random = randomStream(seed);
  const wanted = [...METER_LINES, { ...SAMPLES_WITHOUT_A_LINE, a: 0.4, b: 0.96, daysAgo: 12 }];
  return wanted.flatMap(({ meter, species, a, b, daysAgo, samples }) =>
    Array.from({ length: samples }, (_, i) => {
      const readingPct = Math.round(10 * (6 + (i * 8) / samples + random.next())) / 10;
      const dryG = Math.round(10 * random.normal(46, 5)) / 10;
      const moisture = a + b * readingPct + random.normal(0, 0.18);
      const wetG = Math.round(100 * dryG * (1 + moisture / 100)) / 100;
      return { meter, species, readingPct, woodTemperatureC: 21, wetG, dryG, daysAgo };
    }),
  );
}

/** Pieces weighed before and after, by model and kind. */
export const WEIGHED = [
  { model: 'Bowline', kind: 'B', keep: 0.535, blankKg: 3.85, count: 14 },
  { model: 'Halyard', kind: 'B', keep: 0.541, blankKg: 3.3, count: 9 },
  { model: 'Ratline', kind: 'N', keep: 0.69, blankKg: 0.95, count: 5 },
];

interface LotStory {
  species: string;
  thicknessMm: number;
  boards: number;
  widthMm: number;
  lengthMm: number;
  supplier: string;
  papers?: string;
  dryness: Dryness;
  room: string;
  receivedDaysAgo: number;
  startPct: number;
  tauDays: number;
  /** Days between looks; 0: nobody has read it. */
  readEveryDays: number;
  /** Sent to cut whole, and cut into blanks of this kind, so many days ago. */
  cut?: { kind: 'B' | 'N'; daysAgo: number };
  toCut?: number;
}

const STORIES: LotStory[] = [
  {
    species: 'African mahogany',
    thicknessMm: 50,
    boards: 58,
    widthMm: 200,
    lengthMm: 2300,
    supplier: 'harbour yard, order 41',
    papers: 'import licence 5518',
    dryness: 'kiln-dried',
    room: 'Lumber room',
    receivedDaysAgo: 85,
    startPct: 9.6,
    tauDays: 22,
    readEveryDays: 9,
    cut: { kind: 'B', daysAgo: 9 },
  },
  {
    species: 'red alder',
    thicknessMm: 50,
    boards: 46,
    widthMm: 200,
    lengthMm: 2400,
    supplier: 'valley mill, 220',
    dryness: 'kiln-dried',
    room: 'Lumber room',
    receivedDaysAgo: 80,
    startPct: 9.8,
    tauDays: 18,
    readEveryDays: 8,
    cut: { kind: 'B', daysAgo: 8 },
  },
  {
    species: 'white ash',
    thicknessMm: 50,
    boards: 34,
    widthMm: 200,
    lengthMm: 2300,
    supplier: 'valley mill, 221',
    dryness: 'kiln-dried',
    room: 'Lumber room',
    receivedDaysAgo: 76,
    startPct: 10,
    tauDays: 20,
    readEveryDays: 8,
    cut: { kind: 'B', daysAgo: 6 },
  },
  {
    species: 'hard maple',
    thicknessMm: 27,
    boards: 20,
    widthMm: 170,
    lengthMm: 2500,
    supplier: 'lake yard, 77',
    dryness: 'kiln-dried',
    room: 'Lumber room',
    receivedDaysAgo: 70,
    startPct: 9.4,
    tauDays: 16,
    readEveryDays: 8,
    cut: { kind: 'N', daysAgo: 7 },
  },
  {
    species: 'red alder',
    thicknessMm: 50,
    boards: 30,
    widthMm: 210,
    lengthMm: 2400,
    supplier: 'valley mill, 236',
    dryness: 'kiln-dried',
    room: 'Lumber room',
    receivedDaysAgo: 58,
    startPct: 9.9,
    tauDays: 24,
    readEveryDays: 7,
    toCut: 3,
  },
  {
    species: 'white ash',
    thicknessMm: 50,
    boards: 24,
    widthMm: 200,
    lengthMm: 2300,
    supplier: 'valley mill, 240',
    dryness: 'kiln-dried',
    room: 'Lumber room',
    receivedDaysAgo: 40,
    startPct: 10.4,
    tauDays: 30,
    readEveryDays: 6,
  },
  {
    species: 'African mahogany',
    thicknessMm: 50,
    boards: 20,
    widthMm: 200,
    lengthMm: 2200,
    supplier: 'harbour yard, order 44',
    papers: 'import licence 5530',
    dryness: 'air-dried',
    room: 'Lumber room',
    receivedDaysAgo: 33,
    startPct: 12.4,
    tauDays: 26,
    readEveryDays: 5,
  },
  {
    species: 'hard maple',
    thicknessMm: 27,
    boards: 48,
    widthMm: 170,
    lengthMm: 2500,
    supplier: 'lake yard, 83',
    dryness: 'kiln-dried',
    room: 'Lumber room',
    receivedDaysAgo: 24,
    startPct: 10.7,
    tauDays: 21,
    readEveryDays: 3,
  },
  {
    species: 'red alder',
    thicknessMm: 50,
    boards: 36,
    widthMm: 210,
    lengthMm: 2400,
    supplier: 'valley mill, 251',
    dryness: 'green',
    room: 'Lumber shed',
    receivedDaysAgo: 62,
    startPct: 28,
    tauDays: 28,
    readEveryDays: 9,
  },
  {
    species: 'Indian rosewood',
    thicknessMm: 12,
    boards: 30,
    widthMm: 90,
    lengthMm: 560,
    supplier: 'harbour yard, order 45',
    dryness: 'air-dried',
    room: 'Lumber room',
    receivedDaysAgo: 2,
    startPct: 9.5,
    tauDays: 14,
    readEveryDays: 0,
  },
];

export interface PlannedLotFiling {
  atMs: number;
  by: string;
  lot: string | null;
  draft: LotDraft;
}

/** A look is made in the morning; noise of one reading and the boards' own difference, % moisture. */
const LOOK_SIZE = 8;
const NOISE_PCT = 0.18;
const BOARD_SPREAD_PCT = 0.25;
const WOOD_TEMPERATURE_C = 20.5;
const CREW = ['venn', 'hask'];

/** The lumber of Tarrow Works up to now, in order of time. Lots dry by the law the forecast assumes, under their own constants. */
export function tarrowLumber(options: {
  nowMs: number;
  seed: number;
  climateOf: (room: string) => readonly ClimateSample[];
}): PlannedLotFiling[] {
  const first = KINDS.find(({ letter }) => letter === 'W')?.nextNumber ?? 1;
  // Codes are given in the order of receipt.
  return STORIES.toSorted((a, b) => b.receivedDaysAgo - a.receivedDaysAgo)
    .flatMap((story, i) =>
      filingsOf(story, `W-${first + i}`, randomStream(options.seed + i * 104_729), options),
    )
    .sort((a, b) => a.atMs - b.atMs);
}

function filingsOf(
  story: LotStory,
  lot: string,
  random: RandomStream,
  { nowMs, climateOf }: { nowMs: number; climateOf: (room: string) => readonly ClimateSample[] },
): PlannedLotFiling[] {
  const receivedMs = nowMs - story.receivedDaysAgo * DAY_MS - 2 * HOUR_MS;
  const offsets = Array.from({ length: story.boards }, () => random.normal(0, BOARD_SPREAD_PCT));
  const filings: PlannedLotFiling[] = [
    { atMs: receivedMs, by: 'venn', lot: null, draft: receipt(story, random) },
  ];
  const file = (atMs: number, draft: LotDraft): void => {
    filings.push({ atMs, by: random.pick(CREW), lot, draft });
  };
  const moisture = courseOf(story, climateOf(story.room), receivedMs);
  const line = METER_LINES.find(({ meter, species }) => meter === 'pin-1' && species === story.species) ?? {
    a: 0,
    b: 1,
  };
  const shown = (board: number, atMs: number): number => {
    const truth = moisture(atMs) + (offsets[board - 1] ?? 0) + random.normal(0, NOISE_PCT);
    const atReference = (truth - line.a) / line.b;
    return Math.round((10 * atReference) / (1 - 0.0055 * (WOOD_TEMPERATURE_C - 21))) / 10;
  };
  const look = (atMs: number, boards: number[], depth: 'shell' | 'core' = 'shell'): void =>
    file(atMs, {
      type: 'lot-read',
      meter: 'pin-1',
      woodTemperatureC: WOOD_TEMPERATURE_C,
      depth,
      readings: boards.map((board) => ({
        board,
        readingPct: shown(board, atMs) + (depth === 'core' ? 0.3 : 0),
      })),
    });
  const all = Array.from({ length: story.boards }, (_, i) => i + 1);
  const outMs = nowMs - (story.cut?.daysAgo ?? story.toCut ?? 0) * DAY_MS - 3 * HOUR_MS;
  if (story.readEveryDays > 0) {
    let turn = 0;
    for (
      let atMs = receivedMs + 3 * HOUR_MS;
      atMs <= Math.min(nowMs, outMs + HOUR_MS);
      atMs += story.readEveryDays * DAY_MS
    ) {
      look(
        atMs,
        Array.from({ length: LOOK_SIZE }, (_, i) => ((turn * LOOK_SIZE + i * 5) % story.boards) + 1).filter(
          unique,
        ),
      );
      turn += 1;
    }
  }
  if (story.cut || story.toCut !== undefined) {
    look(outMs, all);
    // What reads too wet on that day stays in the stack.
    const dry = (filings.at(-1)?.draft as { readings: { board: number; readingPct: number }[] }).readings
      .filter(({ readingPct }) =>
        within(line.a + line.b * readingPct * (1 - 0.0055 * (WOOD_TEMPERATURE_C - 21))),
      )
      .map(({ board }) => board);
    file(outMs + HOUR_MS / 2, { type: 'to-cut', boards: dry });
    if (story.cut) {
      const { kind } = story.cut;
      dry.forEach((board, i) => file(outMs + HOUR_MS + i * 60_000, cutOf(story, board, kind, random)));
    }
  } else if (story.boards === 48)
    look(
      nowMs - 2.5 * HOUR_MS,
      all.filter((board) => board % 6 === 1),
      'core',
    );
  return filings;
}

const unique = <T>(value: T, index: number, list: readonly T[]): boolean => list.indexOf(value) === index;
/** Well inside the factory's window. */
const within = (pct: number): boolean => pct > 6.05 && pct < 8.45;

function receipt(story: LotStory, random: RandomStream): LotDraft {
  const { species, thicknessMm, supplier, papers, dryness, room } = story;
  const boards = Array.from({ length: story.boards }, () => {
    const lengthMm = Math.round(random.normal(story.lengthMm, 60));
    const widthMm = Math.round(random.normal(story.widthMm, 8));
    const kg = boardKg(story, { lengthMm, widthMm }, random);
    return {
      lengthMm,
      widthMm,
      weightKg: Math.round(100 * kg) / 100,
      grade: random.pick(FIGURE_GRADES.slice(0, 3)),
    };
  });
  const feet = boards.map((board) =>
    boardFeet({
      thicknessIn: inchesFromMm(thicknessMm),
      widthIn: inchesFromMm(board.widthMm),
      lengthFt: inchesFromMm(board.lengthMm) / 12,
    }),
  );
  return {
    type: 'receive',
    ...{ species, thicknessMm, supplier, dryness, room, boards },
    boardFeet: Math.round(feet.reduce((sum, foot) => sum + foot, 0)),
    papers: papers ?? null,
    endsSealed: dryness !== 'kiln-dried' || random.chance(0.7),
  };
}

function boardKg(
  story: LotStory,
  { lengthMm, widthMm }: { lengthMm: number; widthMm: number },
  random: RandomStream,
): number {
  const density =
    densityKgM3(speciesNamed(story.species).basicSpecificGravity, story.startPct) * random.normal(1.03, 0.07);
  return (density * lengthMm * widthMm * story.thicknessMm) / 1e9;
}

/** Bodies from book-matched halves, necks three or four to a board. */
function cutOf(story: LotStory, board: number, kind: 'B' | 'N', random: RandomStream): LotDraft {
  const size =
    kind === 'B'
      ? { lengthMm: 520, widthMm: 180, thicknessMm: 45 }
      : { lengthMm: 700, widthMm: 75, thicknessMm: 24 };
  const density =
    densityKgM3(speciesNamed(story.species).basicSpecificGravity, 7.5) * random.normal(1.04, 0.065);
  const blank = (): { kind: string; weightKg: number } & typeof size => ({
    kind,
    ...size,
    weightKg:
      Math.round(
        (1000 * density * random.normal(1, 0.01) * size.lengthMm * size.widthMm * size.thicknessMm) / 1e9,
      ) / 1000,
  });
  const count = kind === 'B' ? 2 : 4;
  return { type: 'cut', board, blanks: Array.from({ length: count }, blank), matched: kind === 'B' };
}

/** Mean moisture of a lot at any moment, by its own time constant under its room's air. */
function courseOf(
  story: LotStory,
  climate: readonly ClimateSample[],
  fromMs: number,
): (atMs: number) => number {
  const course: { atMs: number; pct: number }[] = [];
  let pct = story.startPct;
  for (const air of climate) {
    if (air.atMs < fromMs) continue;
    course.push({ atMs: air.atMs, pct });
    const rate = 2 ** ((air.temperatureC - 21) / 10);
    const emcPct = equilibriumMoistureContentPct(air);
    pct = emcPct + (pct - emcPct) * Math.exp(-rate / (24 * story.tauDays));
  }
  return (atMs) => course.findLast((point) => point.atMs <= atMs)?.pct ?? story.startPct;
}
