import { count } from '@ample-crane/core';
import {
  Box,
  Button,
  LinearProgress,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, EmptyState, Panel, Quiet, Reckoning, Refused, Row } from '../parts/index.ts';
import { sayDay } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { DataTable } from '../tables/DataTable.tsx';
import type { Column } from '../tables/column.ts';
import { FlowOf } from './FlowOf.tsx';
import { useWork, type Work, type WorkedOperation } from './queries.ts';
import { asRouteMinutes, canBeTaken, offPct, workSentence } from './work.ts';
import { useWindow, WindowChoice } from './WindowChoice.tsx';

/** What work takes and what it gives: the log's times beside the route's, first passes, and the hours that were used. */
export default function WorkPage() {
  return <FlowOf asked={useWork(useWindow())}>{(data) => <Worked data={data} />}</FlowOf>;
}

function Worked({ data }: { data: Work }) {
  const { perform, busy, refused } = usePerform();
  const take = ({ model, kind, kindName, operation, operationName, revision, time }: WorkedOperation) => {
    if (!time) return;
    const minutes = asRouteMinutes(time.median);
    const note = `${operationName}: ${minutes} min a ${time.per} as the log of ${count(time.samples, time.per === 'load' ? 'load' : 'rack')} has it, was ${time.routeMinutes}`;
    void perform(
      async (by, key) => {
        const routes = await answered(
          server.GET('/api/models/{model}/routes', { params: { path: { model } } }),
        );
        const operations = (routes.find((route) => route.kind === kind)?.operations ?? []).map((one) => {
          if (one.key !== operation || one.mode === 'hold') return one;
          return one.mode === 'load' ? { ...one, cycleMinutes: minutes } : { ...one, pieceMinutes: minutes };
        });
        const body = { key, by, model, kind, from: revision, note, operations };
        return answered(server.POST('/api/routes', { body }));
      },
      (made) =>
        `Revision ${made.revision} of ${model} ${kindName} has ${minutes} min for ${operationName}. Racks under way keep theirs.`,
    );
  };
  const rows = useMemo(
    () => data.operations.toSorted((a, b) => Number(canBeTaken(b)) - Number(canBeTaken(a))),
    [data],
  );
  return (
    <Columns>
      <Stack>
        <Verdict {...workSentence(data)}>
          <Typography color="textSecondary">
            {sayDay(data.fromDay)} to {sayDay(data.toDay)}, beside the newest routes.
          </Typography>
          <Reckoning
            put={data.operations
              .filter(({ time }) => time)
              .slice(0, 4)
              .map(({ operationName, kindName, time }) => [
                `${operationName}, ${kindName}`,
                `${time?.samples ?? 0} measured`,
              ])}
            formula="The worked minutes in which a rack had pieces in hand, less the route’s set-up, by the pieces that went through; of a load its own worked minutes. The median of the racks, and between which two half of them lie. Where coats flash in hand, that is in it, and the route is not asked to follow. Racks that were filed through at once are left out. A route is clearly off when at least five were measured, it is off by more than a tenth, and outside what half of them took."
            source="Stays of the log; first passes by what became of each piece when it first came to the operation."
          />
        </Verdict>
        <Panel label="Operation by operation">
          <Row style={{ marginBottom: 10 }}>
            <WindowChoice />
          </Row>
          <Refused words={refused} />
          <DataTable
            name="work"
            label="Operations"
            noun="operation"
            rows={rows}
            rowKey={({ model, kind, operation }) => `${model} ${kind} ${operation}`}
            columns={columnsOf({ busy, take })}
            attention={(one) => canBeTaken(one)}
            empty="Nothing was worked on in that time."
          />
        </Panel>
      </Stack>
      <Stack>
        <Yields data={data} />
        <UsedHours data={data} />
      </Stack>
    </Columns>
  );
}

/** Of a hundred, how many get through all of a route at the first go. */
function Yields({ data: { yields } }: { data: Work }) {
  return (
    <Panel label="Through at the first go">
      <Typography variant="h2">Through at the first go</Typography>
      <Quiet block>
        Of a hundred, how many pass every operation without being sent back or scrapped.{' '}
        <Link to="/hand-offs">What was found where, and caused where</Link>
      </Quiet>
      {yields.length === 0 && <EmptyState>Nothing came to an operation in that time.</EmptyState>}
      {yields.map(({ model, kind, kindName, rolledPct, worst, worstPct }) => (
        <Box key={`${model} ${kind}`} sx={{ margin: '6px 0' }}>
          <Typography sx={{ display: 'flex', justifyContent: 'space-between' }}>
            <span>
              {model} {kindName}
            </span>{' '}
            <strong>{rolledPct.toFixed(0)}</strong>
          </Typography>
          <Quiet block small>
            lost most at {worst}: {worstPct.toFixed(0)} of 100
          </Quiet>
        </Box>
      ))}
    </Panel>
  );
}

/** What of the hours that were there somebody or something worked. */
function UsedHours({ data: { used } }: { data: Work }) {
  const shown = used.filter(({ hoursThere, hoursBusy }) => hoursThere > 0 && hoursBusy > 0);
  return (
    <Panel label="Hours used">
      <Typography variant="h2">Hours used</Typography>
      <Quiet block>
        Worked of the hours there were. Nobody is faster for being busy all the time: what waits grows without
        end near a hundred.
      </Quiet>
      <Table size="small" aria-label="Hours used">
        <TableHead>
          <TableRow>
            <TableCell scope="col">place or people</TableCell>
            <TableCell scope="col" align="right">
              used
            </TableCell>
            <TableCell scope="col" align="right">
              set-up
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {shown
            .toSorted((a, b) => b.hoursBusy / b.hoursThere - a.hoursBusy / a.hoursThere)
            .map(({ code, by, name, hoursThere, hoursBusy, setUpHours }) => (
              <TableRow key={`${by} ${code}`}>
                <TableCell>
                  {name}
                  <LinearProgress
                    variant="determinate"
                    aria-hidden
                    value={Math.min(100, (100 * hoursBusy) / hoursThere)}
                  />
                </TableCell>
                <TableCell align="right">{((100 * hoursBusy) / hoursThere).toFixed(0)} %</TableCell>
                <TableCell align="right">
                  {by === 'station' ? `${((100 * setUpHours) / hoursBusy).toFixed(0)} %` : ''}
                </TableCell>
              </TableRow>
            ))}
        </TableBody>
      </Table>
    </Panel>
  );
}

/** Short times differ by less than a minute. */
const digitsOf = ({ median }: { median: number }): number => (median < 10 ? 1 : 0);

const columnsOf = ({
  busy,
  take,
}: {
  busy: boolean;
  take: (one: WorkedOperation) => void;
}): Column<WorkedOperation>[] => [
  {
    key: 'operation',
    head: 'operation',
    of: ({ operationName }) => operationName,
    show: ({ operationName, model, kindName }) => (
      <Box>
        {operationName}
        <Quiet block small>
          {model} {kindName}
        </Quiet>
      </Box>
    ),
    share: 1.4,
    least: 150,
  },
  { key: 'model', head: 'model', of: ({ model }) => model, choice: true, hidden: true },
  { key: 'kind', head: 'of', of: ({ kindName }) => kindName, choice: true, hidden: true },
  { key: 'station', head: 'at', of: ({ stationName }) => stationName, choice: true, hidden: true },
  {
    key: 'logged',
    head: 'log, min',
    of: ({ time }) => time?.median ?? null,
    show: ({ time }) =>
      time && (
        <Box>
          {time.median.toFixed(1)}
          <Quiet block small>
            {time.low.toFixed(digitsOf(time))} to {time.high.toFixed(digitsOf(time))}
            {`, of ${time.samples}`}
            {time.flashes && ', with flash'}
          </Quiet>
        </Box>
      ),
    digits: 1,
    least: 104,
  },
  { key: 'route', head: 'route, min', of: ({ time }) => time?.routeMinutes ?? null, digits: 1, least: 82 },
  { key: 'off', head: 'off, %', of: (one) => offPct(one), digits: 0, least: 64 },
  {
    key: 'take',
    head: 'take the log’s',
    of: () => null,
    show: (one) =>
      canBeTaken(one) && (
        <Button
          size="small"
          disabled={busy}
          onClick={() => take(one)}
          aria-label={`Take ${asRouteMinutes(one.time.median)} min for ${one.operationName} of ${one.model} ${one.kindName}`}
        >
          Take {asRouteMinutes(one.time.median)} min
        </Button>
      ),
    least: 110,
  },
  { key: 'per', head: 'a', of: ({ time }) => time?.per ?? null, choice: true, hidden: true },
  { key: 'samples', head: 'measured', of: ({ time }) => time?.samples ?? null, digits: 0, hidden: true },
  {
    key: 'leftOut',
    head: 'filed at once',
    of: ({ time }) => time?.leftOut ?? null,
    digits: 0,
    hidden: true,
  },
  {
    key: 'first',
    head: 'first pass, %',
    of: ({ first }) => (first ? (100 * first.good) / first.pieces : null),
    digits: 0,
    least: 104,
  },
  { key: 'sentBack', head: 'sent back', of: ({ first }) => first?.sentBack ?? null, digits: 0, hidden: true },
  { key: 'scrapped', head: 'scrapped', of: ({ first }) => first?.scrapped ?? null, digits: 0, hidden: true },
];
