import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import {
  arrayMove,
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import ArrowDownwardIcon from '@mui/icons-material/ArrowDownward';
import ArrowUpwardIcon from '@mui/icons-material/ArrowUpward';
import DragIndicatorIcon from '@mui/icons-material/DragIndicator';
import { IconButton, Stack } from '@mui/material';
import { createContext, use, type CSSProperties, type ReactNode } from 'react';

/** A hand that trembles does not drag. */
const DRAGS_AFTER_PX = 6;

interface Order {
  keys: readonly string[];
  nameOf: (key: string) => string;
  move: (from: number, to: number) => void;
}

const OrderContext = createContext<Order>({ keys: [], nameOf: String, move: () => undefined });

/** What its children are sorted by: dragged, by keyboard, or by a step at a time. The children are each an `OrderedItem`. */
export function Ordered({
  keys,
  nameOf,
  onOrder,
  children,
}: {
  keys: readonly string[];
  /** How one is spoken of. */
  nameOf: (key: string) => string;
  onOrder: (keys: string[]) => void;
  children: ReactNode;
}) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAGS_AFTER_PX } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const move = (from: number, to: number): void => {
    if (from >= 0 && to >= 0 && to < keys.length) onOrder(arrayMove([...keys], from, to));
  };
  const place = (id: UniqueIdentifier): number => keys.indexOf(String(id));
  const dropped = ({ active, over }: DragEndEvent): void => {
    if (over && over.id !== active.id) move(place(active.id), place(over.id));
  };
  return (
    <OrderContext value={{ keys, nameOf, move }}>
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        onDragEnd={dropped}
        accessibility={{
          announcements: announcementsOf(keys, nameOf),
          screenReaderInstructions: {
            draggable:
              'Space takes it up; arrows up and down carry it; Space puts it down, Escape leaves it where it was.',
          },
        }}
      >
        <SortableContext items={[...keys]} strategy={verticalListSortingStrategy}>
          {children}
        </SortableContext>
      </DndContext>
    </OrderContext>
  );
}

/** One of them: what is to be moved takes `ref` and `style`, and shows the `controls` somewhere. */
export function OrderedItem({
  id,
  children,
}: {
  id: string;
  children: (item: {
    ref: (node: HTMLElement | null) => void;
    style: CSSProperties;
    controls: ReactNode;
  }) => ReactNode;
}) {
  const { keys, nameOf, move } = use(OrderContext);
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } =
    useSortable({ id });
  const place = keys.indexOf(id);
  const name = nameOf(id);
  const style: CSSProperties = {
    transform: transform ? `translate3d(0, ${transform.y}px, 0)` : undefined,
    transition,
    ...(isDragging && { position: 'relative', zIndex: 1, background: 'var(--paper)' }),
  };
  const controls = (
    <Stack direction="row" component="span" sx={{ alignItems: 'center' }}>
      <IconButton
        ref={setActivatorNodeRef}
        size="small"
        {...attributes}
        {...listeners}
        aria-label={`Carry ${name} to another place`}
        title="Drag to another place"
        sx={{ cursor: 'grab', touchAction: 'none' }}
      >
        <DragIndicatorIcon fontSize="small" />
      </IconButton>
      <IconButton
        size="small"
        aria-label={`${name} earlier`}
        // By keyboard it is carried: a long list has one stop for each.
        tabIndex={-1}
        disabled={place === 0}
        onClick={() => move(place, place - 1)}
      >
        <ArrowUpwardIcon fontSize="small" />
      </IconButton>
      <IconButton
        size="small"
        aria-label={`${name} later`}
        tabIndex={-1}
        disabled={place === keys.length - 1}
        onClick={() => move(place, place + 1)}
      >
        <ArrowDownwardIcon fontSize="small" />
      </IconButton>
    </Stack>
  );
  return children({ ref: setNodeRef, style, controls });
}

/** What is said to who does not see it. */
function announcementsOf(keys: readonly string[], nameOf: (key: string) => string): Announcements {
  const at = (id: UniqueIdentifier): string => `place ${keys.indexOf(String(id)) + 1} of ${keys.length}`;
  const name = (id: UniqueIdentifier): string => nameOf(String(id));
  return {
    onDragStart: ({ active }) => `${name(active.id)} is taken up, from ${at(active.id)}.`,
    onDragOver: ({ active, over }) =>
      over ? `${name(active.id)} is at ${at(over.id)}.` : `${name(active.id)} is over no place.`,
    onDragEnd: ({ active, over }) =>
      over ? `${name(active.id)} goes to ${at(over.id)}.` : `${name(active.id)} stays where it was.`,
    onDragCancel: ({ active }) => `${name(active.id)} stays where it was.`,
  };
}
