import { count, DAY_MS, daysLate, isLike, type Stage } from '@ample-crane/core';
import { Box } from '@mui/material';
import { Link } from 'react-router';
import { useFloor, usePeople, useRackList, type RackLine } from '../api/queries.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { isoDate, sayDate, useFactoryNow } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { RackFilters, rackQuestion } from '../fields/RackFilters.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import type { Column } from '../tables/column.ts';
import { IS, waitsFor } from './words.ts';

/** A rack with what is said of it. */
interface Told extends RackLine {
  /** Of the hindmost. */
  stage: Stage | undefined;
  /** Of all its pieces, as the rope counts them. */
  stages: readonly Stage[];
  stationName: string;
  late: number | null;
  waits: string;
  names: string;
}

/** Every open rack: where it is, by when it is due, how late, what it waits for and how old it is. */
export default function RacksPage() {
  const { data: lines, error } = useRackList();
  const { data: floor, dataUpdatedAt } = useFloor();
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  const { nameOf } = usePeople();
  const address = useInAddress();
  const question = rackQuestion(address);
  const stage = address.asked('stage');
  if (!lines || !floor) return <Opening error={error} />;
  const { zone, stations } = floor;
  const all = lines.map((line): Told => {
    const station = stations.find(({ code }) => code === line.station);
    return {
      ...line,
      stage: station?.stage,
      stages: stations.flatMap(({ code, stage }) => (line.stations.includes(code) ? [stage] : [])),
      stationName: station?.name ?? line.station,
      late: daysLate(line),
      waits: waitsFor(line, zone, nowMs),
      names: line.people.map(nameOf).join(', '),
    };
  });
  const shown = all.filter(
    (rack) => isLike(rack, question) && (stage === '' || rack.stages.some((one) => one === stage)),
  );
  return (
    <Page title="All racks" tabs={<Quiet>where the pieces stand that are furthest behind</Quiet>}>
      <Box
        sx={{ padding: '6px 16px 16px', display: 'grid', gap: '12px', gridTemplateColumns: 'minmax(0, 1fr)' }}
      >
        <Verdict {...verdictOf(shown)} />
        <Panel label="Racks">
          <Row style={{ marginBottom: 10 }}>
            <RackFilters address={address} />
          </Row>
          <DataTable
            name="racks"
            label="All racks"
            noun="rack"
            rows={shown}
            rowKey={({ batch }) => batch}
            columns={columnsOf(zone, nowMs)}
            sortedBy="due"
            attention={({ late, over }) => late !== null || over.length > 0}
            empty={all.length === 0 ? 'No rack is open.' : 'No rack is like that.'}
          />
        </Panel>
      </Box>
    </Page>
  );
}

function verdictOf(racks: readonly Told[]): { tone: 'good' | 'bad' | 'wait'; sentence: string } {
  const late = racks.filter((rack) => rack.late !== null);
  const over = racks.filter((rack) => rack.over.length > 0);
  const may = over.length > 0 ? ` ${count(over.length, 'rack')} may leave a hold now.` : '';
  if (racks.length === 0) return { tone: 'good', sentence: 'No rack is like that.' };
  if (late.length === 0)
    return { tone: 'good', sentence: `${count(racks.length, 'rack')}, all in time so far.${may}` };
  const worst = late.reduce((a, b) => ((b.late ?? 0) > (a.late ?? 0) ? b : a));
  return {
    tone: 'bad',
    sentence: `${late.length} of ${count(racks.length, 'rack')} will be late, ${worst.batch} most: ${(worst.late ?? 0).toFixed(1)} days.${may}`,
  };
}

const columnsOf = (zone: string, nowMs: number): Column<Told>[] => [
  {
    key: 'rack',
    head: 'rack',
    of: ({ batch }) => batch,
    show: ({ batch }) => (
      <Link to={`/batch/${batch}`} data-rack={batch} className="condensed codelink">
        {batch}
      </Link>
    ),
    least: 76,
    share: 0.6,
  },
  { key: 'model', head: 'model', of: ({ model }) => model, choice: true },
  { key: 'kind', head: 'kind', of: ({ kind }) => kind, choice: true, hidden: true },
  { key: 'pieces', head: 'pieces', of: ({ pieces }) => pieces, digits: 0, sum: true, share: 0.5, least: 66 },
  {
    key: 'place',
    head: 'place',
    of: ({ stationName }) => stationName,
    show: ({ stationName, operationName, here, pieces }) => (
      <Box>
        {stationName}
        <Quiet block>
          {operationName}
          {here < pieces && `, ${here} of ${pieces}`}
        </Quiet>
      </Box>
    ),
    choice: true,
    share: 1.2,
    least: 130,
  },
  {
    key: 'stage',
    head: 'stage',
    of: ({ stage }) => (stage ? STAGE_NAMES[stage] : null),
    choice: true,
    hidden: true,
  },
  { key: 'is', head: 'is', of: ({ standing }) => IS[standing], choice: true, least: 74, share: 0.7 },
  { key: 'waits', head: 'waits for', of: ({ waits }) => waits, share: 1.7, least: 160 },
  { key: 'people', head: 'in the hands of', of: ({ names }) => names || null, share: 1.1 },
  {
    key: 'due',
    head: 'due',
    of: ({ dueMs }) => isoDate(dueMs, zone),
    show: ({ dueMs }) => sayDate(dueMs, zone),
    least: 90,
    share: 0.8,
  },
  {
    key: 'late',
    head: 'days late',
    of: ({ late }) => late,
    show: ({ late }) =>
      late !== null && (
        <Box component="strong" sx={{ color: 'error.main' }}>
          {late.toFixed(1)}
        </Box>
      ),
    digits: 1,
    share: 0.6,
  },
  {
    key: 'there',
    head: 'there, days',
    of: ({ sinceMs }) => (nowMs - sinceMs) / DAY_MS,
    digits: 1,
    share: 0.6,
  },
  { key: 'age', head: 'age, days', of: ({ openedMs }) => (nowMs - openedMs) / DAY_MS, digits: 1, share: 0.6 },
];
