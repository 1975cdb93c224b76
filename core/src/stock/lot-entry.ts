import type { Correction, Entry } from '../ledger/index.ts';
import type { FigureGrade, WoodColour } from '../wood/choose-blanks.ts';
import type { Dryness, LotReading } from './lot.ts';

export interface ReceiveBody {
  type: 'receive';
  code: string;
  species: string;
  /** The species needs papers, as it was known when the lot came. */
  papersNeeded: boolean;
  thicknessMm: number;
  boardFeet: number;
  supplier: string;
  papers: string | null;
  endsSealed: boolean;
  dryness: Dryness;
  room: string;
  boards: {
    lengthMm: number;
    widthMm: number;
    weightKg?: number;
    grade?: FigureGrade;
    colour?: WoodColour;
  }[];
}

/** Papers that came later. */
export interface PapersBody {
  type: 'papers';
  reference: string;
}

export interface LotReadBody {
  type: 'lot-read';
  meter: string | null;
  woodTemperatureC: number | null;
  depth: 'shell' | 'core';
  readings: LotReading[];
  /** Why values that would be set aside are to be believed. */
  because?: string;
  /** The lowest moisture each reading can honestly show, after the looks before it; null: nobody knows. */
  facts?: { floorsPct: (number | null)[] };
}

export interface MoveBody {
  type: 'move';
  room: string;
}

/** Weight, figure and so on of boards, as sorted. */
export interface SortBody {
  type: 'sort';
  boards: { board: number; weightKg?: number; grade?: FigureGrade; colour?: WoodColour }[];
}

/** Boards pass the gate and may be cut. */
export interface ToCutBody {
  type: 'to-cut';
  boards: number[];
  /** Reason for sending boards to cut that the gate does not pass. */
  because?: string;
  /** Boards that passed when it was filed, by their corrected readings: what the reducer cannot know. */
  facts: { passing: number[]; sentence: string; papersMissing: boolean };
}

export interface CutBody {
  type: 'cut';
  board: number;
  blanks: { kind: string; lengthMm: number; widthMm: number; thicknessMm: number; weightKg: number }[];
  /** Two halves opened like a book: they stay together. */
  matched: boolean;
  /** Reason for cutting a board that is not to be cut yet. */
  because?: string;
}

export interface WeighBlankBody {
  type: 'weigh';
  blank: string;
  weightKg: number;
}

export interface TakeBody {
  type: 'take';
  blanks: string[];
  batch: string;
  /** Place of the piece that each becomes, in order of the blanks; the halves of a pair become one. */
  pieces?: number[];
  /** Reason for parting a matched pair. */
  because?: string;
}

/** Blanks a batch does not use after all. */
export interface GiveBackBody {
  type: 'give-back';
  blanks: string[];
}

export interface LotScrapBody {
  type: 'lot-scrap';
  boards: number[];
  blanks: string[];
  reason: string;
}

export type LotBody =
  | ReceiveBody
  | PapersBody
  | LotReadBody
  | MoveBody
  | SortBody
  | ToCutBody
  | CutBody
  | WeighBlankBody
  | TakeBody
  | GiveBackBody
  | LotScrapBody
  | Correction;

/** One thing that happened to one lot, in the same log as all else. */
export type LotEntry = Entry<LotBody>;
