import type { Meeting } from '@ample-crane/core';
import { Typography } from '@mui/material';
import { scaleTime } from 'd3-scale';
import { daysAhead, sayDayOf } from '../shared/time.ts';
import type { Meetings, Side } from './queries.ts';
import './fitting.css';
import './MeetingAxis.css';

const DAY_MS = 24 * 3_600_000;
const WIDTH = 780;
const LABEL = 74;
const ROW = 58;
const TOP = 44;
const BAR = 13;
/** More pairs than this stand in the list alone. */
const MOST_DRAWN = 24;
/** A day's name is so wide; where there is no room for it, its line stands alone. */
const DAY_NAME = 62;

/** Pairs on one axis of time: a body's way above its line, the neck's below; the hatched part is waiting for the other. */
export function MeetingAxis({ data, meetings }: { data: Meetings; meetings: readonly Meeting[] }) {
  const { sides, nowMs, zone } = data;
  const drawn = meetings.slice(0, MOST_DRAWN);
  if (meetings.length === 0)
    return <Typography color="textSecondary">Nothing is on its way to a join.</Typography>;
  const endMs = Math.max(nowMs + 3 * DAY_MS, ...drawn.map((meeting) => meeting.meetMs)) + DAY_MS / 2;
  const startMs = nowMs - DAY_MS;
  const x = scaleTime([startMs, endMs], [LABEL, WIDTH - 12]);
  const at = (ms: number): number => x(Math.max(startMs, Math.min(endMs, ms)));
  const height = TOP + drawn.length * ROW + 6;
  const sideOf = (batch: string): Side | undefined => sides.find((side) => side.batch === batch);
  const count = Math.ceil((endMs - startMs) / DAY_MS);
  const every = Math.ceil(count / 10);
  return (
    <>
      <svg className="meeting" viewBox={`0 0 ${WIDTH} ${height}`} width="100%" aria-hidden="true">
        <defs>
          <pattern
            id="wait-hatch"
            width="6"
            height="6"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0V6" stroke="var(--slate)" strokeWidth="2" />
          </pattern>
        </defs>
        {daysAhead(startMs, zone, count)
          .filter((_, i) => i % every === 0)
          .map(({ ms, name }) => (
            <g key={ms}>
              <path d={`M${at(ms)} ${TOP - 6}V${height}`} stroke="var(--fibre)" />
              {at(ms) + DAY_NAME < WIDTH && (
                <text x={at(ms) + 3} y={TOP - 10} className="axisname">
                  {name} {sayDayOf(ms, zone)}
                </text>
              )}
            </g>
          ))}
        <path d={`M${at(nowMs)} ${TOP - 26}V${height}`} stroke="var(--ebony)" strokeWidth="2" />
        <text x={at(nowMs)} y={TOP - 31} textAnchor="middle" className="axisname">
          now
        </text>
        {drawn.map((meeting, i) => {
          const y = TOP + i * ROW + ROW / 2;
          const [host, guest] = [sideOf(meeting.host), sideOf(meeting.guest)];
          return (
            <g key={meeting.host}>
              <path d={`M${LABEL} ${y}H${at(meeting.meetMs)}`} stroke="var(--ebony)" strokeWidth="1.5" />
              {host && <Way side={host} y={y - BAR - 3} meetMs={meeting.meetMs} at={at} nowMs={nowMs} />}
              {guest && <Way side={guest} y={y + 3} meetMs={meeting.meetMs} at={at} nowMs={nowMs} />}
              <text x={0} y={y - 5} className="axiscode">
                {meeting.host}
              </text>
              <text x={0} y={y + 14} className="axiscode">
                {meeting.guest}
              </text>
              <circle
                cx={at(meeting.meetMs)}
                cy={y}
                r={5}
                fill={meeting.misses ? 'var(--oxblood)' : 'var(--verdigris)'}
                stroke="var(--paper)"
                strokeWidth="2"
              />
            </g>
          );
        })}
      </svg>
      {meetings.length > MOST_DRAWN && (
        <Typography color="textSecondary">
          The first {MOST_DRAWN} of {meetings.length} pairs are drawn; the list has all.
        </Typography>
      )}
    </>
  );
}

/** One side's way to the join: plain until it is there, hatched while it waits, a whisker for its range. */
function Way({
  side,
  y,
  meetMs,
  at,
  nowMs,
}: {
  side: Side;
  y: number;
  meetMs: number;
  at: (ms: number) => number;
  nowMs: number;
}) {
  const from = at(nowMs);
  const there = at(Math.max(nowMs, side.arrivesMs));
  const begins = Math.min(from, at(side.arrivesMs));
  return (
    <g>
      <rect
        x={from}
        y={y}
        width={Math.max(0, there - from)}
        height={BAR}
        fill="var(--maple)"
        stroke="var(--ebony)"
        strokeWidth="0.75"
      />
      {meetMs > side.arrivesMs && (
        <rect
          x={side.arrivesMs < nowMs ? begins : there}
          y={y}
          width={Math.max(0, at(meetMs) - (side.arrivesMs < nowMs ? begins : there))}
          height={BAR}
          fill="url(#wait-hatch)"
          stroke="var(--slate)"
        />
      )}
      {side.highMs - side.lowMs > DAY_MS / 24 && (
        <path
          d={`M${at(side.lowMs)} ${y + BAR / 2}H${at(side.highMs)}`}
          stroke="var(--umber)"
          strokeWidth="3"
          opacity="0.45"
        />
      )}
    </g>
  );
}
