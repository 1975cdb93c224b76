/** A moisture reading of one piece or board, with what is known of it. */
export interface TakenReading {
  atMs: number;
  /** Place on the rack or number of the board; null: it names none. */
  piece: number | null;
  /** Null: nobody said. */
  depth: 'shell' | 'core' | null;
  /** As the meter showed it, and corrected, % of oven-dry mass. */
  shownPct: number;
  pct: number;
  /** Below this the room could not have brought it since the last look; null: nobody knew when it was filed. */
  floorPct: number | null;
  /** Somebody said why it is to be believed. */
  explained: boolean;
}

/** A reading that stays in the record and counts for nothing until it is confirmed. */
export interface SetAside extends TakenReading {
  why: 'range' | 'fall';
}

/** A pin meter resolves 5 % up to fibre saturation, about 30 %. DOMAIN §3. */
export const METER_RESOLVES = { lowPct: 5, highPct: 30 };
