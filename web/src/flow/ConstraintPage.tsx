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
import { constraintWords } from '@ample-crane/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useConstraint, useFloor } from '../api/queries.ts';
import { LoadBar, PaceStrip, QueueLine } from '../devices/PaceStrip.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, EmptyState, Panel, Quiet, Reckoning, Row, Sideways } from '../parts/index.ts';
import { sayDate } from '../shared/time.ts';
import { FlowOf } from './FlowOf.tsx';
import type { Constraint, Resource } from './queries.ts';
import { paceSentence, peopleOrPlace, resourceHref, shareWords, weekWords, worthWords } from './words.ts';
import { useWindow, WindowChoice } from './WindowChoice.tsx';

/** So many rows speak; the rest are there when asked for. */
const FIRST_ROWS = 8;

/** Which station or skill paces the house, by three signs that err for different reasons, and what would come of helping it. */
export default function ConstraintPage() {
  return <FlowOf asked={useConstraint(useWindow())}>{(data) => <Signs data={data} />}</FlowOf>;
}

function Signs({ data }: { data: Constraint }) {
  const { verdict, zone, fromMs, nowMs, sinceMs, rows, weeks } = data;
  const since = sinceMs === null ? null : sayDate(sinceMs, zone);
  return (
    <Columns>
      <Stack>
        <Verdict {...paceSentence(data, since)}>
          <Typography>{peopleOrPlace(data)}</Typography>
          <Mark data={data} />
          <Typography color="textSecondary">
            {sayDate(fromMs, zone)} to {sayDate(nowMs, zone)}, {data.days.toFixed(0)} working days of the log.
          </Typography>
          <Reckoning
            put={[
              ['work offered over hours there', verdict.leaders.load ?? 'nobody leads'],
              ['busy longest without a pause', verdict.leaders.active ?? 'nobody leads'],
              ['work that waited', verdict.leaders.queue ?? 'nobody leads'],
              ['sure', shareWords(verdict.sureness)],
            ]}
            formula="Three signs, each with its own way of being wrong. 1: hours of work that came, by the times of the routes and what went round again counted again, over the hours there were. 2: at any moment the one that has been full longest without a pause paces; nights have no length, and a change of racks is no pause. 3: working days of work that waited, on average. Each sign’s share of its own sum, sharpened by how well it tells apart, is multiplied; less sure than half, or named by one sign alone, nobody is named."
            source="1 and 3: what is offered and what waits are the oldest signs of a bottleneck; 2: C. Roser, M. Nakano, M. Tanaka, Shifting bottleneck detection, Winter Simulation Conference 2002. Held against factories whose constraint is known in docs/benchmarks.md."
          />
        </Verdict>
        <Panel label="The three signs">
          <Row>
            <WindowChoice />
          </Row>
          <SignTable rows={rows} named={verdict.code === null ? null : `${verdict.by} ${verdict.code}`} />
        </Panel>
      </Stack>
      <Stack>
        <Panel label="What an hour is worth">
          <Typography variant="h2">What an hour is worth</Typography>
          <Typography>{worthWords(data)}</Typography>
          {data.idle.length > 0 && verdict.code !== null && (
            <Typography color="textSecondary" sx={{ marginTop: '8px' }}>
              An hour saved at {data.idle.slice(0, 6).join(', ')}
              {data.idle.length > 6 && ` or ${data.idle.length - 6} more`}: nothing. It would only wait
              longer.
            </Typography>
          )}
        </Panel>
        <Panel label="Week by week">
          <Typography variant="h2">Week by week</Typography>
          {weeks.length === 0 && <EmptyState>Not a week of the log yet.</EmptyState>}
          {weeks.toReversed().map((week) => (
            <Typography key={week.fromMs}>
              {sayDate(week.fromMs, zone)} <strong>{weekWords(week)}</strong>
            </Typography>
          ))}
        </Panel>
      </Stack>
    </Columns>
  );
}

/** The mark on the rope goes by the last 20 working days: where another window names another one, it is said. */
function Mark({ data: { verdict, rows } }: { data: Constraint }) {
  const { data: floor } = useFloor();
  const marked = floor?.constraint;
  const row = rows.find(({ code, by }) => by === 'station' && code === marked?.station);
  if (!row || !marked || verdict.code === null) return null;
  if (verdict.code === (marked.signs?.skill ?? marked.station)) return null;
  return (
    <Typography className="attention">
      The mark on the rope stands at {row.name}: {constraintWords(marked)}
    </Typography>
  );
}

function SignTable({ rows, named }: { rows: readonly Resource[]; named: string | null }) {
  const [all, setAll] = useState(false);
  const shown = all ? rows : rows.slice(0, FIRST_ROWS);
  const most = Math.max(1, ...rows.map(({ loadShare }) => loadShare));
  const mostQueue = Math.max(0, ...rows.flatMap(({ queue }) => queue));
  return (
    <>
      <Sideways>
        <Table size="small" aria-label="The three signs" sx={{ minWidth: 640 }}>
          <TableHead>
            <TableRow>
              <TableCell scope="col" />
              <TableCell scope="col" colSpan={2}>
                1 · work offered / hours there
              </TableCell>
              <TableCell scope="col" colSpan={2}>
                2 · full longest without a pause
              </TableCell>
              <TableCell scope="col" colSpan={2}>
                3 · what waited, in days
              </TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {shown.map((row) => (
              <SignRow
                key={`${row.by} ${row.code}`}
                {...{ row, most, mostQueue }}
                isNamed={named === `${row.by} ${row.code}`}
              />
            ))}
          </TableBody>
        </Table>
      </Sideways>
      {rows.length > FIRST_ROWS && (
        <Button size="small" onClick={() => setAll(!all)}>
          {all ? 'Only those that speak' : `All ${rows.length}`}
        </Button>
      )}
    </>
  );
}

function SignRow(props: { row: Resource; most: number; mostQueue: number; isNamed: boolean }) {
  const { row, most, mostQueue, isNamed } = props;
  const { name, by, capacity, loadShare, hoursOfferedADay, hoursADay, soleShare, shiftingShare, queue } = row;
  const { queueDays, full, paced, oldestDays } = row;
  const load = `${hoursOfferedADay.toFixed(1)} h a day offered, ${hoursADay.toFixed(1)} h there`;
  const pace = `paced ${shareWords(soleShare)} of the time alone, ${shareWords(shiftingShare)} by turns`;
  const waited = `${queueDays.toFixed(1)} working days of work waited on average`;
  return (
    <TableRow sx={isNamed ? { boxShadow: 'inset 5px 0 0 var(--oxblood)' } : undefined}>
      <TableCell sx={{ minWidth: 120, paddingLeft: '14px' }}>
        <Link to={resourceHref(row)}>{name}</Link>
        <Quiet block small>
          {by === 'station' ? `${capacity} ${capacity === 1 ? 'place' : 'places'}` : `${capacity} who can`}
        </Quiet>
      </TableCell>
      <TableCell sx={{ width: 110 }}>
        <LoadBar share={loadShare} most={most} tight={isNamed} words={load} />
      </TableCell>
      <TableCell align="right" title={load}>
        <strong>{shareWords(loadShare)}</strong>
      </TableCell>
      <TableCell sx={{ width: 190 }}>
        <PaceStrip full={full} paced={paced} words={pace} />
      </TableCell>
      <TableCell align="right" title={pace} sx={{ whiteSpace: 'nowrap' }}>
        <strong>{shareWords(soleShare)}</strong>
        {shiftingShare > 0.005 && (
          <Quiet block small>
            +{shareWords(shiftingShare)} by turns
          </Quiet>
        )}
      </TableCell>
      <TableCell sx={{ width: 90 }}>
        <QueueLine queue={queue} most={mostQueue} words={waited} />
      </TableCell>
      <TableCell align="right" title={waited}>
        <Box component="strong">{queueDays.toFixed(1)}</Box>
        {oldestDays !== null && (
          <Quiet block small>
            oldest {oldestDays.toFixed(1)}
          </Quiet>
        )}
      </TableCell>
    </TableRow>
  );
}
