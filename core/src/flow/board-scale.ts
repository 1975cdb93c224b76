import { DateTime } from 'luxon';
import type { BoardRow, DrawnHold, RackAt } from './board-rows.ts';

/** Days to come of which a board tells how many racks come free; today is the first. */
export const FREE_DAYS = 7;

/** A station of a works that has too many racks to draw each: counted, to be drawn to scale. */
export interface RowToScale {
  /** Racks in hand, each at a place of its own: what is due first, first. */
  places: { batch: string; dueMs: number }[];
  /** Racks that may leave now: the hold of some of their pieces is over. */
  over: string[];
  /** Racks that come off hold on each of FREE_DAYS factory days; one that is due and not over yet counts today. */
  free: number[];
  /** Racks that come free after these days. */
  later: number;
  /** Racks whose end nobody can say. */
  open: number;
}

/** The first moments of `count` factory days, today's first, and of the one behind them. Pure; `zone` is an IANA name. */
export function dayStarts(nowMs: number, zone: string, count: number): number[] {
  const today = DateTime.fromMillis(nowMs, { zone }).startOf('day');
  return Array.from({ length: count + 1 }, (_, i) => today.plus({ days: i }).toMillis());
}

/** One row of the board counted: every rack once, by the hold of it that ends first. `days` are FREE_DAYS + 1 starts of days. */
export function rowToScale(
  { inHand, holds }: Pick<BoardRow<DrawnHold>, 'inHand' | 'holds'>,
  days: readonly number[],
): RowToScale {
  const firsts = new Map<string, DrawnHold>();
  for (const { batch, hold } of holds) {
    const known = firsts.get(batch);
    if (!known || endOf(hold) < endOf(known)) firsts.set(batch, hold);
  }
  const waiting = [...firsts.values()].filter(({ over }) => !over);
  const ends = waiting.flatMap(({ endMs }) => endMs ?? []);
  const last = days.at(-1) ?? -Infinity;
  return {
    places: placesOf(inHand),
    over: [...firsts].flatMap(([batch, { over }]) => (over ? batch : [])),
    free: days.slice(0, -1).map((fromMs, i) => {
      const toMs = days[i + 1] ?? fromMs;
      return ends.filter((endMs) => (endMs >= fromMs || i === 0) && endMs < toMs).length;
    }),
    later: ends.filter((endMs) => endMs >= last).length,
    open: waiting.length - ends.length,
  };
}

const endOf = ({ over, endMs }: DrawnHold): number => (over ? -Infinity : (endMs ?? Infinity));

/** A rack that is in hand at two operations of one station is at one place. */
function placesOf(inHand: readonly RackAt[]): RowToScale['places'] {
  const due = new Map<string, number>();
  for (const { batch, dueMs } of inHand) if (!due.has(batch)) due.set(batch, dueMs);
  return [...due].map(([batch, dueMs]) => ({ batch, dueMs }));
}
