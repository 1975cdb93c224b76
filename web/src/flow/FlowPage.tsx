import { useMemo, useState } from 'react';
import {
  Bar,
  BarChart,
  CartesianGrid,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import {
  Button,
  MenuItem,
  Stack,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  TextField,
  Typography,
} from '@mui/material';
import { Link } from 'react-router';
import { useConstraint, useFlow, type Flow } from '../api/queries.ts';
import { FlowNav } from '../shared/FlowNav.tsx';
import { sayDate, sayDay } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { ColumnHeads, Columns, EmptyState, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { LeftPanel } from './LeftPanel.tsx';
import { COUNT_AXIS, DAY_AXIS, DAY_TIP } from './chart.ts';
import { paceSentence, peopleOrPlace } from './words.ts';
import { useWindow, WindowChoice } from './WindowChoice.tsx';
import { stationDays, throughputCsv, type StationDays } from './throughput.ts';

export default function FlowPage() {
  const days = useWindow();
  const { data: flow, error } = useFlow(days);
  if (!flow) return <Opening error={error} words="Counting…" />;
  return <FlowView flow={flow} days={days} />;
}

/** Good pieces a day by station, and the evidence for the constraint. */
function FlowView({ flow, days }: { flow: Flow; days: number }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [table, setTable] = useState(false);
  const { asked, ask } = useInAddress();
  const rows = useMemo(() => stationDays(flow), [flow]);
  const shown =
    rows.find((row) => row.station.code === (chosen ?? flow.constraint?.station)) ??
    rows.find((row) => row.total > 0) ??
    rows[0];
  if (!shown) return <EmptyState>No station is set up.</EmptyState>;
  return (
    <Page
      title="Flow"
      tabs={
        <>
          <FlowNav />
          <Quiet>
            good pieces a working day, {sayDay(flow.fromDay)} to {sayDay(flow.toDay)}
          </Quiet>
        </>
      }
    >
      <Columns>
        <Stack>
          <Pace days={days} />
          <Panel>
            <Row style={{ justifyContent: 'space-between' }}>
              <Row>
                <TextField
                  select
                  label="Station"
                  value={shown.station.code}
                  onChange={(event) => setChosen(event.target.value)}
                  sx={{ width: 180 }}
                >
                  {rows.map(({ station }) => (
                    <MenuItem key={station.code} value={station.code}>
                      {station.name}
                    </MenuItem>
                  ))}
                </TextField>
                <WindowChoice />
              </Row>
              <Row>
                <Button onClick={() => setTable(!table)}>{table ? 'Chart' : 'Table'}</Button>
                <Button
                  component="a"
                  href={`data:text/csv;charset=utf-8,${encodeURIComponent(throughputCsv(rows))}`}
                  download="throughput.csv"
                >
                  CSV
                </Button>
              </Row>
            </Row>
            <Typography style={{ fontWeight: 700, margin: '12px 0 4px' }}>
              {throughputSentence(shown)}
            </Typography>
            {table ? (
              <DaysTable row={shown} onDay={(day) => ask('day', day)} />
            ) : (
              <DaysChart row={shown} onDay={(day) => ask('day', day)} />
            )}
          </Panel>
          {flow.days.includes(asked('day')) && (
            <LeftPanel
              station={shown.station}
              day={asked('day')}
              days={days}
              onClose={() => ask('day', '')}
            />
          )}
        </Stack>
        <AllStations rows={rows} onChoose={setChosen} chosen={shown.station.code} />
      </Columns>
    </Page>
  );
}

function throughputSentence({ station, mean, need, days, total, scrapped, reworked }: StationDays): string {
  const lost = scrapped + reworked > 0 ? `; ${scrapped} scrapped and ${reworked} sent back` : '';
  return `${station.name}: ${total} good ${total === 1 ? 'piece' : 'pieces'} left it in the last ${days.length - 1} working days and today so far, ${mean.toFixed(1)} a full day${needWords(mean, need)}${lost}.`;
}

/** Whether that is as many as must leave in the next weeks, so that what is open can be in time. */
function needWords(mean: number, need: number): string {
  if (need === 0) return '';
  const short = need - mean;
  return `, ${need.toFixed(1)} must in the next four weeks${short > 0.05 ? `, ${short.toFixed(1)} more` : ''}`;
}

/** The name of the upper of two lines stands above it, of the lower one below. */
const labelAt = (own: number, other: number): 'insideBottomRight' | 'insideTopRight' =>
  own >= other ? 'insideBottomRight' : 'insideTopRight';

function DaysChart({ row, onDay }: { row: StationDays; onDay: (day: string) => void }) {
  return (
    <figure style={{ margin: 0 }} aria-label={throughputSentence(row)}>
      <ResponsiveContainer width="100%" height={280}>
        <BarChart
          data={row.days}
          margin={{ top: 16, right: 16, bottom: 4, left: 0 }}
          accessibilityLayer
          onClick={({ activeLabel }) => {
            if (typeof activeLabel === 'string') onDay(activeLabel);
          }}
          style={{ cursor: 'pointer' }}
        >
          <CartesianGrid vertical={false} stroke="var(--fibre)" />
          <XAxis {...DAY_AXIS} />
          <YAxis
            {...COUNT_AXIS}
            label={{ value: 'pieces', angle: -90, position: 'insideLeft', fill: 'var(--umber)' }}
          />
          <Tooltip cursor={{ fill: 'var(--bone)' }} {...DAY_TIP} />
          <ReferenceLine
            y={row.mean}
            stroke="var(--ebony)"
            strokeDasharray="5 4"
            label={{
              value: `mean ${row.mean.toFixed(1)}`,
              position: labelAt(row.mean, row.need),
              fill: 'var(--ebony)',
            }}
          />
          {row.need > 0 && (
            <ReferenceLine
              y={row.need}
              ifOverflow="extendDomain"
              stroke="var(--slate)"
              label={{
                value: `needed ${row.need.toFixed(1)}`,
                position: labelAt(row.need, row.mean),
                fill: 'var(--slate)',
              }}
            />
          )}
          <Bar
            dataKey="good"
            name="good"
            fill="var(--maple)"
            stroke="var(--shellac)"
            isAnimationActive={false}
          />
        </BarChart>
      </ResponsiveContainer>
      <Typography component="figcaption" variant="inherit" color="textSecondary">
        Good pieces that left {row.station.name} each working day; the last bar is today, not over yet. A
        touch on a day shows the racks behind it, as the table does by keyboard.
      </Typography>
    </figure>
  );
}

function DaysTable({ row, onDay }: { row: StationDays; onDay: (day: string) => void }) {
  return (
    <Table>
      <ColumnHeads names={['day', 'good', 'scrapped', 'sent back']} />
      <TableBody>
        {row.days.map((day) => (
          <TableRow key={day.day}>
            <TableCell>
              <Button size="small" onClick={() => onDay(day.day)}>
                {sayDay(day.day)}
              </Button>
            </TableCell>
            <TableCell>{day.good}</TableCell>
            <TableCell>{day.scrapped}</TableCell>
            <TableCell>{day.reworked}</TableCell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}

/** The same verdict as on its own page: by three signs, over the same window. */
function Pace({ days }: { days: number }) {
  const { data } = useConstraint(days);
  if (!data) return <Verdict tone="hold" sentence="Reading in the log what paces the house…" />;
  const { sinceMs, zone } = data;
  return (
    <Verdict {...paceSentence(data, sinceMs === null ? null : sayDate(sinceMs, zone))}>
      <Typography>{peopleOrPlace(data)}</Typography>
      <Typography color="textSecondary">
        <Link to={`/flow/constraint?days=${days}`}>See the three signs</Link>
      </Typography>
    </Verdict>
  );
}

function AllStations({
  rows,
  chosen,
  onChoose,
}: {
  rows: StationDays[];
  chosen: string;
  onChoose: (code: string) => void;
}) {
  return (
    <Panel label="All stations">
      <Typography variant="h2">All stations</Typography>
      <Table>
        <TableHead>
          <TableRow>
            <TableCell scope="col">station</TableCell>
            <TableCell scope="col" align="right">
              good a day
            </TableCell>
            <TableCell scope="col" align="right">
              days waiting
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map(({ station, mean }) => (
            <TableRow key={station.code}>
              <TableCell>
                <Button
                  size="small"
                  variant={station.code === chosen ? 'outlined' : 'text'}
                  aria-pressed={station.code === chosen}
                  onClick={() => onChoose(station.code)}
                >
                  {station.name}
                </Button>
              </TableCell>
              <TableCell align="right">{mean.toFixed(1)}</TableCell>
              <TableCell align="right">{station.days.toFixed(1)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Panel>
  );
}
