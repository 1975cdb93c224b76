import type { LoadPlan, PlannedLoad } from '@ample-crane/core';
import { useDraggable, useDroppable } from '@dnd-kit/core';
import { Box, Button, Typography } from '@mui/material';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Bed } from '../devices/Bed.tsx';
import { TagsHere } from '../orders/TagsHere.tsx';
import { Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { placeOf } from './hand.ts';
import { slotId } from './by-keyboard.ts';
import { LoadInHand } from './LoadInHand.tsx';
import type { Mill, TableView } from './queries.ts';
import './TableColumn.css';

type Move = (index: number, to: { table: string; place: number }) => void;

/** One table: the load on it now, and under it those to come, in order. */
export function TableColumn({
  table,
  mill,
  plan,
  onMove,
}: {
  table: TableView;
  mill: Mill;
  plan: LoadPlan;
  onMove: Move;
}) {
  const own = plan.loads.flatMap((load, index) => (load.table === table.code ? [{ load, index }] : []));
  return (
    <Panel className="tablecolumn" label={table.name}>
      <Typography variant="h2">
        {table.name}{' '}
        <Quiet small>
          {table.places} places · {table.program === null ? 'not set up' : `set up for ${table.program}`}
        </Quiet>
      </Typography>
      {table.load ? (
        <LoadInHand load={table.load} table={table} mill={mill} />
      ) : (
        <>
          <Bed name={table.name} places={table.places} parts={[]} />
          <Typography color="textSecondary">Free now.</Typography>
        </>
      )}
      <Typography variant="h3" style={{ marginTop: 12 }}>
        To come
      </Typography>
      {own.map(({ load, index }, place) => (
        <Slot key={index} id={slotId(table.code, place)}>
          <PlannedCard load={load} index={index} table={table} mill={mill} plan={plan} onMove={onMove} />
        </Slot>
      ))}
      <Slot id={slotId(table.code, own.length)}>
        <Typography color="textSecondary" className="dropline">
          {own.length === 0 ? 'No load planned. Drop one here.' : 'Drop here to put it last.'}
        </Typography>
      </Slot>
    </Panel>
  );
}

function Slot({ id, children }: { id: string; children: React.ReactNode }) {
  const { setNodeRef, isOver } = useDroppable({ id });
  return (
    <Box ref={setNodeRef} className={isOver ? 'slot over' : 'slot'}>
      {children}
    </Box>
  );
}

/** A load that is planned: drag it, or move it by its buttons; the first of a free table starts with one touch. */
function PlannedCard({
  load,
  index,
  table,
  mill,
  plan,
  onMove,
}: {
  load: PlannedLoad;
  index: number;
  table: TableView;
  mill: Mill;
  plan: LoadPlan;
  onMove: Move;
}) {
  const { perform, busy, refused } = usePerform();
  const { setNodeRef, attributes, listeners, transform, isDragging } = useDraggable({ id: String(index) });
  const place = placeOf(plan.loads, index);
  const other = mill.tables.find(({ code }) => code !== table.code);
  const startable = place === 0 && !table.load;
  const names = load.parts.map((part) => `${part.pieces} of ${part.batch}`).join(', ');
  const start = (): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/loads', {
            body: {
              key,
              by,
              table: table.code,
              parts: load.parts.map(({ batch, pieces }) => ({ batch, count: pieces })),
            },
          }),
        ),
      filedWords,
    );
  return (
    <Box
      component="article"
      ref={setNodeRef}
      className={isDragging ? 'planned dragging' : 'planned'}
      aria-label={`Load of ${names}`}
      style={transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
    >
      <Box
        className="grip"
        {...attributes}
        {...listeners}
        aria-label={`Carry to another place: ${names}`}
        title="Drag to another place"
      >
        <span className="condensed">
          {sayTime(load.startMs, mill.zone, mill.nowMs)} – {sayTime(load.endMs, mill.zone, mill.nowMs)}
        </span>
        <Quiet>{load.program}</Quiet>
      </Box>
      <Bed name={`Planned on ${table.name}`} places={table.places} parts={load.parts} />
      {[...new Set(load.parts.map(({ batch }) => batch))].map((batch) => (
        <TagsHere key={batch} stage="machining" batch={batch} />
      ))}
      {load.says.length > 0 && (
        <Box component="ul" className="says">
          {load.says.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </Box>
      )}
      <Row>
        {startable && (
          <Button variant="contained" disabled={busy} onClick={() => void start()}>
            {load.setUp ? 'Start its first piece' : 'Start this load'}
          </Button>
        )}
        {place > 0 && (
          <Button
            aria-label={`Sooner: ${names}`}
            onClick={() => onMove(index, { table: table.code, place: place - 1 })}
          >
            Sooner
          </Button>
        )}
        {other && (
          <Button
            aria-label={`To ${other.name}: ${names}`}
            onClick={() => onMove(index, { table: other.code, place: 0 })}
          >
            To {other.name}
          </Button>
        )}
      </Row>
      <Refused words={refused} />
    </Box>
  );
}
