/** How a log becomes a state; what a batch is, what is recorded of it, which pieces an entry means, and why one is refused. */
export {
  hasLeft,
  holdGroups,
  isClosed,
  pieceAt,
  pieceCode,
  type BatchState,
  type HoldGroup,
  type LoadMark,
  type Override,
  type PieceAt,
  type PieceState,
  type Standing,
} from './batch.ts';
export { LONGEST_REASON, SELECTED, type AskedSchema } from './asked.ts';
export { MOST_VALUES, type AnyBody, type Entry, type Facts, type Selection } from './entry.ts';
export type { FiledKind, Kind } from './kind.ts';
export {
  isCorrection,
  replayed,
  takenBack,
  voidedBy,
  type Correction,
  type Ledger,
  type Replayed,
} from './ledger.ts';
export type { Choice, LineGrammar, LineWords, SaidVerb, Word } from './line-grammar.ts';
export { looksOf, type Look } from './looks.ts';
export { LARGEST_BATCH, open, opened, type OpenBody } from './open.ts';
export { lineOf, withLines, type LinesOfPieces } from './lines.ts';
export type {
  AgeTurn,
  Allotted,
  Coat,
  Acceptance,
  Confirm,
  KitPart,
  KitTurn,
  CureFact,
  Freed,
  MarkSet,
  MeasureSet,
  PanelEnd,
  ReadingSet,
  Rest,
  Sanding,
  Sheet,
  Shipment,
} from './records.ts';
export { count, isRefusal, refuse, type Refusal, type RefusalCode } from './refusal.ts';
export { anywhere, choose, whereabouts, type Chosen } from './select.ts';
export {
  arrived,
  changed,
  effectOf,
  newPiece,
  noted,
  laidDown,
  overriding,
  passed,
  tooEarly,
  type Applied,
  type Effect,
  type Outcome,
} from './step.ts';
export { madeOf } from './made-of.ts';
export { cameMs, goesOn, withResumed } from './stretch.ts';
export { operationsInUse, tallyAt, type Tally } from './tally.ts';
