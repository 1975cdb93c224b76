import { differenceIn, signIn } from '@ample-crane/core';
import { Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import {
  Area,
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { sayHour } from '../shared/time.ts';
import { useUnits } from '../shared/units.ts';
import { Fold } from '../parts/index.ts';
import type { Booth } from './queries.ts';

interface Point {
  atMs: number;
  logged?: number;
  ahead?: number;
  fan?: [number, number];
  rh?: number;
}

const HOUR_MS = 3_600_000;

/** The margin to the dew point through the day as logged, and on as forecast; what is wanted as a line; damp hours shaded. */
export function BoothChart({
  booth,
  zone,
  nowMs,
  height,
}: {
  booth: Booth;
  zone: string;
  nowMs: number;
  height: number;
}) {
  const units = useUnits();
  // What is drawn is a difference: it has no zero of its own.
  const degrees = (celsius: number): number => round(differenceIn(celsius, '°C', units));
  const points: Point[] = [
    ...booth.logged.map(({ atMs, marginC, relativeHumidityPct }) => ({
      atMs,
      logged: degrees(marginC),
      rh: round(relativeHumidityPct),
    })),
    ...booth.ahead.map(({ atMs, marginC, lowMarginC, highMarginC, relativeHumidityPct }) => ({
      atMs,
      ahead: degrees(marginC),
      fan: [degrees(lowMarginC), degrees(highMarginC)] as [number, number],
      rh: round(relativeHumidityPct),
    })),
  ];
  const first = points[0]?.atMs ?? nowMs;
  const last = points.at(-1)?.atMs ?? nowMs + HOUR_MS;
  const highest = Math.ceil(
    Math.max(6, ...points.map(({ logged, ahead, fan }) => Math.max(logged ?? 0, ahead ?? 0, fan?.[1] ?? 0))) +
      1,
  );
  const lowest = Math.floor(
    Math.min(0, ...points.map(({ logged, ahead, fan }) => Math.min(logged ?? 0, ahead ?? 0, fan?.[0] ?? 0))),
  );
  const shut = [...booth.logged, ...booth.ahead].filter(({ verdict }) => verdict !== 'spray');
  const ticks = Array.from(
    { length: Math.floor((last - first) / (4 * HOUR_MS)) + 1 },
    (_, i) => first + i * 4 * HOUR_MS,
  );
  return (
    <figure
      style={{ margin: 0 }}
      aria-label={`Margin to the dew point in ${booth.name}, through the day and forecast`}
    >
      <Typography component="figcaption" variant="inherit" color="textSecondary">
        Degrees the work is above the dew point; hatched hours are no hours to spray.
      </Typography>
      <ResponsiveContainer width="100%" height={height}>
        <ComposedChart data={points} margin={{ top: 14, right: 10, bottom: 2, left: -22 }} accessibilityLayer>
          <defs>
            <pattern
              id={`shut-${booth.code}`}
              width="7"
              height="7"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(35)"
            >
              <path d="M0 0V7" stroke="var(--oxblood)" strokeWidth="1" opacity="0.55" />
            </pattern>
          </defs>
          <CartesianGrid stroke="var(--fibre)" strokeDasharray="2 3" vertical={false} />
          <XAxis
            dataKey="atMs"
            type="number"
            domain={[first, last]}
            ticks={ticks}
            tickFormatter={(ms: number) => sayHour(ms, zone)}
            stroke="var(--umber)"
            fontSize={12}
          />
          <YAxis
            domain={[lowest, highest]}
            stroke="var(--umber)"
            fontSize={12}
            unit={` ${signIn('°C', units)}`}
            width={64}
          />
          {shut.map(({ atMs }) => (
            <ReferenceArea
              key={atMs}
              x1={atMs}
              x2={Math.min(last, atMs + HOUR_MS)}
              fill={`url(#shut-${booth.code})`}
              fillOpacity={1}
            />
          ))}
          <ReferenceLine
            y={degrees(booth.limits.marginC)}
            stroke="var(--oxblood)"
            strokeDasharray="4 3"
            label={{
              value: `${booth.limits.marginC} °C above it wanted`,
              position: 'insideBottomLeft',
              fill: 'var(--oxblood)',
              fontSize: 12,
            }}
          />
          <ReferenceLine
            x={nowMs}
            stroke="var(--ebony)"
            strokeWidth={1.6}
            label={{ value: 'now', position: 'top', fill: 'var(--ebony)', fontSize: 12 }}
          />
          <Area
            dataKey="fan"
            stroke="none"
            fill="var(--slate)"
            fillOpacity={0.16}
            isAnimationActive={false}
          />
          <Line
            dataKey="logged"
            stroke="var(--ebony)"
            dot={false}
            strokeWidth={1.8}
            isAnimationActive={false}
          />
          <Line
            dataKey="ahead"
            stroke="var(--slate)"
            strokeDasharray="5 3"
            dot={false}
            strokeWidth={1.8}
            isAnimationActive={false}
            label={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
      <Fold name="The hours in numbers">
        <Table>
          <TableHead>
            <TableRow>
              <TableCell scope="col">hour</TableCell>
              <TableCell scope="col" align="right">
                air
              </TableCell>
              <TableCell scope="col" align="right">
                % RH
              </TableCell>
              <TableCell scope="col" align="right">
                dew point
              </TableCell>
              <TableCell scope="col" align="right">
                margin
              </TableCell>
              <TableCell scope="col">verdict</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {[
              ...booth.logged.map((hour) => ({ ...hour, said: '' })),
              ...booth.ahead.map((hour) => ({ ...hour, said: ', forecast' })),
            ].map((hour) => (
              <TableRow key={`${hour.atMs}${hour.said}`}>
                <TableCell>{sayHour(hour.atMs, zone)}</TableCell>
                <TableCell align="right">{hour.temperatureC.toFixed(1)} °C</TableCell>
                <TableCell align="right">{hour.relativeHumidityPct.toFixed(0)}</TableCell>
                <TableCell align="right">{hour.dewC.toFixed(1)} °C</TableCell>
                <TableCell align="right">{hour.marginC.toFixed(1)} °C above</TableCell>
                <TableCell>
                  {hour.verdict}
                  {hour.said}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Fold>
    </figure>
  );
}

const round = (value: number): number => Math.round(10 * value) / 10;
