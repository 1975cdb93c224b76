import type { Choices } from '../options/index.ts';
import { DAY_MS } from '../units/quantities.ts';
import { billed, type Bill } from './bill.ts';

/** Kits that a rack, or a line nothing of which is begun, will want. */
export interface WantedKits {
  /** 'I-12', or the line of an order. */
  rack: string;
  model: string;
  /** So many alike. */
  pieces: number;
  choices: Choices;
  /** When they must be picked. */
  wantMs: number;
  /** What lies in their bins already, by what it is for. */
  picked?: readonly { slot: string; quantity: number }[];
}

/** What is there of a part and what comes. */
export interface PartStock {
  part: string;
  onHand: number;
  coming: readonly { quantity: number; expectedMs: number }[];
  leadDays: number;
}

/** A rack that waits for a part. */
export interface ShortRack {
  rack: string;
  slot: string;
  /** So many are missing when it wants them. */
  short: number;
  /** Instruments that cannot be assembled without. */
  pieces: number;
  wantMs: number;
  /** When what is on order covers it; null: nothing that is ordered does. */
  comesMs: number | null;
}

/** A part of which too little is there when it is wanted. */
export interface PartShortage {
  part: string;
  racks: ShortRack[];
  /** Missing of all of them when each wants them. */
  short: number;
  /** Of these nothing is ordered. */
  toOrder: number;
  /** The first rack that wants what is not ordered: by then it must be here. Null: all of it is on its way. */
  hereByMs: number | null;
  /** And this is when it must be ordered, by its lead time. */
  orderByMs: number | null;
}

/** What stands in for a part that would be missing. */
export interface StandIn {
  rack: string;
  slot: string;
  part: string;
  instead: string;
  quantity: number;
}

export interface KitShortages {
  /** What must be ordered first first; then what only comes late. */
  parts: PartShortage[];
  standIns: StandIn[];
}

/** A part as the days go by: deliveries serve who waits longest first. */
class Shelf {
  private free: number;
  private next = 0;
  private readonly waiting: { row: ShortRack; open: number }[] = [];
  readonly racks: ShortRack[] = [];
  private readonly coming: PartStock['coming'];

  constructor(readonly stock: PartStock) {
    this.free = stock.onHand;
    this.coming = stock.coming.toSorted((a, b) => a.expectedMs - b.expectedMs);
  }

  /** Takes so many, or as many as are there by then. */
  take(wanted: number, atMs: number): number {
    this.receive(atMs);
    const taken = Math.max(0, Math.min(this.free, wanted));
    this.free -= taken;
    return taken;
  }

  wait(row: ShortRack): void {
    this.racks.push(row);
    this.waiting.push({ row, open: row.short });
  }

  /** What comes later serves who waits. @returns what nothing serves */
  end(): number {
    this.receive(Infinity);
    return this.waiting.reduce((sum, { open }) => sum + open, 0);
  }

  private receive(untilMs: number): void {
    for (let one = this.coming[this.next]; one && one.expectedMs <= untilMs; one = this.coming[this.next]) {
      this.next += 1;
      this.free += one.quantity;
      while (this.free > 0 && this.waiting[0]) {
        const first = this.waiting[0];
        const served = Math.min(this.free, first.open);
        this.free -= served;
        first.open -= served;
        if (first.open > 0) break;
        first.row.comesMs = one.expectedMs;
        this.waiting.shift();
      }
    }
  }
}

/**
 * Which parts will be missing, of which racks, and by when they must be ordered: kits are filled in the order in which they are
 * wanted, from what is there and what has come by then; where that is not enough, from what may stand in for it; what is missing
 * then waits, and is served first by what comes later.
 * @param plan kits that are still to be picked; in any order
 * @param stock by part; a part that is not there has nothing on hand and takes no time to come
 * @param bills of each model; a model without one wants nothing
 */
export function kitShortages(
  plan: readonly WantedKits[],
  stock: readonly PartStock[],
  bills: ReadonlyMap<string, Bill>,
): KitShortages {
  const shelves = new Map(stock.map((one) => [one.part, new Shelf(one)]));
  const shelfOf = (part: string): Shelf => {
    const known = shelves.get(part) ?? new Shelf({ part, onHand: 0, coming: [], leadDays: 0 });
    shelves.set(part, known);
    return known;
  };
  const standIns: StandIn[] = [];
  const inOrder = plan.toSorted((a, b) => a.wantMs - b.wantMs || (a.rack < b.rack ? -1 : 1));
  for (const { rack, model, pieces, choices, wantMs, picked = [] } of inOrder) {
    const bill = bills.get(model);
    if (!bill) continue;
    for (const { slot, part, quantity, instead } of billed(bill, choices)) {
      const there = picked.length === 0 ? 0 : inBins(picked, slot);
      let short = Math.max(0, quantity * pieces - there);
      short -= shelfOf(part).take(short, wantMs);
      for (const other of instead) {
        if (short === 0) break;
        const taken = shelfOf(other).take(short, wantMs);
        if (taken > 0) standIns.push({ rack, slot, part, instead: other, quantity: taken });
        short -= taken;
      }
      if (short > 0)
        shelfOf(part).wait({ rack, slot, short, pieces: Math.ceil(short / quantity), wantMs, comesMs: null });
    }
  }
  const parts = [...shelves.values()].flatMap((shelf) => (shelf.racks.length > 0 ? [shortage(shelf)] : []));
  return {
    parts: parts.toSorted(
      (a, b) =>
        (a.orderByMs ?? Infinity) - (b.orderByMs ?? Infinity) ||
        firstWanted(a) - firstWanted(b) ||
        b.short - a.short,
    ),
    standIns,
  };
}

const inBins = (picked: NonNullable<WantedKits['picked']>, slot: string): number =>
  picked.reduce((sum, one) => sum + (one.slot === slot ? one.quantity : 0), 0);

const firstWanted = ({ racks }: PartShortage): number => racks[0]?.wantMs ?? Infinity;

function shortage(shelf: Shelf): PartShortage {
  const toOrder = shelf.end();
  const { racks, stock } = shelf;
  const hereByMs = toOrder > 0 ? (racks.find(({ comesMs }) => comesMs === null)?.wantMs ?? null) : null;
  return {
    ...{ part: stock.part, racks, toOrder, hereByMs },
    short: racks.reduce((sum, { short }) => sum + short, 0),
    orderByMs: hereByMs === null ? null : hereByMs - stock.leadDays * DAY_MS,
  };
}
