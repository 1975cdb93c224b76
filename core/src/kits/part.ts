/** Something that was ordered and is on its way. */
export interface Coming {
  /** 1-based within its part, as it was ordered. */
  number: number;
  /** Still to come. */
  quantity: number;
  orderedMs: number;
  expectedMs: number;
  /** The supplier's number for it. */
  reference: string | null;
}

/** So many came in, or were put right: negative where they went. */
export interface PartMove {
  atMs: number;
  quantity: number;
}

/** A part that kits are picked of, as its log has made it so far. What kits took stands with the instruments. */
export interface PartState {
  code: string;
  name: string;
  /** What one of it is: 'piece', 'set', 'pair'. */
  unit: string;
  supplier: string;
  /** From ordering until it is here, days on the wall. */
  leadDays: number;
  /** Of one, grams; null: nobody weighed it. */
  weightG: number | null;
  openedMs: number;
  /** The last count; before the first one nothing was there. */
  counted: { atMs: number; quantity: number };
  /** Since then, in order of filing. */
  moves: PartMove[];
  coming: Coming[];
  /** Purchases ever ordered. */
  ordered: number;
}

/** What came in and was put right since the last count, and that count: what is there before kits took of it. */
export const broughtIn = ({ counted, moves }: Pick<PartState, 'counted' | 'moves'>): number =>
  moves.reduce((sum, { quantity }) => sum + quantity, counted.quantity);

/** Of one purchase and of all: what is still to come. */
export const stillComing = ({ coming }: Pick<PartState, 'coming'>): number =>
  coming.reduce((sum, { quantity }) => sum + quantity, 0);
