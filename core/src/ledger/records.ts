import type { Spec } from '../options/index.ts';
import type { CureRule } from '../route/index.ts';
import type { CoatSpec } from '../finishing/recipe.ts';

export interface ReadingSet {
  atMs: number;
  operation: string;
  /** Places on the rack, one for each value; empty when the readings were not told apart. */
  positions: number[];
  /** As the meter showed them. */
  valuesPct: number[];
  woodTemperatureC: number | null;
  /** Absent: nobody said which. */
  meter?: string;
  /** How deep the pins went; absent: as usual at this factory. */
  depth?: 'shell' | 'core';
  /** Corrected for temperature and by the meter's line as they stood when it was filed; absent: taken as shown. */
  correctedPct?: number[];
  /** Below these, one for each value, the room could not have brought it since the last look; null or absent: nobody knew. */
  floorsPct?: (number | null)[];
  /** Why it is to be believed as it stands. */
  because?: string;
}

export interface Coat {
  atMs: number;
  operation: string;
  positions: number[];
  /** Mean of the readings taken; null: none. */
  wetUm: number | null;
  /** One reading for each place, where every piece was read. */
  wetUms?: number[];
  /** Step of the recipe, and how the material was to be laid and cures; absent: no recipe was given. */
  step?: string;
  spec?: CoatSpec;
  /** Why it was laid, when the recipe did not ask for it. */
  extra?: string;
  /** Booth it was laid in, and whose air that is. */
  booth?: string;
  room?: string;
  /** Lot of the material, or the mix it came out of. */
  lot?: string;
}

/** A sanding, or a scuff before the next coat. */
export interface Sanding {
  atMs: number;
  operation: string;
  positions: number[];
  removalUm: number;
  removalSdUm: number;
  grits: number[];
  /** Film was read before and after; otherwise it is what the recipe expects. */
  measured: boolean;
}

/** A nail or hardness mark tried on a piece. */
export interface MarkSet {
  atMs: number;
  operation: string;
  positions: number[];
  passed: boolean;
}

/** Pieces put into the cold, or taken out of it. */
export interface AgeTurn {
  atMs: number;
  operation: string;
  positions: number[];
  to: 'cold' | 'warm';
}

/** A hold that coated pieces came onto: they stand in its room until their next coat or hold. */
export interface Rest {
  fromMs: number;
  operation: string;
  room: string;
  positions: number[];
}

/** Pieces freed from a cure or ageing, and the evidence. */
export interface Freed {
  atMs: number;
  by: string;
  operation: string;
  positions: number[];
  on: 'clock' | 'panel' | 'mark' | 'sight' | 'reason';
  words: string;
  /** What they were freed for; absent: from ageing, or nobody noted it. */
  until?: CureRule['until'];
}

/** A test panel sprayed with the batch that can tell when it is cured. */
export interface PanelEnd {
  code: string;
  curedMs: number;
}

/** What the server knew of a cure when it filed: the batch's own log cannot tell. */
export interface CureFact {
  sinceMs: number;
  /** Places it is about; absent: all that are on hold since then. */
  positions?: number[];
  referenceHours: number;
  /** Reference hours needed, with the film as it is; absent: the rule's. */
  neededHours?: number;
  /** A test panel that somebody goes by is cured; in words, with its code. */
  panel?: string;
  /** The panel sprayed with them that is cured last. */
  lastPanel?: PanelEnd;
}

export interface MeasureSet {
  atMs: number;
  operation: string;
  /** Places, one for each value; absent or empty: not told apart. */
  positions?: number[];
  /** Action at fret 12. */
  valuesMm: number[];
}

/** A bench sheet: what was read and looked at of one instrument in one go. */
export interface Sheet {
  atMs: number;
  by: string;
  operation: string;
  position: number;
  /** By the key of the check, in its unit; yes is 1, no is 0. */
  values: Record<string, number>;
  /** What was turned, or seen. */
  note?: string;
}

/** Instruments that left together. */
export interface Shipment {
  atMs: number;
  by: string;
  positions: number[];
  to?: string;
  order?: string;
  /** Number the carrier gave it. */
  carrier?: string;
  /** What went with them. */
  contents?: string;
}

/** So many of a part, and what they are for. */
export interface KitPart {
  /** 'tuners'. */
  slot: string;
  /** Code of the part: what the bill names, or what stands in for it. */
  part: string;
  /** For one instrument. */
  quantity: number;
}

/** What a department took over from the one before it. */
export interface Acceptance {
  atMs: number;
  by: string;
  operation: string;
  positions: number[];
}

/** Parts laid into the bins of some instruments, or put back out of them: then their quantities are negative. */
export interface KitTurn {
  atMs: number;
  by: string;
  positions: number[];
  bin: string | null;
  parts: KitPart[];
  /** What each of the bins still wants. */
  missing: KitPart[];
  /** What the options its bill asks about were, when it was picked. */
  choices: Record<string, string>;
}

/** What the pieces of one line of an order are to be. */
export interface Allotted {
  /** 'O-12/1'. */
  line: string;
  spec: Spec;
}

/** What somebody was about to build in, held against the tag of each piece. */
export interface Confirm {
  atMs: number;
  by: string;
  operation: string;
  option: string;
  value: string;
  /** Places whose tag says so. */
  right: number[];
  /** Places whose tag says otherwise: it was caught here. */
  wrong: number[];
}
