/** What a call can be about. */
export const CALL_KINDS = [
  'hold-over',
  'gate-failed',
  'late',
  'dry-station',
  'constraint',
  'room-drift',
  'sensor',
  'meeting',
  'dimension',
  'cutter',
  'machine',
  'booth',
  'material',
  'panel',
  'outside-limits',
  'missing',
  'second-look',
  'kit',
  'backup',
] as const;

export type CallKind = (typeof CALL_KINDS)[number];

/** One or two things that can be done about a call: file a line, or go and look. */
export interface CallAction {
  label: string;
  /** A log line to file. */
  line?: string;
  /** The lines of all it speaks for are filed, or of those that are chosen. */
  each?: boolean;
  /** A page to open. */
  href?: string;
}

/** One of those a call speaks for. */
export interface CallItem {
  /** What it is about, by its code or name. */
  subject: string;
  /** What it would say alone. */
  title: string;
  detail: string;
  /** Its part of the cost. */
  cost: number;
  /** The log line that decides it alone. */
  line?: string;
  href: string;
}

/** A decision that wants the manager. Gone when its cause is gone, for it is computed anew each time. */
export interface Call {
  id: string;
  kind: CallKind;
  /** What it is about, by its code or name: a batch, a room, a tool. */
  subject: string;
  title: string;
  /** The numbers that make it true. */
  detail: string;
  /** Instrument-days lost for each day it is left: what calls are sorted by. */
  cost: number;
  actions: CallAction[];
  /** Where the numbers come from. */
  evidence: string;
  /** All it speaks for, most costly first; none: it speaks for its subject alone. */
  items: CallItem[];
}

/** What one rack, tool or material calls for, before it is told together with others of the same cause. */
export interface SingleCall extends Omit<Call, 'items'> {
  /** Calls of one kind and one cause are one decision: where it lies, or what is the matter. Null: it stands alone. */
  cause: string | null;
  /** Pieces it is about; 0 where it is not about pieces. */
  pieces: number;
}
