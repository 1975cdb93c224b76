import { LONGEST_REASON, type AskedSchema } from '../ledger/index.ts';
import { above0, between, list, name, object, orNull, plainWords, whole } from '../units/json-schema.ts';
import { FIGURE_GRADES, WOOD_COLOURS, type FigureGrade, type WoodColour } from '../wood/choose-blanks.ts';
import { MOST_BOARDS } from './lot-reduce.ts';

/** Blanks out of one board. */
const MOST_BLANKS = 100;

/** One board as somebody sorted it: what is left out stays as it is. */
export interface SortedBoard {
  board: number;
  weightKg?: number;
  grade?: FigureGrade;
  colour?: WoodColour;
}

/** A blank that a board is cut into; `kind`: letter of what it is to become. */
export interface CutBlank {
  kind: string;
  lengthMm: number;
  widthMm: number;
  thicknessMm: number;
  weightKg: number;
}

/** What can be filed on a lot by itself, as it is asked for; what the server knows (who passes the gate) is left to it. */
export type LotAsked =
  | { type: 'papers'; reference: string }
  | {
      type: 'lot-read';
      meter?: string | null;
      woodTemperatureC?: number | null;
      depth?: 'shell' | 'core';
      /** As the meter shows them, %; a board left out: not told apart. */
      readings: { board?: number | null; readingPct: number }[];
      /** Why values that would be set aside are to be believed. */
      because?: string;
    }
  | { type: 'move'; room: string }
  | { type: 'sort'; sorted: SortedBoard[] }
  | { type: 'to-cut'; boards: number[]; because?: string }
  | { type: 'cut'; board: number; pieces: CutBlank[]; matched?: boolean; because?: string }
  | { type: 'weigh'; blank: string; weightKg: number }
  | { type: 'give-back'; blanks: string[] }
  | { type: 'lot-scrap'; boards?: number[]; blanks?: string[]; reason: string }
  | { type: 'undo'; seq?: number };

type Form<Asked extends LotAsked> = { type: Asked['type']; asked: AskedSchema<Asked> };
type Forms<Asked> = Asked extends LotAsked ? Form<Asked> : never;

const because = plainWords(LONGEST_REASON);
const boards = list(whole(1), 0, MOST_BOARDS);
const blanks = list(name(40), 0, MOST_BOARDS);
const reading = object({ board: orNull(whole(1)), readingPct: { type: 'number' } }, ['readingPct']);
const sorted = object(
  {
    ...{ board: whole(1), weightKg: between(0.01, 500) },
    ...{ grade: { enum: FIGURE_GRADES }, colour: { enum: WOOD_COLOURS } },
  },
  ['board'],
);
const SIZES = { lengthMm: between(1, 10_000), widthMm: between(1, 2_000), thicknessMm: between(1, 300) };
const blank = object(
  { kind: { type: 'string', pattern: '^[A-Z]$' }, ...SIZES, weightKg: between(0.01, 100) },
  ['kind', 'lengthMm', 'widthMm', 'thicknessMm', 'weightKg'],
);

/** Every kind of entry that can be asked of a lot, with the JSON Schema of its fields. */
export const LOT_FORMS: readonly Forms<LotAsked>[] = [
  { type: 'papers', asked: { fields: { reference: plainWords(LONGEST_REASON) }, needs: ['reference'] } },
  {
    type: 'lot-read',
    asked: {
      fields: {
        ...{ meter: orNull(name(40)), woodTemperatureC: orNull({ type: 'number' }) },
        ...{ depth: { enum: ['shell', 'core'] }, readings: list(reading, 1, MOST_BOARDS), because },
      },
      needs: ['readings'],
    },
  },
  { type: 'move', asked: { fields: { room: name(60) }, needs: ['room'] } },
  { type: 'sort', asked: { fields: { sorted: list(sorted, 1, MOST_BOARDS) }, needs: ['sorted'] } },
  { type: 'to-cut', asked: { fields: { boards, because }, needs: ['boards'] } },
  {
    type: 'cut',
    asked: {
      fields: {
        ...{ board: whole(1), pieces: list(blank, 1, MOST_BLANKS) },
        ...{ matched: { type: 'boolean' }, because },
      },
      needs: ['board', 'pieces'],
    },
  },
  {
    type: 'weigh',
    asked: { fields: { blank: name(40), weightKg: above0(500) }, needs: ['blank', 'weightKg'] },
  },
  { type: 'give-back', asked: { fields: { blanks }, needs: ['blanks'] } },
  {
    type: 'lot-scrap',
    asked: { fields: { boards, blanks, reason: plainWords(LONGEST_REASON) }, needs: ['reason'] },
  },
  { type: 'undo', asked: { fields: { seq: whole(1) }, needs: [] } },
];
