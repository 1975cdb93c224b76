import { Box, Stack, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { Link } from 'react-router';
import { useBoard, useFloor, useStage, type HoldAt } from '../api/queries.ts';
import { sayTime, useFactoryNow } from '../shared/time.ts';
import { useLines } from '../shared/useLines.ts';
import { CallCard } from '../devices/CallCard.tsx';
import { EmcGauge } from '../devices/EmcGauge.tsx';
import { PegRack } from '../devices/PegRack.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, Opening, Page, Panel, Quiet } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import type { Column } from '../tables/column.ts';
import { GateForm } from './GateForm.tsx';
import { useLots, useRooms, type LotSummary, type Room } from './queries.ts';
import { ifItComesBack, pct, soonWords } from './words.ts';
import { WoodNav } from './WoodNav.tsx';

/** The wood room: what may go now, lots and resting racks by readiness, and the rooms they dry in. */
export default function WoodRoomPage() {
  const { data: floor, dataUpdatedAt, error } = useFloor();
  const { data: board } = useBoard();
  const { data: rows } = useStage('wood');
  const { data: lots, error: lotsError } = useLots();
  const { data: rooms = [] } = useRooms();
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  const filing = useLines();
  if (!floor || !rows || !lots) return <Opening error={error ?? lotsError} />;
  const holds = rows
    .flatMap((row) => row.holds)
    .toSorted(
      (a, b) =>
        Number(b.hold.over) - Number(a.hold.over) || (a.hold.endMs ?? Infinity) - (b.hold.endMs ?? Infinity),
    );
  const calls = (board?.calls ?? []).filter((call) => call.kind === 'room-drift' || call.kind === 'sensor');
  return (
    <Page title="Wood room" tabs={<WoodNav />}>
      <Columns>
        <Stack>
          <Readiness lots={lots} holds={holds} />
          <Lots lots={lots} rooms={rooms} />
          <Racks holds={holds} zone={floor.zone} nowMs={nowMs} />
        </Stack>
        <Stack>
          {calls.length > 0 && (
            <Panel label="Calls">
              {calls.map((call) => (
                <CallCard key={call.id} {...call} {...filing} />
              ))}
            </Panel>
          )}
          <Rooms rooms={rooms} />
          <GateForm />
        </Stack>
      </Columns>
    </Page>
  );
}

function Readiness({ lots, holds }: { lots: readonly LotSummary[]; holds: readonly HoldAt[] }) {
  const passing = lots.filter((lot) => lot.passing > 0);
  const over = holds.filter(({ hold }) => hold.over);
  const unread = lots.filter((lot) => lot.stacked > 0 && lot.verdict === 'unread');
  const parts = [
    passing.length > 0 ? `boards of ${passing.map((lot) => lot.code).join(', ')} would pass now` : '',
    over.length > 0
      ? `${[...new Set(over.map(({ batch }) => batch))].join(', ')} may leave ${over.length === 1 ? 'its' : 'their'} rest`
      : '',
    unread.length > 0
      ? `${unread.map((lot) => lot.code).join(', ')} ${unread.length === 1 ? 'wants' : 'want'} reading`
      : '',
  ].filter(Boolean);
  const sentence = parts.length > 0 ? parts.join('; ') : 'nothing is ready, and nothing wants reading';
  return (
    <Verdict
      tone={passing.length + over.length > 0 ? 'good' : 'hold'}
      sentence={`${sentence.charAt(0).toUpperCase()}${sentence.slice(1)}.`}
    />
  );
}

/** Those that can go first, then by date, then those with no date, then what is already cut. */
function byReadiness(a: LotSummary, b: LotSummary): number {
  const order = (lot: LotSummary): number => {
    if (lot.stacked === 0) return lot.toCut > 0 ? 1e7 : 1e8;
    if (lot.passing === lot.stacked) return -1;
    return lot.outlook?.median ?? 1e6;
  };
  return order(a) - order(b) || a.code.localeCompare(b.code, 'en', { numeric: true });
}

const lotColumns = (returning: (lot: LotSummary) => string | null): Column<LotSummary>[] => [
  {
    key: 'lot',
    head: 'lot',
    of: ({ code }) => code,
    show: ({ code }) => (
      <Link to={`/wood/lots/${code}`} data-rack={code} className="condensed codelink">
        {code}
      </Link>
    ),
    share: 0.5,
    least: 64,
  },
  {
    key: 'wood',
    head: 'wood',
    of: ({ species, thicknessMm }) => `${species}, ${thicknessMm} mm`,
    show: ({ species, thicknessMm, stacked, room, blanksInStock }) => (
      <Box>
        {species}, {thicknessMm} mm
        <Quiet block>{stacked > 0 ? `${stacked} boards, ${room}` : `${blanksInStock} blanks in stock`}</Quiet>
      </Box>
    ),
    share: 1.3,
    least: 160,
  },
  { key: 'boards', head: 'boards', of: ({ stacked }) => stacked, digits: 0, hidden: true },
  { key: 'room', head: 'room', of: ({ room }) => room, choice: true, hidden: true },
  {
    key: 'ready',
    head: 'ready',
    of: (lot) => soonWords(lot),
    show: (lot) => (
      <Box>
        <Box component="span" sx={{ color: lot.never ? 'error.main' : undefined }}>
          {soonWords(lot)}
        </Box>
        <Quiet block>{returning(lot)}</Quiet>
        {lot.papersMissing && <Box sx={{ color: 'error.main' }}>papers missing</Box>}
      </Box>
    ),
    least: 110,
  },
  { key: 'verdict', head: 'verdict', of: ({ sentence }) => sentence, share: 2, least: 180 },
  {
    key: 'read',
    head: '',
    of: () => null,
    show: ({ stacked, code }) =>
      stacked > 0 && (
        <Link to={`/wood/read/${code}`} aria-label={`Read ${code}`}>
          Read
        </Link>
      ),
    share: 0.3,
    least: 52,
  },
];

function Lots({ lots, rooms }: { lots: readonly LotSummary[]; rooms: readonly Room[] }) {
  const returning = (lot: LotSummary): string | null =>
    ifItComesBack(
      lot,
      rooms.find(({ room }) => room === lot.room),
    );
  return (
    <Panel label="Lots of lumber">
      <Typography variant="h2">Lots of lumber</Typography>
      {lots.length === 0 && (
        <Typography color="textSecondary">
          No lot yet. <Link to="/wood/receive">Receive the first one</Link>.
        </Typography>
      )}
      {lots.length > 0 && (
        <DataTable
          name="lots"
          label="Lots of lumber"
          noun="lot"
          rows={lots.toSorted(byReadiness)}
          rowKey={({ code }) => code}
          columns={lotColumns(returning)}
          attention={({ never, papersMissing }) => never || papersMissing}
          empty=""
        />
      )}
    </Panel>
  );
}

function Racks({ holds, zone, nowMs }: { holds: readonly HoldAt[]; zone: string; nowMs: number }) {
  return (
    <Panel label="Resting racks">
      <Typography variant="h2">Resting racks</Typography>
      {holds.length === 0 && <Typography color="textSecondary">No rack rests here.</Typography>}
      <Table>
        <TableBody>
          {holds.map(({ batch, model, hold, more }) => (
            <TableRow key={`${batch}${hold.operation}${hold.rule}`}>
              <TableCell style={{ width: 120 }}>
                <PegRack
                  code={batch}
                  pegs={hold.positions.map(() => 'todo')}
                  wide
                  words={`${model}, ${hold.operationName}`}
                  href={`/batch/${batch}`}
                />
              </TableCell>
              <TableCell>
                <strong>{hold.over ? 'may go on' : hold.operationName}</strong>{' '}
                {!hold.over &&
                  (hold.endMs === null ? 'no date yet' : `until ${sayTime(hold.endMs, zone, nowMs)}`)}
                <Quiet block>
                  {hold.sentence}
                  {more > 0 && ` ${more} more of it rest here too.`}
                </Quiet>
              </TableCell>
              <TableCell style={{ whiteSpace: 'nowrap' }}>
                {hold.rule === 'moisture' && (
                  <>
                    <Link to={`/wood/drying/${batch}`}>Drying</Link> ·{' '}
                    <Link to={`/wood/choose/${batch}`}>Blanks</Link>
                  </>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Panel>
  );
}

function Rooms({ rooms }: { rooms: readonly Room[] }) {
  return (
    <Panel label="Rooms">
      <Typography variant="h2">
        Rooms <Quiet small>EMC against what each should hold</Quiet>
      </Typography>
      {rooms
        .filter((room) => room.holdsWood)
        .map((room) => (
          <Box key={room.room} style={{ marginTop: 8 }}>
            <Link to={`/wood/rooms/${encodeURIComponent(room.room)}`}>{room.room}</Link>{' '}
            <Quiet>
              {room.air
                ? `${pct(room.air.temperatureC)} °C · ${room.air.relativeHumidityPct.toFixed(0)} % RH`
                : 'no air logged'}
              {room.health.state !== 'well' && ` · ${room.health.words}`}
            </Quiet>
            <EmcGauge
              emcPct={room.emcPct}
              band={room.band}
              words={`${room.room}: EMC ${room.emcPct === null ? 'unknown' : pct(room.emcPct)}, should be ${pct(room.band.lowPct)} to ${pct(room.band.highPct)} %`}
            />
          </Box>
        ))}
    </Panel>
  );
}
