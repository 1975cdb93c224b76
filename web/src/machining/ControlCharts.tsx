import { Typography } from '@mui/material';
import { limitsWords, type Limits } from '@ample-crane/core';
import {
  CartesianGrid,
  ComposedChart,
  Line,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  XAxis,
  YAxis,
} from 'recharts';
import { sayDayOf } from '../shared/time.ts';
import type { ChartRead } from './chart-data.ts';
import type { Chart } from './queries.ts';

interface Dot {
  cx?: number;
  /** Null where there is nothing to draw. */
  cy?: number | null;
  index?: number;
}

/** Points over their limits, the ranges under them; the spec limits as a band, points that break a rule ringed. */
export function ControlCharts({ data, read }: { data: Chart; read: ChartRead }) {
  const { chart, looks, hits, rangeHits, outside } = read;
  if (!chart) return null;
  const { check, zone } = data;
  const broken = new Set([...hits, ...outside].map(({ at }) => at));
  const wild = new Set(rangeHits.map(({ at }) => at));
  const rows = looks.map((look, i) => ({
    n: i + 1,
    point: chart.points[i],
    range: chart.ranges[i] ?? undefined,
    atMs: look.atMs,
  }));
  const trend = read.drift ? trendLine(read) : [];
  const values = [...chart.points, chart.limits.lower, chart.limits.upper];
  const spec = [check.lower, check.upper].filter((limit) => limit !== null);
  const all = [...values, ...spec];
  const pad = (Math.max(...all) - Math.min(...all)) * 0.06;
  const single = chart.kind === 'individuals';
  const dated = (n: number): string => {
    const atMs = rows[n - 1]?.atMs;
    return atMs === undefined ? '' : sayDayOf(atMs, zone);
  };
  return (
    <figure style={{ margin: 0 }}>
      <Typography component="figcaption" variant="inherit" color="textSecondary">
        {single ? 'Single pieces' : `Means of each look, usually of ${chart.subgroupSize} pieces`}, with 3 σ
        limits from the first {chart.baseline} looks; the band is the spec, {limitsWords(check)}; ringed
        points break a rule or lie outside it. A look with fewer pieces has wider limits than those drawn.
      </Typography>
      <ResponsiveContainer width="100%" height={300}>
        <ComposedChart data={rows} margin={{ top: 16, right: 116, bottom: 0, left: 6 }} accessibilityLayer>
          {check.lower !== null && check.upper !== null && (
            <ReferenceArea
              y1={check.lower}
              y2={check.upper}
              fill="var(--verdigris)"
              fillOpacity={0.1}
              ifOverflow="hidden"
            />
          )}
          <CartesianGrid stroke="var(--fibre)" strokeOpacity={0.5} vertical={false} />
          {axisOf(rows.length, dated)}
          <YAxis
            type="number"
            domain={[Math.min(...all) - pad, Math.max(...all) + pad]}
            tickFormatter={(value: number) => `${value.toFixed(2)} ${check.unit}`}
            stroke="var(--umber)"
            tickLine={false}
            width={80}
          />
          {limitLines(chart.limits, check.unit)}
          <Line
            dataKey="point"
            stroke="var(--ebony)"
            strokeWidth={1.4}
            isAnimationActive={false}
            dot={(dot: Dot) => <Mark key={dot.index} {...dot} broken={broken.has(dot.index ?? -1)} />}
          />
          {trend.length === 2 && (
            <ReferenceLine
              segment={[
                { x: trend[0]?.n ?? 0, y: trend[0]?.value ?? 0 },
                { x: trend[1]?.n ?? 0, y: trend[1]?.value ?? 0 },
              ]}
              stroke="var(--oxblood)"
              strokeWidth={2}
              strokeDasharray="6 4"
            />
          )}
        </ComposedChart>
      </ResponsiveContainer>
      <Typography component="figcaption" variant="inherit" color="textSecondary">
        {single ? 'Moving ranges of two' : 'Ranges of each sample'}
      </Typography>
      <ResponsiveContainer width="100%" height={150}>
        <ComposedChart data={rows} margin={{ top: 10, right: 116, bottom: 0, left: 6 }} accessibilityLayer>
          <CartesianGrid stroke="var(--fibre)" strokeOpacity={0.5} vertical={false} />
          {axisOf(rows.length, dated)}
          <YAxis
            type="number"
            domain={[0, (max: number) => Math.max(max, chart.rangeLimits.upper) * 1.05]}
            tickFormatter={(value: number) => `${value.toFixed(2)} ${check.unit}`}
            stroke="var(--umber)"
            tickLine={false}
            width={80}
          />
          {limitLines(chart.rangeLimits, check.unit)}
          <Line
            dataKey="range"
            stroke="var(--ebony)"
            strokeWidth={1.2}
            isAnimationActive={false}
            dot={(dot: Dot) => <Mark key={dot.index} {...dot} broken={wild.has(dot.index ?? -1)} />}
          />
        </ComposedChart>
      </ResponsiveContainer>
    </figure>
  );
}

/** Looks one after the other, named by their days. */
const axisOf = (count: number, dated: (n: number) => string) => (
  <XAxis
    dataKey="n"
    type="number"
    domain={[1, Math.max(2, count)]}
    tickFormatter={dated}
    stroke="var(--umber)"
    tickLine={false}
    tickMargin={8}
    height={36}
    minTickGap={40}
  />
);

const limitLines = ({ lower, centre, upper }: Limits, unit: string) => [
  <ReferenceLine
    key="upper"
    y={upper}
    stroke="var(--slate)"
    strokeDasharray="5 4"
    label={named(`upper ${upper.toFixed(3)} ${unit}`)}
  />,
  <ReferenceLine
    key="centre"
    y={centre}
    stroke="var(--slate)"
    label={named(`mean ${centre.toFixed(3)} ${unit}`)}
  />,
  <ReferenceLine
    key="lower"
    y={lower}
    stroke="var(--slate)"
    strokeDasharray="5 4"
    label={named(`lower ${lower.toFixed(3)} ${unit}`)}
  />,
];

const named = (value: string) => ({ value, position: 'right' as const, fill: 'var(--slate)', fontSize: 12 });

/** The trend of the last looks, drawn through the points it rests on. */
function trendLine({ drift, looks }: ChartRead): { n: number; value: number }[] {
  if (!drift) return [];
  const over = Math.min(30, looks.length) - 1;
  return [
    { n: looks.length - over, value: drift.now - drift.slope * over },
    { n: looks.length, value: drift.now },
  ];
}

function Mark({ cx = 0, cy, broken }: Dot & { broken: boolean }) {
  if (cy == null) return <g />;
  if (!broken) return <circle cx={cx} cy={cy} r={2.6} fill="var(--ebony)" />;
  return (
    <g>
      <circle cx={cx} cy={cy} r={6.5} fill="none" stroke="var(--oxblood)" strokeWidth={2} />
      <circle cx={cx} cy={cy} r={2.6} fill="var(--oxblood)" />
    </g>
  );
}
