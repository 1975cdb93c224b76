import StopIcon from '@mui/icons-material/Stop';
import { Box, Button, IconButton, Stack, Typography } from '@mui/material';
import { Link } from 'react-router';
import type { Floor } from '../api/queries.ts';
import { useRun } from '../parts/index.ts';
import { sayWeekday } from '../shared/time.ts';
import { useLines } from '../shared/useLines.ts';
import { BoardName } from './AskBoard.tsx';
import { StationName } from './StationName.tsx';
import { WaitingRack } from './StationRow.tsx';
import type { Row } from './rows.ts';
import './board.css';
import './ScaleRow.css';

/** The next racks that wait are drawn; the others stand in the bar. */
const MOST_NAMED = 2;
/** Three lines of places; more are a number. */
const MOST_PLACES = 27;
const PLACES_A_LINE = 9;
/** px */
const PLACE = 9;
const GAP = 2;
const HIGHEST = 20;

/** Columns of what comes off hold: what may leave now, the days, what is later. */
const HOLD_COLUMNS = 'minmax(84px, 104px) repeat(7, minmax(0, 1fr)) 36px';

/** What the longest bar and the highest column of the board stand for. */
export interface Scales {
  /** Working days of work in front of the station that has most; null: bars of work are not drawn. */
  mostDays: number | null;
  /** Racks that come free at one station on one day, at most. */
  mostFree: number;
}

/** `all`: the rows are of all racks, as the work in front of their stations is. */
export const scalesOf = (rows: readonly Row[], all: boolean): Scales => ({
  mostDays: all ? Math.max(0, ...rows.map(({ station }) => station.days)) : null,
  mostFree: Math.max(1, ...rows.flatMap(({ scale }) => scale.free)),
});

/** The head of a board to scale: what a bar stands for, and the days. */
export function ScaleHead({
  days,
  nowMs,
  zone,
  scales,
  onAsk,
}: {
  days: number[];
  nowMs: number;
  zone: string;
  scales: Scales;
  onAsk: () => void;
}) {
  const small = { fontSize: 12, color: 'text.secondary' };
  return (
    <div className="boardrow boardhead">
      <BoardName onAsk={onAsk} />
      <Typography sx={{ ...small, textAlign: 'right', paddingRight: '10px' }}>
        waiting{scales.mostDays !== null && `; a full bar is ${scales.mostDays.toFixed(1)} days of work`}
      </Typography>
      <strong style={{ textAlign: 'center' }}>in hand</strong>
      <Box sx={{ display: 'grid', gridTemplateColumns: HOLD_COLUMNS, ...small, textAlign: 'center' }}>
        <span>off hold:</span>
        {days.slice(0, -1).map((dayMs) => (
          <DayName key={dayMs} name={dayMs <= nowMs ? 'now' : sayWeekday(dayMs, zone)} />
        ))}
        <span>later</span>
      </Box>
    </div>
  );
}

/** One letter where there is no room for three. */
function DayName({ name }: { name: string }) {
  return (
    <span>
      {name.slice(0, 1)}
      <span className="wide-only">{name.slice(1)}</span>
    </span>
  );
}

/** A station of a works that has too many racks to draw each: work to scale, places, racks by the day they come free. */
export function ScaleRow({
  row,
  floor,
  nowMs,
  days,
  scales,
}: {
  row: Row;
  floor: Floor;
  nowMs: number;
  days: number[];
  scales: Scales;
}) {
  const { station, waiting, moreWaiting } = row;
  const paces = floor.constraint?.station === station.code;
  const named = waiting.slice(0, MOST_NAMED);
  const others = waiting.length - named.length + moreWaiting;
  return (
    <div className={`boardrow${paces ? ' constraint' : ''}`} role="group" aria-label={station.name}>
      <StationName station={station} />
      <div className="waiting">
        <Work row={row} others={others} mostDays={scales.mostDays} paces={paces} />
        {named.toReversed().map((rack) => (
          <WaitingRack key={rack.batch + rack.operation} rack={rack} nowMs={nowMs} />
        ))}
      </div>
      <Places row={row} nowMs={nowMs} />
      <Free row={row} days={days} nowMs={nowMs} zone={floor.zone} mostFree={scales.mostFree} />
    </div>
  );
}

/** The racks that wait and are not drawn, and the work in front of the station as a bar. */
function Work({
  row,
  others,
  mostDays,
  paces,
}: {
  row: Row;
  others: number;
  mostDays: number | null;
  paces: boolean;
}) {
  const { station } = row;
  if (station.days === 0) return null;
  const share = mostDays ? station.days / mostDays : 0;
  return (
    <Box
      sx={{
        flex: 1,
        minWidth: 40,
        fontSize: 12,
        lineHeight: 1.15,
        textAlign: 'right',
        color: 'text.secondary',
      }}
    >
      {others > 0 && (
        <Link
          className="morelink"
          to={`/stage/${station.stage}`}
          aria-label={`${others} more waiting at ${station.name}`}
        >
          +{others}
        </Link>
      )}
      {mostDays !== null && (
        <>
          <Box
            role="img"
            aria-label={`${station.days.toFixed(1)} days of work in front of ${station.name}`}
            sx={{
              height: 9,
              marginLeft: 'auto',
              width: `${Math.max(2, 100 * share)}%`,
              border: 1,
              borderColor: paces ? 'error.main' : 'warning.main',
              backgroundColor: paces ? 'error.main' : 'var(--maple)',
            }}
          />
          {station.days.toFixed(1)} d
        </>
      )}
    </Box>
  );
}

/** Places of a station: taken by a rack, by a late one, free. */
function Places({ row: { station, scale }, nowMs }: { row: Row; nowMs: number }) {
  const { places } = scale;
  const late = places.filter(({ dueMs }) => dueMs < nowMs).length;
  const drawn = Math.min(MOST_PLACES, Math.max(places.length, station.parallel));
  if (drawn === 0) return <div className="inhand" />;
  const more = places.length - drawn;
  const words = `${places.length} in hand at ${station.name}, ${late} late, ${station.parallel} places`;
  const lines = Math.ceil(drawn / PLACES_A_LINE);
  const step = PLACE + GAP;
  return (
    <Link
      to={`/stage/${station.stage}`}
      className="inhand"
      aria-label={words}
      title={words}
      style={{ color: 'inherit' }}
    >
      <svg width={PLACES_A_LINE * step} height={lines * step} aria-hidden="true">
        {Array.from({ length: drawn }, (_, i) => (
          <Place
            key={places[i]?.batch ?? i}
            x={(i % PLACES_A_LINE) * step + 0.5}
            y={Math.floor(i / PLACES_A_LINE) * step + 0.5}
            taken={places[i] !== undefined}
            late={(places[i]?.dueMs ?? Infinity) < nowMs}
          />
        ))}
      </svg>
      {more > 0 && <span className="morelink">+{more}</span>}
    </Link>
  );
}

/** One place: filled when it is taken, cut through when by a late rack. */
function Place({ x, y, taken, late }: { x: number; y: number; taken: boolean; late: boolean }) {
  const side = PLACE - 1;
  return (
    <g stroke="currentColor">
      <rect
        x={x}
        y={y}
        width={side}
        height={side}
        fill={late ? 'var(--oxblood)' : taken ? 'currentColor' : 'none'}
      />
      {late && <path d={`M${x} ${y + side}L${x + side} ${y}`} stroke="var(--paper)" strokeWidth={1.6} />}
    </g>
  );
}

/** Racks by the day on which they come off hold; what may leave now in one touch. */
function Free({
  row,
  days,
  nowMs,
  zone,
  mostFree,
}: {
  row: Row;
  days: number[];
  nowMs: number;
  zone: string;
  mostFree: number;
}) {
  const { station, scale } = row;
  const { busy, onLines } = useLines();
  const { running, run, stop } = useRun(onLines);
  const { over, free, later, open } = scale;
  const anyDay = free.some((n) => n > 0);
  return (
    <Box
      className="holds"
      sx={{
        display: 'grid',
        gridTemplateColumns: HOLD_COLUMNS,
        gridTemplateRows: '1fr',
        gap: 0,
        alignItems: 'end',
      }}
    >
      <Box sx={{ alignSelf: 'center', paddingLeft: '4px' }}>
        {(over.length > 0 || running) && (
          <MayLeave
            station={station.name}
            {...{ over, running, busy }}
            onLeave={() => void run(over.map((batch) => `${batch} end`))}
            onStop={stop}
          />
        )}
      </Box>
      <Box
        role={anyDay ? 'img' : undefined}
        aria-label={anyDay ? freeWords(free, days, nowMs, zone) : undefined}
        sx={{ gridColumn: '2 / 9', display: 'grid', gridTemplateColumns: 'subgrid', alignItems: 'end' }}
      >
        {free.map((n, i) => (
          <Box key={days[i]} sx={{ textAlign: 'center', fontSize: 11, lineHeight: 1.1, padding: '0 2px' }}>
            {n > 0 && n}
            {n > 0 && <div className="freebar" style={{ height: Math.max(3, (HIGHEST * n) / mostFree) }} />}
          </Box>
        ))}
      </Box>
      <Box sx={{ alignSelf: 'center', textAlign: 'right', paddingRight: '6px', lineHeight: 1.1 }}>
        {later + open > 0 && (
          <Link
            className="morelink"
            to={`/stage/${station.stage}`}
            aria-label={`${later} more on hold at ${station.name}, ending later; of ${open} nobody can say`}
          >
            +{later + open}
          </Link>
        )}
      </Box>
    </Box>
  );
}

/** What may leave now, in one touch; while it goes on how many are through, and the way to stop. */
function MayLeave({
  station,
  over,
  running,
  busy,
  onLeave,
  onStop,
}: {
  station: string;
  over: readonly string[];
  running: { through: number; of: number } | null;
  busy: boolean;
  onLeave: () => void;
  onStop: () => void;
}) {
  return (
    <Stack direction="row" sx={{ alignItems: 'center' }}>
      <Button
        color="success"
        variant="contained"
        size="small"
        disabled={busy || running !== null}
        aria-label={running ? undefined : `${over.length} may leave ${station}: end their holds`}
        title={over.join(', ')}
        onClick={onLeave}
        sx={{ whiteSpace: 'nowrap' }}
      >
        {running ? `${running.through} of ${running.of}` : `${over.length} may leave`}
      </Button>
      {running && (
        <IconButton size="small" aria-label={`Stop: the others stay at ${station}`} onClick={onStop}>
          <StopIcon fontSize="small" />
        </IconButton>
      )}
    </Stack>
  );
}

const freeWords = (free: readonly number[], days: readonly number[], nowMs: number, zone: string): string =>
  `Racks that come off hold: ${free
    .flatMap((n, i) => {
      const dayMs = days[i] ?? nowMs;
      return n > 0 ? `${n} ${dayMs <= nowMs ? 'today' : sayWeekday(dayMs, zone)}` : [];
    })
    .join(', ')}`;
