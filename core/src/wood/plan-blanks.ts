/** A board as it lies there, mm. Length runs with the grain. */
export interface BoardSize {
  lengthMm: number;
  widthMm: number;
  thicknessMm: number;
}

/** A blank wanted: rough size, mm, length with the grain. */
export interface BlankSize extends BoardSize {
  name: string;
  /** What one is worth against another, when a board could give either. Default: its volume. */
  worth?: number;
}

export interface CuttingAllowances {
  /** Lost to each saw cut, mm. */
  kerfMm: number;
  /** Lost to planing, both faces together, mm. */
  planeMm: number;
  /** Cut off each end of the board, mm. */
  trimMm: number;
  /** Share of blanks lost to knots, checks and sap, 0–100. */
  defectPct: number;
}

/**
 * The first cut decides what the rest can be: `crosscut` parts the board into lengths and rips each into one size of
 * blank; `rip` parts it into strips and crosscuts each into a mix of lengths.
 */
export type FirstCut = 'crosscut' | 'rip';

/** A blank in its place on the board, mm from the corner, `layers` of it one above the other. */
export interface PlacedBlank {
  name: string;
  xMm: number;
  yMm: number;
  lengthMm: number;
  widthMm: number;
  layers: number;
}

export interface BoardPlan {
  board: BoardSize;
  placed: PlacedBlank[];
  /** Blanks of each size before defects. */
  counts: Record<string, number>;
  /** Share of the board's face under blanks, 0–100. */
  usedPct: number;
}

export interface BlanksPlan {
  boards: BoardPlan[];
  counts: Record<string, number>;
  /** What is left of the counts after the defect share: the expected good blanks. */
  expected: Record<string, number>;
  usedPct: number;
  /** Wood that ends as no blank, board feet. */
  leftoverBoardFeet: number;
}

/** Larger boards than this are a slip of the hand, mm. */
const LARGEST_MM = 10_000;
const MM3_PER_BOARD_FOOT = 25.4 ** 3 * 144;

interface Strip {
  size: BlankSize;
  layers: number;
}

function check(
  options: { boards: readonly BoardSize[]; blanks: readonly BlankSize[] } & CuttingAllowances,
): void {
  const sizes = [
    ...options.boards.map((board, i) => ({ what: `board ${i + 1}`, ...board })),
    ...options.blanks.map((blank) => ({ what: blank.name, ...blank })),
  ];
  for (const { what, lengthMm, widthMm, thicknessMm } of sizes) {
    for (const [name, value] of Object.entries({ lengthMm, widthMm, thicknessMm })) {
      if (!(value > 0 && value <= LARGEST_MM))
        throw new RangeError(
          `planBlanks: ${name} of ${what} must be within 0…${LARGEST_MM} mm, got ${value}`,
        );
    }
  }
  if (options.boards.length === 0 || options.blanks.length === 0)
    throw new RangeError('planBlanks: needs at least one board and one size of blank');
  const { kerfMm, planeMm, trimMm, defectPct } = options;
  for (const [name, value] of Object.entries({ kerfMm, planeMm, trimMm })) {
    if (!(value >= 0 && value <= 200))
      throw new RangeError(`planBlanks: ${name} must be 0…200 mm, got ${value}`);
  }
  if (!(defectPct >= 0 && defectPct < 100))
    throw new RangeError(`planBlanks: defectPct must be 0 or more and below 100, got ${defectPct}`);
}

/**
 * How many blanks boards give, and where they lie: guillotine cuts in two stages, the mix of lengths (or of strips)
 * found by dynamic programming over whole millimetres, so that it is the best of its kind. Blanks keep the grain along
 * their length and are resawn into layers where the board is thick enough.
 * @throws RangeError for sizes or allowances that cannot be.
 */
export function planBlanks(
  options: {
    boards: readonly BoardSize[];
    blanks: readonly BlankSize[];
    firstCut: FirstCut;
  } & CuttingAllowances,
): BlanksPlan {
  check(options);
  const boards = options.boards.map((board) => planBoard(board, options));
  const counts = Object.fromEntries(
    options.blanks.map(({ name }) => [name, boards.reduce((sum, plan) => sum + (plan.counts[name] ?? 0), 0)]),
  );
  const good = 1 - options.defectPct / 100;
  const face = (size: { lengthMm: number; widthMm: number }): number => size.lengthMm * size.widthMm;
  const whole = boards.reduce((sum, { board }) => sum + face(board), 0);
  const used = boards.reduce((sum, plan) => sum + (plan.usedPct / 100) * face(plan.board), 0);
  const volume = boards.reduce((sum, { board }) => sum + face(board) * board.thicknessMm, 0);
  const inBlanks = options.blanks.reduce(
    (sum, blank) => sum + (counts[blank.name] ?? 0) * face(blank) * blank.thicknessMm,
    0,
  );
  return {
    boards,
    counts,
    expected: Object.fromEntries(
      Object.entries(counts).map(([name, count]) => [name, Math.floor(count * good)]),
    ),
    usedPct: (100 * used) / whole,
    leftoverBoardFeet: (volume - inBlanks) / MM3_PER_BOARD_FOOT,
  };
}

type Options = { blanks: readonly BlankSize[]; firstCut: FirstCut } & CuttingAllowances;

function planBoard(board: BoardSize, options: Options): BoardPlan {
  const layersOf = (blank: BlankSize): number =>
    Math.floor((board.thicknessMm - options.planeMm + options.kerfMm) / (blank.thicknessMm + options.kerfMm));
  const strips = options.blanks.flatMap((size) =>
    layersOf(size) > 0 ? [{ size, layers: layersOf(size) }] : [],
  );
  const area = { lengthMm: board.lengthMm - 2 * options.trimMm, widthMm: board.widthMm };
  const placed =
    options.firstCut === 'crosscut' ? crosscutFirst(area, strips, options) : ripFirst(area, strips, options);
  const counts: Record<string, number> = {};
  for (const { name, layers } of placed) counts[name] = (counts[name] ?? 0) + layers;
  const used = placed.reduce((sum, blank) => sum + blank.lengthMm * blank.widthMm, 0);
  return {
    board,
    placed: placed.map((blank) => ({ ...blank, xMm: blank.xMm + options.trimMm })),
    counts,
    usedPct: (100 * used) / (board.lengthMm * board.widthMm),
  };
}

const worthOf = ({ size, layers }: Strip): number =>
  layers * (size.worth ?? size.lengthMm * size.widthMm * size.thicknessMm);

/** How many pieces of a length fit into a room, with a cut between neighbours. */
const fits = (roomMm: number, pieceMm: number, kerfMm: number): number =>
  Math.max(0, Math.floor((roomMm + kerfMm) / (pieceMm + kerfMm)));

function crosscutFirst(
  area: { lengthMm: number; widthMm: number },
  strips: Strip[],
  options: Options,
): PlacedBlank[] {
  const across = (strip: Strip): number => fits(area.widthMm, strip.size.widthMm, options.kerfMm);
  const chosen = bestMix(
    area.lengthMm,
    options.kerfMm,
    strips.map((strip) => ({ strip, takesMm: strip.size.lengthMm, worth: across(strip) * worthOf(strip) })),
  );
  const placed: PlacedBlank[] = [];
  let xMm = 0;
  for (const strip of chosen) {
    const { name, lengthMm, widthMm } = strip.size;
    for (let i = 0; i < across(strip); i += 1) {
      placed.push({
        name,
        xMm,
        yMm: i * (widthMm + options.kerfMm),
        lengthMm,
        widthMm,
        layers: strip.layers,
      });
    }
    xMm += lengthMm + options.kerfMm;
  }
  return placed;
}

/** A strip as wide as one size takes every size that is no wider. */
function ripFirst(
  area: { lengthMm: number; widthMm: number },
  strips: Strip[],
  options: Options,
): PlacedBlank[] {
  const rows = strips.map((strip) => {
    const narrower = strips.filter((other) => other.size.widthMm <= strip.size.widthMm);
    const row = bestMix(
      area.lengthMm,
      options.kerfMm,
      narrower.map((other) => ({ strip: other, takesMm: other.size.lengthMm, worth: worthOf(other) })),
    );
    return {
      strip,
      row,
      takesMm: strip.size.widthMm,
      worth: row.reduce((sum, other) => sum + worthOf(other), 0),
    };
  });
  const chosen = bestMix(
    area.widthMm,
    options.kerfMm,
    rows.map((row) => ({ ...row, strip: row })),
  );
  const placed: PlacedBlank[] = [];
  let yMm = 0;
  for (const { row, takesMm } of chosen) {
    let xMm = 0;
    for (const { size, layers } of row) {
      placed.push({ name: size.name, xMm, yMm, lengthMm: size.lengthMm, widthMm: size.widthMm, layers });
      xMm += size.lengthMm + options.kerfMm;
    }
    yMm += takesMm + options.kerfMm;
  }
  return placed;
}

interface Choice<T> {
  strip: T;
  takesMm: number;
  worth: number;
}

/** The most worth of pieces, any number of each, that fit one after the other with a cut between (unbounded knapsack). */
function bestMix<T>(roomMm: number, kerfMm: number, choices: readonly Choice<T>[]): T[] {
  // A cut follows every piece but the last: the room is one cut longer and every piece takes its cut along.
  const room = Math.floor(roomMm + kerfMm);
  if (room <= 0) return [];
  const best = new Float64Array(room + 1);
  const last = new Int32Array(room + 1).fill(-1);
  for (let at = 1; at <= room; at += 1) {
    best[at] = best[at - 1] ?? 0;
    choices.forEach(({ takesMm, worth }, i) => {
      const before = at - Math.ceil(takesMm + kerfMm);
      if (before < 0 || worth <= 0) return;
      const total = (best[before] ?? 0) + worth;
      if (total > (best[at] ?? 0)) [best[at], last[at]] = [total, i];
    });
  }
  const chosen: Choice<T>[] = [];
  for (let at = room; at > 0;) {
    const choice = choices[last[at] ?? -1];
    if (choice) {
      chosen.push(choice);
      at -= Math.ceil(choice.takesMm + kerfMm);
    } else at -= 1;
  }
  return chosen.toSorted((a, b) => b.takesMm - a.takesMm).map((choice) => choice.strip);
}
