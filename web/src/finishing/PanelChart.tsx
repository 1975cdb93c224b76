import { Typography } from '@mui/material';
import {
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
import type { Panel } from './queries.ts';

const POINTS = 80;
const MOST_TICKS = 8;
const LEAST_HOURS = 24;
const HOUR_MS = 3_600_000;

/** Weighings as rings, the fitted curve through them, its limit, and when 2 % of the solvent is left. */
export function PanelChart({ panel, zone }: { panel: Panel; zone: string }) {
  const { fit, weighings } = panel;
  const last = Math.max(LEAST_HOURS, (weighings.at(-1)?.hours ?? 0) * 1.1, fit ? fit.high90 * 1.05 : 0);
  const everyHours = 24 * Math.max(1, Math.ceil(last / 24 / MOST_TICKS));
  const ticks = Array.from({ length: Math.floor(last / everyHours) + 1 }, (_, i) => i * everyHours);
  const curve = fit
    ? Array.from({ length: POINTS + 1 }, (_, i) => {
        const hours = (last * i) / POINTS;
        return { hours, fitted: fit.limitGrams + fit.solventGrams * Math.exp(-hours / fit.tauHours) };
      })
    : [];
  const data = [...curve, ...weighings.map(({ hours, grams }) => ({ hours, grams }))].sort(
    (a, b) => a.hours - b.hours,
  );
  const grams = weighings.map((one) => one.grams);
  const low = Math.min(...grams, fit?.limitGrams ?? Infinity);
  const high = Math.max(...grams, fit ? fit.limitGrams + fit.solventGrams : -Infinity);
  const room = Math.max(0.2, (high - low) * 0.08);
  return (
    <figure style={{ margin: 0 }} aria-label={`Weight of ${panel.code} over time`}>
      <Typography component="figcaption" variant="inherit" color="textSecondary">
        Weight falls as solvent leaves; cured when 2 % of it is left
        {fit ? ', the band says how sure that is' : ''}.
      </Typography>
      <ResponsiveContainer width="100%" height={270}>
        <ComposedChart data={data} margin={{ top: 16, right: 14, bottom: 4, left: -6 }} accessibilityLayer>
          <CartesianGrid stroke="var(--fibre)" strokeDasharray="2 3" />
          <XAxis
            dataKey="hours"
            type="number"
            domain={[0, last]}
            ticks={ticks}
            tickFormatter={(hours: number) => sayDayOf(panel.sprayedMs + hours * HOUR_MS, zone)}
            stroke="var(--umber)"
            fontSize={12}
          />
          <YAxis
            domain={[low - room, high + room]}
            tickFormatter={(value: number) => value.toFixed(1)}
            unit=" g"
            stroke="var(--umber)"
            fontSize={12}
            width={74}
          />
          {fit && (
            <ReferenceArea
              x1={fit.low90}
              x2={Math.min(last, fit.high90)}
              fill="var(--verdigris)"
              fillOpacity={0.14}
            />
          )}
          {fit && (
            <ReferenceLine
              x={fit.curedAtHours}
              stroke="var(--verdigris)"
              label={{ value: 'cured', position: 'insideTopRight', fill: 'var(--verdigris)', fontSize: 12 }}
            />
          )}
          {fit && (
            <ReferenceLine
              y={fit.limitGrams}
              stroke="var(--umber)"
              strokeDasharray="4 3"
              label={{
                value: `tends to ${fit.limitGrams.toFixed(2)} g`,
                position: 'insideBottomLeft',
                fill: 'var(--umber)',
                fontSize: 12,
              }}
            />
          )}
          <Line
            dataKey="fitted"
            stroke="var(--slate)"
            dot={false}
            strokeWidth={1.8}
            isAnimationActive={false}
            connectNulls
          />
          <Scatter
            dataKey="grams"
            fill="none"
            stroke="var(--ebony)"
            strokeWidth={1.6}
            isAnimationActive={false}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </figure>
  );
}
