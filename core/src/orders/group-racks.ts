import type { Choices, Option } from '../options/index.ts';
import type { Wanted } from './demand.ts';

/** How racks are made out of what is ordered. */
export interface Grouping {
  /** Pieces of one rack at most, by kind; a kind that is not there: `usual`. */
  largest: Readonly<Record<string, number>>;
  usual: number;
  /** Orders of one rack are due within so many days of each other. */
  withinDays: number;
}

/** A rack that makes sense to run together. */
export interface PlannedRack {
  model: string;
  /** Kinds that are opened with it, each as many: bodies and their necks. */
  kinds: string[];
  quantity: number;
  /** The earliest of its orders. */
  dueMs: number;
  /** What its pieces have alike: the options that share a rack. */
  family: Choices;
  /** In order of place. */
  lines: { line: string; count: number; dueMs: number }[];
}

const DAY_MS = 86_400_000;

/**
 * Racks for what is wanted: alike in model, in the kinds that are wanted, and in every option that must be shared (program,
 * colour, cure); due within so many days; filled in order of due day, a line being parted only where a rack is full. Every
 * piece wanted stands in one rack, none in two.
 * @param options of each model
 */
export function groupIntoRacks(
  wanted: readonly Wanted[],
  options: ReadonlyMap<string, readonly Option[]>,
  { largest, usual, withinDays }: Grouping,
): PlannedRack[] {
  const families = new Map<
    string,
    { head: Omit<PlannedRack, 'lines' | 'quantity' | 'dueMs'>; lines: Line[] }
  >();
  for (const one of together(wanted)) {
    const shared = (options.get(one.model) ?? []).filter(({ sharesRack }) => sharesRack);
    const family = Object.fromEntries(shared.map(({ key }) => [key, one.choices[key] ?? '']));
    const id = JSON.stringify([one.model, one.kinds, family]);
    const found = families.get(id) ?? { head: { model: one.model, kinds: one.kinds, family }, lines: [] };
    found.lines.push(one);
    families.set(id, found);
  }
  const racks = [...families.values()].flatMap(({ head, lines }) => {
    const most = Math.min(...head.kinds.map((kind) => largest[kind] ?? usual));
    return filled(lines, most, withinDays * DAY_MS).map((rack) => ({ ...head, ...rack }));
  });
  return racks.toSorted((a, b) => a.dueMs - b.dueMs || a.model.localeCompare(b.model));
}

interface Line extends Pick<Wanted, 'line' | 'model' | 'count' | 'dueMs' | 'choices'> {
  kinds: string[];
}

/** Kinds that a line wants alike many of are opened together: a body and its neck. */
function together(wanted: readonly Wanted[]): Line[] {
  const lines = new Map<string, Line>();
  for (const { line, model, kind, count, dueMs, choices } of wanted) {
    const id = `${line}|${count}`;
    const found = lines.get(id);
    if (found) found.kinds.push(kind);
    else lines.set(id, { line, model, count, dueMs, choices, kinds: [kind] });
  }
  return [...lines.values()].map((one) => ({ ...one, kinds: one.kinds.toSorted() }));
}

function filled(
  lines: readonly Line[],
  most: number,
  withinMs: number,
): Pick<PlannedRack, 'lines' | 'quantity' | 'dueMs'>[] {
  const racks: Pick<PlannedRack, 'lines' | 'quantity' | 'dueMs'>[] = [];
  const inOrder = lines.toSorted(
    (a, b) => a.dueMs - b.dueMs || a.line.localeCompare(b.line, 'en', { numeric: true }),
  );
  for (const { line, count, dueMs } of inOrder) {
    for (let left = count; left > 0;) {
      let rack = racks.at(-1);
      if (!rack || rack.quantity >= most || dueMs - rack.dueMs > withinMs) {
        rack = { lines: [], quantity: 0, dueMs };
        racks.push(rack);
      }
      const taken = Math.min(left, most - rack.quantity);
      rack.lines.push({ line, count: taken, dueMs });
      rack.quantity += taken;
      left -= taken;
    }
  }
  return racks;
}
