import type {
  AskedEntry,
  BatchState,
  BodyOf,
  Effect,
  EntryBody,
  Refusal,
  Route,
  Stay,
} from '@ample-crane/core';

/** A new batch to open. */
export interface OpenAction {
  type: 'open';
  kind: string;
  model: string;
  quantity: number;
  dueMs: number;
  /** Ways chosen where the route forks; the usual ones when left out. */
  ways?: Record<string, string>;
  /** Name of the finish recipe; the model's usual one when left out. */
  recipe?: string;
}

/** What is filed on a batch: as it is asked for, or a start as the mill knows it, with its load. */
export type FilingAction = AskedEntry | BodyOf<'start'> | OpenAction;
export type UndoAction = Extract<AskedEntry, { type: 'undo' }>;

/** What a client asks to be filed, in one piece: all of it or nothing. */
export interface FilingRequest {
  key: string;
  by: string;
  /** Null to open a batch, or to take back the last thing this person filed. */
  batch: string | null;
  /** Now, when left out. */
  atMs?: number;
  actions: FilingAction[];
}

export interface Filed {
  sentence: string;
  entries: { batch: string; seq: number }[];
  filedMs: number;
  repeated: boolean;
}

export type FilingOutcome = Filed | Refusal;

/** Something besides batches that has entries in the log (lots of lumber). It registers itself and files its own. */
export interface OtherSubject {
  owns(code: string): boolean;
  /** Open codes, and of those named also the closed ones. */
  codes(named: readonly string[]): Promise<string[]>;
  file(request: FilingRequest & { batch: string }): Promise<FilingOutcome>;
}

/** A batch as it is being filed on: locked, and changed step by step until it is written. */
export interface Work {
  code: string;
  kind: string;
  model: string;
  route: Route;
  seq: number;
  state: BatchState | null;
  isNew: boolean;
  /** As it was locked. */
  before: BatchState | null;
  steps: { seq: number; body: EntryBody; effect: Effect }[];
  /** That these steps ended. */
  stays: Stay[];
  /** A correction was filed: `stays` are all there are; these are those that were before it. Null: none was filed. */
  staysBefore: Stay[] | null;
}

export const isUndo = (body: EntryBody): body is BodyOf<'undo'> => body.type === 'undo';
