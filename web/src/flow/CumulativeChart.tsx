import { csvOf, STAGES, type Stage } from '@ample-crane/core';
import {
  Button,
  Skeleton,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { Area, AreaChart, CartesianGrid, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { Panel, Row, Sideways } from '../parts/index.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { sayDay } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { COUNT_AXIS, DAY_AXIS, DAY_TIP } from './chart.ts';
import { InHousePanel } from './InHousePanel.tsx';
import { useCumulative } from './queries.ts';

type Band = Stage | 'left';
/** From below: what left, then what is furthest on. */
const BANDS: readonly Band[] = ['left', ...STAGES.toReversed()];
const FILLS: Record<Band, string> = {
  ...{
    left: 'var(--bone)',
    assembly: 'var(--ebony)',
    finishing: 'var(--oxblood)',
    fitting: 'var(--shellac)',
  },
  ...{ machining: 'var(--umber)', wood: 'var(--maple)' },
};
const nameOf = (band: Band): string => (band === 'left' ? 'left the house' : STAGE_NAMES[band]);

type Bands = Record<Band, number> & { day: string };

/** What had come to each stage by each day: the height of a band is what is in it, its breadth how long things stay there. */
export function CumulativeChart({ days }: { days: number }) {
  const { data } = useCumulative(days);
  const { asked, ask } = useInAddress();
  const [table, setTable] = useState(false);
  // As high as it will be: what stands below does not move when it comes.
  if (!data)
    return (
      <Panel label="Cumulative flow">
        <Skeleton variant="rectangular" height={350} />
      </Panel>
    );
  const rows = data.days.map((day, i) => {
    const reached = data.reached[i] ?? [];
    const at = (stage: number): number => reached[stage] ?? 0;
    const bands = STAGES.map((stage, index) => [stage, at(index) - at(index + 1)] as const);
    return { day, left: at(STAGES.length), ...Object.fromEntries(bands) } as Bands;
  });
  const last = rows.at(-1);
  const first = rows[0];
  const inHouse = (row: typeof last): number => STAGES.reduce((sum, stage) => sum + (row?.[stage] ?? 0), 0);
  const words = `${last?.left ?? 0} instruments left in that time; ${inHouse(first)} were in the house on its first day, ${inHouse(last)} are now.`;
  const open = (day: string): void => ask('day', day);
  return (
    <>
      <Panel label="Cumulative flow">
        <Row style={{ justifyContent: 'space-between' }}>
          <Typography variant="h2">Cumulative flow</Typography>
          <Row>
            <Button onClick={() => setTable(!table)}>{table ? 'Chart' : 'Table'}</Button>
            <Button
              component="a"
              href={`data:text/csv;charset=utf-8,${encodeURIComponent(bandsCsv(rows))}`}
              download="cumulative-flow.csv"
            >
              CSV
            </Button>
          </Row>
        </Row>
        <Typography sx={{ fontWeight: 700, marginBottom: '6px' }}>{words}</Typography>
        {table ? (
          <BandsTable rows={rows} onDay={open} />
        ) : (
          <figure style={{ margin: 0 }} aria-label={words}>
            <ResponsiveContainer width="100%" height={260}>
              <AreaChart
                data={rows}
                margin={{ top: 8, right: 16, bottom: 4, left: 0 }}
                accessibilityLayer
                onClick={({ activeLabel }) => {
                  if (typeof activeLabel === 'string') open(activeLabel);
                }}
                style={{ cursor: 'pointer' }}
              >
                <CartesianGrid vertical={false} stroke="var(--fibre)" />
                <XAxis {...DAY_AXIS} />
                <YAxis {...COUNT_AXIS} />
                <Tooltip {...DAY_TIP} />
                {BANDS.map((band) => (
                  <Area
                    key={band}
                    dataKey={band}
                    name={nameOf(band)}
                    stackId="flow"
                    stroke="var(--paper)"
                    fill={FILLS[band]}
                    fillOpacity={1}
                    isAnimationActive={false}
                  />
                ))}
              </AreaChart>
            </ResponsiveContainer>
            <Typography component="figcaption" variant="inherit" color="textSecondary">
              Instruments, and bodies that become one, that had come to each stage by the end of each day:
              from below {BANDS.map(nameOf).join(', ')}. A band that widens is filling. A touch on a day shows
              the racks behind it, as the table does by keyboard.
            </Typography>
          </figure>
        )}
      </Panel>
      {data.days.includes(asked('day')) && (
        <InHousePanel day={asked('day')} days={days} onClose={() => ask('day', '')} />
      )}
    </>
  );
}

/** What is furthest behind first, as the stages are read. */
const COLUMNS: readonly Band[] = BANDS.toReversed();

const bandsCsv = (rows: readonly Bands[]): string =>
  csvOf(
    ['day', ...COLUMNS],
    rows.map((row) => [row.day, ...COLUMNS.map((band) => row[band])]),
  );

function BandsTable({ rows, onDay }: { rows: readonly Bands[]; onDay: (day: string) => void }) {
  return (
    <Sideways>
      <Table size="small" aria-label="In each stage at the end of each day">
        <TableHead>
          <TableRow>
            <TableCell scope="col">day</TableCell>
            {COLUMNS.map((band) => (
              <TableCell key={band} scope="col" align="right">
                {nameOf(band)}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((row) => (
            <TableRow key={row.day}>
              <TableCell>
                <Button size="small" onClick={() => onDay(row.day)}>
                  {sayDay(row.day)}
                </Button>
              </TableCell>
              {COLUMNS.map((band) => (
                <TableCell key={band} align="right">
                  {row[band]}
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Sideways>
  );
}
