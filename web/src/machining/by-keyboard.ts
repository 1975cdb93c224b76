import type {
  Announcements,
  KeyboardCoordinateGetter,
  ScreenReaderInstructions,
  UniqueIdentifier,
} from '@dnd-kit/core';
import type { LoadPlan } from '@ample-crane/core';
import type { TableView } from './queries.ts';

/** A place in the order of a table: '1@0' is the first of table 1. */
export const slotId = (table: string, place: number): string => `${table}@${place}`;
export function slotOf(id: UniqueIdentifier): { table: string; place: number } {
  const [table = '', place = '0'] = String(id).split('@');
  return { table, place: Number(place) };
}

/** By arrow keys a load goes from place to place: up and down in its table, left and right to the table beside it. */
export const nextPlace: KeyboardCoordinateGetter = (event, { context: { droppableRects, over } }) => {
  // As they stand on the page, whichever came first.
  const slots = [...droppableRects]
    .map(([id, rect]) => ({ ...slotOf(id), rect }))
    .toSorted((a, b) => a.rect.left - b.rect.left || a.place - b.place);
  const tables = [...new Set(slots.map(({ table }) => table))];
  const here = slotOf(over?.id ?? slotId(tables[0] ?? '', 0));
  const beside = (by: number): string => tables[tables.indexOf(here.table) + by] ?? here.table;
  const wanted: Record<string, { table: string; place: number }> = {
    ArrowDown: { table: here.table, place: here.place + 1 },
    ArrowUp: { table: here.table, place: here.place - 1 },
    ArrowRight: { table: beside(1), place: here.place },
    ArrowLeft: { table: beside(-1), place: here.place },
  };
  const to = wanted[event.code];
  if (!to) return undefined;
  event.preventDefault();
  const own = slots.filter(({ table }) => table === to.table);
  const slot = own.findLast(({ place }) => place <= Math.max(0, to.place));
  return slot && { x: slot.rect.left, y: slot.rect.top };
};

/** What is said to who does not see it. */
export const INSTRUCTIONS: ScreenReaderInstructions = {
  draggable:
    'Space takes the load up; arrows carry it, up and down in the order of its table, left and right to the other table; Space puts it down, Escape leaves it where it was.',
};

export function announcementsOf(plan: LoadPlan, tables: readonly TableView[]): Announcements {
  const load = (id: UniqueIdentifier): string =>
    `The load of ${plan.loads[Number(id)]?.parts.map(({ batch }) => batch).join(', ') ?? ''}`;
  const at = (id: UniqueIdentifier): string => {
    const { table, place } = slotOf(id);
    return `place ${place + 1} of ${tables.find(({ code }) => code === table)?.name ?? table}`;
  };
  return {
    onDragStart: ({ active }) => `${load(active.id)} is taken up.`,
    onDragOver: ({ active, over }) =>
      over ? `${load(active.id)} is over ${at(over.id)}.` : `${load(active.id)} is over no place.`,
    onDragEnd: ({ active, over }) =>
      over ? `${load(active.id)} goes to ${at(over.id)}.` : `${load(active.id)} stays where it was.`,
    onDragCancel: ({ active }) => `${load(active.id)} stays where it was.`,
  };
}
