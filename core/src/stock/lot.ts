import type { FigureGrade, WoodColour } from '../wood/choose-blanks.ts';

/** How the boards came: the old rule of a year an inch only speaks of green ones. */
export type Dryness = 'green' | 'air-dried' | 'kiln-dried';

/** stacked: drying · to-cut: it may be cut · cut: its blanks stand for it. */
export type BoardStatus = 'stacked' | 'to-cut' | 'cut' | 'scrapped';

export interface Board {
  /** The number on its tag; it is W-74/12 on paper. */
  number: number;
  lengthMm: number;
  widthMm: number;
  weightKg: number | null;
  grade: FigureGrade | null;
  colour?: WoodColour;
  status: BoardStatus;
}

export type BlankStatus = 'stock' | 'taken' | 'scrapped';

export interface Blank {
  /** Its board's tag and its own number: W-74/12.2. */
  id: string;
  board: number;
  /** Kind letter of what it is to become. */
  kind: string;
  lengthMm: number;
  widthMm: number;
  thicknessMm: number;
  weightKg: number;
  grade: FigureGrade;
  colour?: WoodColour;
  /** The other half, opened like a book from the same board; null when single or parted for a reason. */
  matchedWith: string | null;
  status: BlankStatus;
  /** The batch it was taken for. */
  batch: string | null;
  /** Place of the piece of that batch it becomes; absent: not told apart. */
  piece?: number;
}

export interface LotReading {
  /** Null: not told apart. */
  board: number | null;
  /** As the meter showed it. */
  readingPct: number;
}

/** One look at the stack with one meter. Kept as read: corrections are made when it is looked at. */
export interface LotReadings {
  atMs: number;
  by: string;
  meter: string | null;
  woodTemperatureC: number | null;
  depth: 'shell' | 'core';
  readings: LotReading[];
  /** Below these, one for each reading, the room could not have brought it since the last look; null: nobody knew. */
  floorsPct?: (number | null)[];
  /** Why it is to be believed as it stands. */
  because?: string;
}

/** A decision against a rule: kept for ever. */
export interface LotOverride {
  atMs: number;
  by: string;
  what: string;
  because: string;
}

/** What the log has made of one lot of lumber. */
export interface LotState {
  code: string;
  species: string;
  thicknessMm: number;
  boardFeet: number;
  /** The supplier's own reference. */
  supplier: string;
  /** Reference of the papers of a protected species. */
  papers: string | null;
  endsSealed: boolean;
  dryness: Dryness;
  receivedMs: number;
  room: string;
  /** Where it has been, oldest first, the receipt included. */
  moves: { atMs: number; room: string }[];
  boards: Board[];
  blanks: Blank[];
  looks: LotReadings[];
  overrides: LotOverride[];
}

/** 'W-74/3': lot and number of the board, as it is chalked on it. */
export const boardTag = (lot: string, board: number): string => `${lot}/${board}`;

/** The blanks of a lot that one piece of a batch was made of. */
export interface BlanksOfPiece {
  blanks: Blank[];
  /** False: nobody told them apart, and these are all of its rack. */
  own: boolean;
}

/** The blanks of a lot that became a piece; those of its rack, where nobody told them apart; undefined: none. @param position 1-based */
export function blanksOfPiece(
  { blanks }: Pick<LotState, 'blanks'>,
  batch: string,
  position: number,
): BlanksOfPiece | undefined {
  const taken = blanks.filter((blank) => blank.batch === batch && blank.status === 'taken');
  const own = taken.filter(({ piece }) => piece === position);
  const shown = own.length > 0 ? own : taken.filter(({ piece }) => piece === undefined);
  return shown.length > 0 ? { blanks: shown, own: own.length > 0 } : undefined;
}

/** Nothing of it is left to dry, cut or take. */
export function isUsedUp(state: LotState): boolean {
  const boards = state.boards.some((board) => board.status === 'stacked' || board.status === 'to-cut');
  return !boards && !state.blanks.some((blank) => blank.status === 'stock');
}

/** Boards that can still be read: themselves, or a blank of theirs in stock. */
export function readableBoards(state: LotState): number[] {
  const inBlanks = new Set(state.blanks.flatMap((b) => (b.status === 'stock' ? [b.board] : [])));
  return state.boards.flatMap((board) =>
    board.status === 'stacked' || board.status === 'to-cut' || inBlanks.has(board.number)
      ? [board.number]
      : [],
  );
}
