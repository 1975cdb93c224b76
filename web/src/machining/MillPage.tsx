import {
  closestCorners,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { Navigate, useParams } from 'react-router';
import { useState } from 'react';
import { sayTime } from '../shared/time.ts';
import { Caution } from '../devices/Caution.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { TagsHere } from '../orders/TagsHere.tsx';
import { Columns, EmptyState, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { moved, shownPlan, type HandLoad } from './hand.ts';
import { MachinePanel } from './MachinePanel.tsx';
import { announcementsOf, INSTRUCTIONS, nextPlace, slotOf } from './by-keyboard.ts';
import { MillNav } from './MillNav.tsx';
import { CutterLife } from './CutterLife.tsx';
import { useMill, useMills, type Mill } from './queries.ts';
import { TableColumn } from './TableColumn.tsx';
import {
  Box,
  Button,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';

/** The first mill: machining opens with it. */
export function FirstMill() {
  const { data: mills, error } = useMills();
  const first = mills?.[0];
  if (first) return <Navigate to={`/mill/${first.code}`} replace />;
  return mills ? <EmptyState>No station has tables yet.</EmptyState> : <Opening error={error} />;
}

export default function MillPage() {
  const { station = '' } = useParams();
  const { data: mill, error } = useMill(station);
  if (!mill) return <Opening error={error} />;
  return <MillDay key={station} mill={mill} />;
}

/** A mill's day: what is on its tables, and the loads to come, as proposed or as somebody moved them. */
function MillDay({ mill }: { mill: Mill }) {
  const [hand, setHand] = useState<HandLoad[] | null>(null);
  const { plan, byHand } = shownPlan(mill.question, mill.plan, hand);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: nextPlace, scrollBehavior: 'auto' }),
  );
  const move = (index: number, to: { table: string; place: number }): void =>
    setHand(moved(plan.loads, index, to));
  const dropped = ({ active, over }: DragEndEvent): void => {
    if (!over) return;
    move(Number(active.id), slotOf(over.id));
  };
  return (
    <Page title={mill.stationName} tabs={<MillNav />}>
      <Columns>
        <Stack>
          <PlanVerdict mill={mill} plan={plan} byHand={byHand} />
          <Caution words={cautionOf(mill)} />
          {byHand && (
            <Row>
              <Quiet>Moved by hand.</Quiet>
              <Button onClick={() => setHand(null)}>Back to the proposed plan</Button>
            </Row>
          )}
          <DndContext
            sensors={sensors}
            collisionDetection={closestCorners}
            accessibility={{
              announcements: announcementsOf(plan, mill.tables),
              screenReaderInstructions: INSTRUCTIONS,
            }}
            onDragEnd={dropped}
          >
            <Box className="tables">
              {mill.tables.map((table) => (
                <TableColumn key={table.code} table={table} mill={mill} plan={plan} onMove={move} />
              ))}
            </Box>
          </DndContext>
        </Stack>
        <Stack>
          <MachinePanel mill={mill} plan={plan} />
          <CutterLife mill={mill} plan={plan} />
          <WaitingList mill={mill} />
        </Stack>
      </Columns>
    </Page>
  );
}

/** Of what is cut, or else of what waits. */
const cautionOf = ({ tables, waiting }: Mill): string | null =>
  tables.find(({ load }) => load?.caution)?.load?.caution ??
  waiting.find((row) => row.caution)?.caution ??
  null;

/** What the plan is worth, in one sentence, against filling tables as racks came. */
function PlanVerdict({ mill, plan, byHand }: { mill: Mill; plan: Mill['plan']; byHand: boolean }) {
  if (plan.loads.length === 0)
    return <Verdict tone="hold" sentence="Nothing waits for the mill that a program is written for." />;
  const { firstCome, zone, nowMs } = mill;
  const late = plan.latePieceHours;
  const saved = firstCome.setUps - plan.setUps;
  const earlier = firstCome.latePieceHours - late;
  const worth = [
    saved === 0
      ? ''
      : `${Math.abs(saved)} set-up${Math.abs(saved) === 1 ? '' : 's'} ${saved > 0 ? 'fewer' : 'more'}`,
    Math.abs(earlier) < 1
      ? ''
      : `${Math.abs(earlier).toFixed(0)} piece-hours ${earlier > 0 ? 'less' : 'more'} late`,
  ].filter(Boolean);
  const against =
    worth.length > 0
      ? `${worth.join(' and ')} than first come, first served`
      : 'as first come, first served would be';
  const done = plan.endMs === null ? '' : `all off by ${sayTime(plan.endMs, zone, nowMs)}`;
  return (
    <Verdict
      tone={late > 0 ? 'wait' : 'good'}
      sentence={`${plan.loads.length} load${plan.loads.length === 1 ? '' : 's'}, ${plan.setUps} set-up${plan.setUps === 1 ? '' : 's'}, ${done}${late > 0 ? `, ${late.toFixed(0)} piece-hours late` : ', nothing late'}.`}
    >
      <Typography color="textSecondary">
        {byHand ? `By hand: ${against}.` : `Proposed: ${against}.`}
      </Typography>
    </Verdict>
  );
}

function WaitingList({ mill }: { mill: Mill }) {
  const { waiting, zone, nowMs } = mill;
  return (
    <Panel label="Waiting for the mill">
      <Typography variant="h2">Waiting</Typography>
      {waiting.length === 0 && <Typography color="textSecondary">No rack waits here.</Typography>}
      {waiting.length > 0 && (
        <Table>
          <TableHead>
            <TableRow>
              <TableCell scope="col">batch</TableCell>
              <TableCell scope="col" align="right">
                pieces
              </TableCell>
              <TableCell scope="col">needed by</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {waiting.map((row) => (
              <TableRow key={row.batch + row.operation}>
                <TableCell>
                  <strong>{row.batch}</strong> {row.model}
                  <Quiet block>{row.program ?? 'no program written yet'}</Quiet>
                  <TagsHere stage="machining" batch={row.batch} operation={row.operation} />
                </TableCell>
                <TableCell align="right">{row.pieces.length}</TableCell>
                <TableCell style={{ color: row.neededMs < nowMs ? 'var(--oxblood)' : undefined }}>
                  {sayTime(row.neededMs, zone, nowMs)}
                  {row.neededMs < nowMs && <Box>already past</Box>}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Panel>
  );
}
