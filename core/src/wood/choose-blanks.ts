import { munkres } from 'munkres';
import type { MoistureWindow } from './gate.ts';

/** How a board looks once a finish shows it. */
export const FIGURE_GRADES = ['plain', 'some', 'figured', 'highly figured'] as const;
export type FigureGrade = (typeof FIGURE_GRADES)[number];

/** How dark a board is: what shows side by side should match. */
export const WOOD_COLOURS = ['light', 'medium', 'dark'] as const;
export type WoodColour = (typeof WOOD_COLOURS)[number];

/** One piece of stock that can become a body or a neck; a book-matched pair counts as one. */
export interface StockBlank {
  id: string;
  species: string;
  weightKg: number;
  grade: FigureGrade;
  /** Absent: nobody sorted it by colour. */
  colour?: WoodColour;
  /** Last moisture, corrected, %; null: never read. */
  moisturePct: number | null;
}

/** What pieces of one batch need of their blanks; those that should weigh something else are a demand of their own. */
export interface BlankDemand {
  batch: string;
  /** Places on the rack that want a blank, 1-based. */
  pieces: readonly number[];
  species: string;
  /** Weight the finished instruments must have. */
  finishedKg: { low: number; high: number };
  /** What is not this blank: the other wood and the kit, kg. */
  othersKg: number;
  /** Finished weight of the part over its blank's weight. */
  keepFraction: number;
  /** Weight that chambering may take out of a piece at most, kg; 0: the model is not chambered. */
  chamberKg: number;
  /** The least figure the finish needs. */
  grade: FigureGrade;
  /** Colour the finish lets show; left out: any. */
  colour?: WoodColour;
  /** Moisture the blanks must show; left out: any. */
  moisture?: MoistureWindow;
}

export interface ChosenBlank {
  batch: string;
  /** Place of the piece it becomes. */
  piece: number;
  blank: string;
  /** Predicted weight of the finished instrument after any chambering. */
  finishedKg: number;
  /** What chambering must take out of the piece; 0: none. */
  chamberKg: number;
  /** How far the instrument would be from the middle of its window without chambering, kg. */
  deviationKg: number;
}

export interface BlanksChosen {
  chosen: ChosenBlank[];
  /** Pieces no blank is left for, by batch. */
  missing: { batch: string; pieces: number[] }[];
  /** Σ deviation of what was chosen, kg. */
  totalDeviationKg: number;
}

/** Wasting a grade of figure under an opaque finish costs as much as so many kg of deviation: it decides between equals. */
const WASTED_GRADE_KG = 0.02;
/** A blank nobody sorted by colour is taken when one that was would be missed by more than this, kg. */
const UNSORTED_COLOUR_KG = 0.05;
/** Chambering is work: a piece that needs it is taken when a lighter one would be missed by more than this, kg. */
const CHAMBER_COST_KG = 0.1;
/**
 * More than any deviation a factory would accept, so that a place is left empty only when nothing fits it; a kilogram
 * more for each demand that stands earlier, so that a short stock goes to those first.
 */
const EMPTY_KG = 1000;

/** What an instrument of this blank will weigh, kg: what is kept of the blank, and all else that goes on it. */
export const finishedWeightKg = (blankKg: number, demand: BlankDemand): number =>
  blankKg * demand.keepFraction + demand.othersKg;

type Fit = Omit<ChosenBlank, 'piece'> & { costKg: number };

/** The blank for a piece of this demand, or null when it cannot be. */
function fitOf(blank: StockBlank, demand: BlankDemand): Fit | null {
  if (blank.species !== demand.species) return null;
  const spare = FIGURE_GRADES.indexOf(blank.grade) - FIGURE_GRADES.indexOf(demand.grade);
  if (spare < 0) return null;
  if (demand.colour && blank.colour && blank.colour !== demand.colour) return null;
  const { moisture } = demand;
  const { moisturePct } = blank;
  if (moisture && (moisturePct === null || moisturePct < moisture.lowPct || moisturePct > moisture.highPct))
    return null;
  const kg = finishedWeightKg(blank.weightKg, demand);
  const chamberKg = Math.max(0, kg - demand.finishedKg.high);
  if (kg < demand.finishedKg.low || chamberKg > demand.chamberKg) return null;
  const deviationKg = Math.abs(kg - (demand.finishedKg.low + demand.finishedKg.high) / 2);
  const costKg =
    deviationKg +
    spare * WASTED_GRADE_KG +
    (demand.colour && !blank.colour ? UNSORTED_COLOUR_KG : 0) +
    (chamberKg > 0 ? CHAMBER_COST_KG : 0);
  return { batch: demand.batch, blank: blank.id, finishedKg: kg - chamberKg, chamberKg, deviationKg, costKg };
}

/**
 * Chooses blanks for all batches at once, so that no light or figured blank is spent where any would do: the assignment
 * of stock to places with the least total deviation from the middle of the weight windows (Hungarian method), subject to
 * species, moisture, figure, colour and what chambering can take out. `demands` are all batches that will want this stock, the
 * one asked about among them: a batch chosen alone takes the best and leaves the rest to the others.
 * Where the stock is short, demands that stand earlier are filled first.
 * @throws RangeError for a demand or a blank with numbers that cannot be, or an id given twice.
 */
export function chooseBlanks(options: {
  demands: readonly BlankDemand[];
  blanks: readonly StockBlank[];
}): BlanksChosen {
  const { demands, blanks } = options;
  check(demands, blanks);
  const places = demands.flatMap((demand) => demand.pieces.map(() => demand));
  const fits = new Map(demands.map((demand) => [demand, blanks.map((blank) => fitOf(blank, demand))]));
  // Each place may also stay empty: that is a column of its own kind for every place.
  const costs = places.map((demand) => [
    ...(fits.get(demand) ?? []).map((fit) => fit?.costKg ?? Infinity),
    ...places.map(() => EMPTY_KG + demands.length - demands.indexOf(demand)),
  ]);
  const taken = new Map<BlankDemand, Fit[]>(demands.map((demand) => [demand, []]));
  for (const [row, column] of places.length === 0 ? [] : munkres(costs)) {
    const demand = places[row];
    const fit = demand && fits.get(demand)?.[column];
    if (fit) taken.get(demand)?.push(fit);
  }
  return answerOf(taken);
}

/**
 * The rule of thumb it stands beside: batch after batch takes the lightest blanks that fit, as people do at a stack.
 * Same feasibility, same answer shape.
 */
export function lightestFirst(options: {
  demands: readonly BlankDemand[];
  blanks: readonly StockBlank[];
}): BlanksChosen {
  const left = options.blanks.toSorted((a, b) => a.weightKg - b.weightKg || a.id.localeCompare(b.id));
  const taken = new Map<BlankDemand, Fit[]>();
  for (const demand of options.demands) {
    const own: Fit[] = [];
    for (let i = 0; i < left.length && own.length < demand.pieces.length;) {
      const blank = left[i];
      const fit = blank && fitOf(blank, demand);
      if (fit) {
        own.push(fit);
        left.splice(i, 1);
      } else i += 1;
    }
    taken.set(demand, own);
  }
  return answerOf(taken);
}

/** Which blank becomes which piece: those of one demand are alike, so that the lightest becomes the first. */
function answerOf(taken: ReadonlyMap<BlankDemand, readonly Fit[]>): BlanksChosen {
  const byWeight = (a: Fit, b: Fit): number => a.finishedKg - b.finishedKg || a.blank.localeCompare(b.blank);
  const chosen = [...taken].flatMap(([{ pieces }, fits]) =>
    fits.toSorted(byWeight).flatMap(({ costKg: _cost, ...fit }, i): ChosenBlank[] => {
      const piece = pieces[i];
      return piece === undefined ? [] : [{ ...fit, piece }];
    }),
  );
  const missing = new Map<string, number[]>();
  for (const [{ batch, pieces }, fits] of taken) {
    const empty = pieces.slice(fits.length);
    if (empty.length > 0) missing.set(batch, [...(missing.get(batch) ?? []), ...empty]);
  }
  return {
    chosen: chosen.toSorted((a, b) => a.batch.localeCompare(b.batch) || a.piece - b.piece),
    missing: [...missing].map(([batch, pieces]) => ({ batch, pieces: pieces.toSorted((a, b) => a - b) })),
    totalDeviationKg: chosen.reduce((sum, { deviationKg }) => sum + deviationKg, 0),
  };
}

function check(demands: readonly BlankDemand[], blanks: readonly StockBlank[]): void {
  const wanting = new Set<string>();
  for (const demand of demands) {
    const { batch, pieces, finishedKg, keepFraction, othersKg, chamberKg } = demand;
    for (const piece of pieces) {
      if (!(Number.isInteger(piece) && piece > 0))
        throw new RangeError(`chooseBlanks: ${batch} has no piece ${piece}`);
      if (wanting.has(`${batch}/${piece}`))
        throw new RangeError(`chooseBlanks: ${batch}/${piece} is listed twice`);
      wanting.add(`${batch}/${piece}`);
    }
    if (!(finishedKg.low <= finishedKg.high))
      throw new RangeError(
        `chooseBlanks: the weight window of ${batch} must rise, got ${finishedKg.low}–${finishedKg.high} kg`,
      );
    if (!(keepFraction > 0 && keepFraction <= 1 && othersKg >= 0 && chamberKg >= 0))
      throw new RangeError(
        `chooseBlanks: ${batch} has keep ${keepFraction}, others ${othersKg} kg, chambering ${chamberKg} kg`,
      );
  }
  const seen = new Set<string>();
  for (const { id, weightKg } of blanks) {
    if (!(weightKg > 0)) throw new RangeError(`chooseBlanks: blank ${id} weighs ${weightKg} kg`);
    if (seen.has(id)) throw new RangeError(`chooseBlanks: blank ${id} is listed twice`);
    seen.add(id);
  }
}
