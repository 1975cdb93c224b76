import { rangeOf, type Stage } from '@ample-crane/core';
import { Stack, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { useFloor, useStage, type HoldAt, type RackAt, type StageRow } from '../api/queries.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { lateTag, sayDate, sayTime, useFactoryNow } from '../shared/time.ts';
import { withStations } from '../board/rows.ts';
import { AssemblyNav } from '../assembly/AssemblyNav.tsx';
import { FinishNav } from '../finishing/FinishNav.tsx';
import { FittingNav } from '../fitting/FittingNav.tsx';
import { MillNav } from '../machining/MillNav.tsx';
import { TagsHere } from '../orders/TagsHere.tsx';
import { PegRack } from '../devices/PegRack.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, EmptyState, Opening, Page, Panel, Quiet } from '../parts/index.ts';

/** One stage: its racks station by station, all of them, and the load in front of it. */
export default function StagePage() {
  const { stage = '' } = useParams();
  const { data: floor, dataUpdatedAt, error } = useFloor();
  const { data: standing, error: failed } = useStage(stage);
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  const name = STAGE_NAMES[stage as Stage];
  if (!name) return <EmptyState>There is no stage '{stage}'. Press 0 for the board.</EmptyState>;
  if (!floor || !standing) return <Opening error={error ?? failed} />;
  const rows = withStations(standing, floor);
  const ready = rows.flatMap((row) => row.holds.filter(({ hold }) => hold.over));
  const totals = floor.stages.find((candidate) => candidate.stage === stage);
  return (
    <Page
      title={name}
      tabs={
        <>
          {stage === 'machining' && <MillNav />}
          {stage === 'fitting' && <FittingNav />}
          {stage === 'finishing' && <FinishNav />}
          {stage === 'assembly' && <AssemblyNav />}
          <Quiet>
            {totals?.racks ?? 0} racks · {totals?.waiting ?? 0} pieces waiting · {totals?.inHand ?? 0} in hand
            · {totals?.onHold ?? 0} on hold
          </Quiet>
        </>
      }
    >
      <Columns>
        <Stack>
          <Verdict tone={ready.length > 0 ? 'good' : 'hold'} sentence={readyWords(ready)} />
          {rows.map((row) => (
            <StationPanel
              key={row.station.code}
              stage={stage as Stage}
              row={row}
              nowMs={nowMs}
              zone={floor.zone}
            />
          ))}
        </Stack>
        <Panel label="Load">
          <Typography variant="h2">Load</Typography>
          <Table>
            <TableHead>
              <TableRow>
                <TableCell scope="col">station</TableCell>
                <TableCell scope="col" align="right">
                  waiting
                </TableCell>
                <TableCell scope="col" align="right">
                  a day
                </TableCell>
                <TableCell scope="col" align="right">
                  days
                </TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {rows.map(({ station }) => (
                <TableRow key={station.code}>
                  <TableCell>{station.name}</TableCell>
                  <TableCell align="right">{station.hoursWaiting.toFixed(1)} h</TableCell>
                  <TableCell align="right">{station.hoursADay.toFixed(0)} h</TableCell>
                  <TableCell align="right">{station.days.toFixed(1)}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
          <Typography color="textSecondary" style={{ marginTop: 8 }}>
            Hours of work by the route's times, for what waits and what is in hand.{' '}
            <Link to="/flow">See the flow</Link>
          </Typography>
        </Panel>
      </Columns>
    </Page>
  );
}

function readyWords(ready: readonly HoldAt[]): string {
  if (ready.length === 0) return 'No hold here is over now.';
  const codes = [...new Set(ready.map(({ batch }) => batch))];
  return `Ready: ${codes.join(', ')} ${codes.length === 1 ? 'has' : 'have'} a hold that is over.`;
}

type Row = ReturnType<typeof withStations<StageRow>>[number];

interface StationProps {
  stage: Stage;
  row: Row;
  nowMs: number;
  zone: string;
}

function StationPanel({ stage, row, nowMs, zone }: StationProps) {
  const { station, inHand, waiting, holds } = row;
  return (
    <Panel label={station.name}>
      <Typography variant="h2">
        {station.name} <Quiet style={{ fontWeight: 500, fontSize: 16 }}>{station.note}</Quiet>
      </Typography>
      {inHand.length + waiting.length + holds.length === 0 && (
        <Typography color="textSecondary">Nothing here.</Typography>
      )}
      <Table>
        <TableBody>
          {inHand.map((rack) => (
            <RackLine
              key={`h${rack.batch}${rack.operation}`}
              stage={stage}
              rack={rack}
              nowMs={nowMs}
              zone={zone}
              word="in hand"
            />
          ))}
          {waiting.map((rack, i) => (
            <RackLine
              key={`w${rack.batch}${rack.operation}`}
              stage={stage}
              rack={rack}
              nowMs={nowMs}
              zone={zone}
              word={i === 0 ? 'next' : 'waiting'}
            />
          ))}
          {holds.map(({ batch, model, dueMs, hold, more }) => (
            <TableRow key={`d${batch}${hold.operation}${hold.rule}`}>
              <TableCell style={{ width: 120 }}>
                <PegRack
                  code={batch}
                  pegs={hold.positions.map(() => 'todo')}
                  wide
                  words={`${model}, on hold`}
                  href={`/batch/${batch}`}
                />
              </TableCell>
              <TableCell>
                <strong>{hold.over ? 'ready' : hold.word}</strong>{' '}
                {hold.endMs !== null &&
                  !hold.over &&
                  `until ${sayTime(hold.endMs, zone, nowMs, rangeOf(hold))}`}
                <Quiet block>
                  {hold.sentence}
                  {more > 0 && ` ${more} more of it rest here too.`}
                </Quiet>
              </TableCell>
              <TableCell className="quiet" align="right">
                due {sayDate(dueMs, zone)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Panel>
  );
}

interface RackLineProps extends Omit<StationProps, 'row'> {
  rack: RackAt;
  word: string;
}

function RackLine({ stage, rack, nowMs, zone, word }: RackLineProps) {
  const late = lateTag(rack.dueMs, nowMs);
  return (
    <TableRow>
      <TableCell style={{ width: 120 }}>
        <PegRack
          code={rack.batch}
          pegs={rack.pegs}
          wide
          inverted={word === 'in hand'}
          tag={late}
          late={late !== null}
          words={`${rack.model}, ${word}`}
          href={`/batch/${rack.batch}`}
        />
      </TableCell>
      <TableCell>
        <strong>{word}</strong> · {rack.operationName}
        <Quiet block>
          {rack.model}, {rack.here} of {rack.quantity} here since {sayTime(rack.sinceMs, zone, nowMs)}
        </Quiet>
        <TagsHere stage={stage} batch={rack.batch} operation={rack.operation} />
      </TableCell>
      <TableCell className="quiet" align="right">
        due {sayDate(rack.dueMs, zone)}
      </TableCell>
    </TableRow>
  );
}
