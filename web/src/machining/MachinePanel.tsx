import type { LoadPlan } from '@ample-crane/core';
import { Box, Button, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { useMachines, type Cycle, type Machine, type Mill } from './queries.ts';

const EXECUTION: Record<string, string> = {
  ACTIVE: 'cutting',
  READY: 'ready',
  FEED_HOLD: 'feed hold',
  INTERRUPTED: 'interrupted',
  STOPPED: 'stopped',
  UNAVAILABLE: 'not to be heard',
};

/** What the machine itself tells, and what the operator has to say of it. */
export function MachinePanel({ mill, plan }: { mill: Mill; plan: LoadPlan }) {
  const { station } = mill;
  const { data: machines, error } = useMachines();
  const own = machines?.filter((machine) => machine.station === station);
  if (!own)
    return (
      <Panel label="Machine">
        <Typography variant="h2">Machine</Typography>
        <Typography color="textSecondary">{error?.message ?? 'Opening…'}</Typography>
      </Panel>
    );
  if (own.length === 0)
    return (
      <Panel label="Machine">
        <Typography variant="h2">Machine</Typography>
        <Typography color="textSecondary">
          No machine of this station tells what it does. Loads are started and ended by hand.
        </Typography>
      </Panel>
    );
  return own.map((machine) => <OneMachine key={machine.code} machine={machine} mill={mill} plan={plan} />);
}

function OneMachine({ machine, mill, plan }: { machine: Machine; mill: Mill; plan: LoadPlan }) {
  const { zone, nowMs } = mill;
  const { trouble, seenMs, paths, open, real } = machine;
  // A cycle that runs needs a word only when nobody logged what is on its table.
  const waiting = open.filter((cycle) => cycle.outcome !== 'running' || cycle.load === null);
  return (
    <Panel label="Machine">
      <Typography variant="h2">
        Machine <Quiet small>as it tells itself</Quiet>
      </Typography>
      {trouble !== null && (
        <Typography className="attention">
          {trouble}
          {seenMs !== null && `; last heard ${sayTime(seenMs, zone, nowMs)}`}
        </Typography>
      )}
      <Table>
        <TableBody>
          {paths.map(({ path, execution, program, sinceMs }) => (
            <TableRow key={path}>
              <TableCell>{path}</TableCell>
              <TableCell>
                <strong>{EXECUTION[execution ?? ''] ?? execution ?? 'unknown'}</strong>
                {sinceMs !== null && ` since ${sayTime(sinceMs, zone, nowMs)}`}
                <Quiet block>{program ?? 'no program'}</Quiet>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {waiting.length > 0 && (
        <Typography variant="h3" style={{ marginTop: 10 }}>
          To confirm
        </Typography>
      )}
      {waiting.map((cycle) => (
        <CycleCard key={cycle.id} cycle={cycle} mill={mill} plan={plan} />
      ))}
      {real.length > 0 && (
        <Typography color="textSecondary" style={{ marginTop: 8 }}>
          Real cutting times:{' '}
          {real.map((one) => `${one.program} ${one.minutes.toFixed(1)} min (${one.cycles})`).join(', ')}
        </Typography>
      )}
    </Panel>
  );
}

/** What the load of a cycle is worth: only a complete one is likely to be good. */
const loadWords = (outcome: Cycle['outcome'], { code, pieces }: NonNullable<Cycle['load']>): string =>
  outcome === 'complete'
    ? `It must be ${code}, ${pieces} pieces.`
    : `It was ${code}: look at its ${pieces} pieces, then run it again, or end it and name what is lost.`;

/** A cycle the machine ran: a proposal until somebody says what it was. */
function CycleCard({ cycle, mill, plan }: { cycle: Cycle; mill: Mill; plan: LoadPlan }) {
  const { zone, nowMs } = mill;
  const { perform, busy, refused } = usePerform();
  const settle = (as: 'load' | 'nothing'): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/machines/cycles/{id}/settle', {
            params: { path: { id: cycle.id } },
            body: { key, by, as, scrap: [] },
          }),
        ),
      ({ sentence }) => `Confirmed. ${sentence}`,
    );
  const planned = plan.loads.find((one) => one.table === cycle.path && one.program === cycle.program);
  const free = mill.tables.some(({ code, load: on }) => code === cycle.path && on === null);
  const start = (): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/loads', {
            body: {
              key,
              by,
              table: cycle.path,
              parts: (planned?.parts ?? []).map(({ batch, pieces }) => ({ batch, count: pieces })),
            },
          }),
        ),
      filedWords,
    );
  const { load, endedMs, heldMinutes, cutMinutes, outcome, note } = cycle;
  return (
    <Box component="article" className="cycle">
      <Typography>
        <strong>{cycle.path}</strong>: {outcome} {endedMs !== null && sayTime(endedMs, zone, nowMs)}
        {cutMinutes !== null && `, ${cutMinutes.toFixed(1)} min cut`}
        {heldMinutes >= 0.1 && `, ${heldMinutes.toFixed(1)} min held`}
        {note && `; ${note}`}
      </Typography>
      <Typography color="textSecondary">
        {load ? loadWords(cycle.outcome, load) : `No load with ${cycle.program ?? 'its program'} lies there.`}
      </Typography>
      <Row>
        {load && outcome !== 'running' && (
          <Button
            variant={outcome === 'complete' ? 'contained' : 'outlined'}
            disabled={busy}
            onClick={() => void settle('load')}
          >
            {outcome === 'complete'
              ? `End ${load.code}: all ${load.pieces} good`
              : `End ${load.code} all the same`}
          </Button>
        )}
        {!load && planned && free && (
          <Button variant="contained" disabled={busy} onClick={() => void start()}>
            It is the load of {planned.parts.map((part) => `${part.pieces} of ${part.batch}`).join(', ')}
          </Button>
        )}
        {outcome !== 'running' && (
          <Button disabled={busy} onClick={() => void settle('nothing')}>
            Counts for nothing
          </Button>
        )}
      </Row>
      <Refused words={refused} />
    </Box>
  );
}
