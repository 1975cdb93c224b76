import { count, DAY_MS, STAGES, type Stage } from '@ample-crane/core';
import { Box, Checkbox, FormControlLabel } from '@mui/material';
import { Link, useSearchParams } from 'react-router';
import { useFloor, useRackList, useSetup, type RackLine } from '../api/queries.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { isoDate, sayDate, useFactoryNow } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { asOptions, Choice } from '../fields/Choice.tsx';
import { Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import type { Column } from '../tables/column.ts';
import { daysLate, IS, waitsFor } from './words.ts';

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
  const { data: setup } = useSetup();
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  const [asked, setAsked] = useSearchParams();
  if (!lines || !floor) return <Opening error={error} />;
  const { zone, stations } = floor;
  const nameOf = (code: string): string => setup?.people.find((one) => one.code === code)?.name ?? code;
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
  const wanted = (key: string): string => asked.get(key) ?? '';
  const ask = (key: string, value: string): void =>
    setAsked(
      (before) => {
        const next = new URLSearchParams(before);
        if (value === '') next.delete(key);
        else next.set(key, value);
        return next;
      },
      { replace: true },
    );
  const shown = all.filter(
    (rack) =>
      (wanted('stage') === '' || rack.stages.some((stage) => stage === wanted('stage'))) &&
      (wanted('model') === '' || rack.model === wanted('model')) &&
      (wanted('person') === '' || rack.people.includes(wanted('person'))) &&
      (wanted('late') === '' || rack.late !== null),
  );
  const models = [...new Set(all.map(({ model }) => model))].toSorted();
  const people = [...new Set(all.flatMap((rack) => rack.people))].toSorted();
  return (
    <Page title="All racks" tabs={<Quiet>where the pieces stand that are furthest behind</Quiet>}>
      <Box
        sx={{ padding: '6px 16px 16px', display: 'grid', gap: '12px', gridTemplateColumns: 'minmax(0, 1fr)' }}
      >
        <Verdict {...verdictOf(shown)} />
        <Panel label="Racks">
          <Row style={{ marginBottom: 10 }}>
            <Choice
              label="Stage"
              value={wanted('stage')}
              onChange={(stage) => ask('stage', stage)}
              options={STAGES.map((stage) => ({ value: stage, words: STAGE_NAMES[stage] }))}
              none="all stages"
              width={150}
            />
            <Choice
              label="Model"
              value={wanted('model')}
              onChange={(model) => ask('model', model)}
              options={asOptions(models)}
              none="all models"
              width={150}
            />
            <Choice
              label="In the hands of"
              value={wanted('person')}
              onChange={(person) => ask('person', person)}
              options={people.map((code) => ({ value: code, words: nameOf(code) }))}
              none="anybody"
              width={170}
            />
            <FormControlLabel
              control={
                <Checkbox
                  checked={wanted('late') !== ''}
                  onChange={(_, on) => ask('late', on ? 'yes' : '')}
                />
              }
              label="late ones only"
            />
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
