import { Typography } from '@mui/material';
import { loggedAirEmcPct } from '@ample-crane/core';
import { useMemo } from 'react';
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
} from 'recharts';
import { sayDayOf } from '../shared/time.ts';
import type { Foreseen } from './foresee.ts';
import type { Drying } from './queries.ts';

/** One reading, drawn as a mark: where each has its own points, the chart does not look for every mark at every point. */
interface Reading {
  atMs: number;
  mcPct: number;
}

interface Point {
  atMs: number;
  fitted?: number;
  ahead?: number;
  fan?: [number, number];
  emc?: number;
}

const DAY_MS = 24 * 3_600_000;
/** More points than this of the room's EMC only hide each other. */
const EMC_POINTS = 160;
/** Readings of one look are spread a little, so that rings do not cover each other. */
const JITTER = 0.004;

/** Readings, the curve fitted through them, the fan of what is to come, the room's EMC and the gate, on one axis of time. */
export function DryingChart({
  drying,
  foreseen,
  zone,
}: {
  drying: Drying;
  foreseen: Foreseen;
  zone: string;
}) {
  const firstMs = Math.min(...drying.readings.map((reading) => reading.atMs)) - DAY_MS / 2;
  const points = useMemo(() => pointsOf(drying, foreseen, firstMs), [drying, foreseen, firstMs]);
  const marks = useMemo(() => marksOf(drying, foreseen, firstMs), [drying, foreseen, firstMs]);
  const { nowMs, window } = drying;
  const readyMs =
    foreseen.outlook === 'never' || foreseen.outlook.median === 0
      ? null
      : nowMs + foreseen.outlook.median * 3_600_000;
  const values = [
    ...Object.values(marks).flatMap((readings) => readings.map(({ mcPct }) => mcPct)),
    ...points.flatMap((p) => [p.emc, p.fan?.[0], p.fan?.[1]].filter((v) => v !== undefined)),
  ];
  const lowest = Math.floor(Math.min(window.lowPct, ...values) - 0.3);
  const highest = Math.ceil(Math.max(window.highPct, ...values) + 0.3);
  return (
    <figure style={{ margin: 0 }} aria-label="Moisture of the wood over time, with the forecast">
      <ResponsiveContainer width="100%" height={400}>
        <ComposedChart data={points} margin={{ top: 20, right: 12, bottom: 4, left: -14 }} accessibilityLayer>
          <defs>
            <pattern
              id="fan-hatch"
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <path d="M0 0V6" stroke="var(--slate)" strokeWidth="1.6" opacity="0.7" />
            </pattern>
          </defs>
          <ReferenceArea
            y1={window.lowPct}
            y2={window.highPct}
            fill="var(--verdigris)"
            fillOpacity={0.14}
            ifOverflow="hidden"
            label={{
              value: `gate ${window.lowPct.toFixed(1)}–${window.highPct.toFixed(1)} %`,
              position: 'insideBottomLeft',
              fill: 'var(--verdigris)',
              fontWeight: 700,
              fontSize: 13,
            }}
          />
          <CartesianGrid stroke="var(--fibre)" strokeOpacity={0.6} />
          <XAxis
            dataKey="atMs"
            type="number"
            scale="time"
            domain={[firstMs, foreseen.untilMs]}
            ticks={dayTicks(firstMs, foreseen.untilMs)}
            tickFormatter={(ms: number) => sayDayOf(ms, zone)}
            stroke="var(--umber)"
            tickLine={false}
            // The lowest number may stand right at the corner: the first day stays clear of it.
            tickMargin={9}
          />
          <YAxis
            type="number"
            domain={[lowest, highest]}
            ticks={wholeTicks(lowest, highest)}
            stroke="var(--umber)"
            tickLine={false}
            axisLine={false}
            tickFormatter={(value: number) => `${value} %`}
          />
          <Area
            dataKey="fan"
            fill="url(#fan-hatch)"
            stroke="var(--slate)"
            strokeOpacity={0.5}
            isAnimationActive={false}
            connectNulls
            type="monotone"
          />
          <Line
            dataKey="emc"
            stroke="var(--shellac)"
            strokeWidth={1.5}
            dot={false}
            isAnimationActive={false}
            connectNulls
          />
          <Line
            dataKey="fitted"
            stroke="var(--ebony)"
            strokeWidth={2.2}
            dot={false}
            isAnimationActive={false}
            connectNulls
            type="monotone"
          />
          <Line
            dataKey="ahead"
            stroke="var(--slate)"
            strokeWidth={2.2}
            strokeDasharray="6 4"
            dot={false}
            isAnimationActive={false}
            connectNulls
            type="monotone"
          />
          {MARKS.filter(({ of }) => marks[of].length > 0).map(({ of, shape }) => (
            <Scatter key={of} data={marks[of]} dataKey="mcPct" isAnimationActive={false} shape={shape} />
          ))}
          <ReferenceLine
            x={nowMs}
            stroke="var(--ebony)"
            strokeWidth={1.5}
            label={{ value: 'now', position: 'top', fill: 'var(--ebony)', fontWeight: 700 }}
          />
          {readyMs !== null && readyMs < foreseen.untilMs && (
            <ReferenceLine
              x={readyMs}
              stroke="var(--verdigris)"
              strokeDasharray="4 3"
              strokeWidth={1.8}
              label={{ value: 'ready', position: 'top', fill: 'var(--verdigris)', fontWeight: 700 }}
            />
          )}
        </ComposedChart>
      </ResponsiveContainer>
      <Typography
        component="figcaption"
        color="textSecondary"
        sx={{ display: 'flex', flexWrap: 'wrap', gap: '16px' }}
      >
        <span>◯ a board as read, corrected</span>
        {drying.readings.some(({ depth }) => depth === 'core') && <span>● its core</span>}
        {drying.setAside.length > 0 && (
          <span style={{ color: 'var(--oxblood)' }}>✕ set aside until it is read again</span>
        )}
        <span style={{ color: 'var(--ebony)' }}>━ fitted</span>
        <span style={{ color: 'var(--slate)' }}>╍ forecast, with its 90 % fan</span>
        <span style={{ color: 'var(--shellacText)' }}>━ where {drying.room} would take it (its EMC)</span>
      </Typography>
    </figure>
  );
}

interface Mark {
  cx?: number;
  cy?: number;
}

const ring = ({ cx, cy }: Mark) => (
  <circle cx={cx} cy={cy} r={3.6} fill="none" stroke="var(--ebony)" strokeWidth={1.3} />
);
const dot = ({ cx, cy }: Mark) => <circle cx={cx} cy={cy} r={3.2} fill="var(--ebony)" />;
const cross = ({ cx = 0, cy = 0 }: Mark) => (
  <path
    d={`M${cx - 4},${cy - 4}l8,8m0,-8l-8,8`}
    stroke="var(--oxblood)"
    strokeWidth={1.6}
    aria-label="set aside"
  />
);

/** A scatter without points of its own would take the chart's. */
const MARKS = [
  { of: 'shell', shape: ring },
  { of: 'core', shape: dot },
  { of: 'aside', shape: cross },
] as const;

function marksOf(
  { readings, setAside, nowMs }: Drying,
  { untilMs }: Foreseen,
  firstMs: number,
): Record<'shell' | 'core' | 'aside', Reading[]> {
  const placed = readings.map(({ atMs, correctedPct, depth }, i) => {
    const aside = ((i % 5) - 2) * JITTER * (untilMs - firstMs) * 0.5;
    return { depth, atMs: Math.min(nowMs, atMs + aside), mcPct: correctedPct };
  });
  return {
    shell: placed.filter(({ depth }) => depth === 'shell'),
    core: placed.filter(({ depth }) => depth === 'core'),
    aside: setAside.map(({ atMs, correctedPct }) => ({ atMs, mcPct: correctedPct })),
  };
}

function pointsOf(drying: Drying, foreseen: Foreseen, firstMs: number): Point[] {
  const shown = drying.climate.filter(({ atMs }) => atMs >= firstMs && atMs <= drying.nowMs);
  const every = Math.max(1, Math.ceil(shown.length / EMC_POINTS));
  return [
    ...foreseen.curve.map(({ atMs, mcPct }): Point => ({ atMs, fitted: mcPct })),
    ...foreseen.fan.map(({ atMs, median, low90, high90 }): Point => ({
      atMs,
      ahead: median,
      fan: [low90, high90],
    })),
    ...shown
      .filter((_, i) => i % every === 0)
      .map(({ atMs, temperatureC, relativeHumidityPct }): Point => ({
        atMs,
        emc: loggedAirEmcPct({ temperatureC, relativeHumidityPct }),
      })),
  ].sort((a, b) => a.atMs - b.atMs);
}

/** Whole percents, every second one where there are many. */
function wholeTicks(low: number, high: number): number[] {
  const step = high - low > 9 ? Math.ceil((high - low) / 9) : 1;
  return Array.from({ length: Math.floor((high - low) / step) + 1 }, (_, i) => low + i * step);
}

/** About eight ticks, on whole days. */
function dayTicks(fromMs: number, toMs: number): number[] {
  const days = Math.max(1, Math.ceil((toMs - fromMs) / DAY_MS / 8));
  const first = Math.ceil(fromMs / DAY_MS) * DAY_MS;
  return Array.from({ length: 12 }, (_, i) => first + i * days * DAY_MS).filter((ms) => ms < toMs);
}
