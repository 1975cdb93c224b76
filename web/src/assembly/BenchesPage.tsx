import { Box, ToggleButton, ToggleButtonGroup } from '@mui/material';
import { Link } from 'react-router';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { isoDate, sayDate, sayTime } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import type { Column } from '../tables/column.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { AssemblyNav } from './AssemblyNav.tsx';
import { useBench, type BenchLine } from './queries.ts';
import { benchSentence, NEXT, placeOf } from './words.ts';

const PLACES = [
  { value: '', words: 'All' },
  { value: 'bench', words: 'Benches' },
  { value: 'shelf', words: 'Settling shelf' },
  { value: 'inspection', words: 'Inspection' },
];

/** What stands on the benches, on the settling shelf and at inspection, instrument by instrument: what wants a hand first. */
export default function BenchesPage() {
  const { data, error } = useBench();
  const address = useInAddress();
  if (!data) return <Opening error={error} />;
  const place = PLACES.some(({ value }) => value === address.asked('place')) ? address.asked('place') : '';
  const shown = data.lines.filter((line) => place === '' || placeOf(line) === place);
  const counts = new Map(
    PLACES.map(({ value }) => [
      value,
      data.lines.filter((line) => value === '' || placeOf(line) === value).length,
    ]),
  );
  return (
    <Page title="Assembly" tabs={<AssemblyNav />}>
      <Box
        sx={{ padding: '6px 16px 16px', display: 'grid', gap: '12px', gridTemplateColumns: 'minmax(0, 1fr)' }}
      >
        <Verdict {...benchSentence(shown)} />
        <Panel label="Instruments">
          <Row style={{ marginBottom: 10 }}>
            <ToggleButtonGroup
              exclusive
              aria-label="Where"
              value={place}
              onChange={(_, chosen: string | null) => address.ask('place', chosen ?? '')}
            >
              {PLACES.map(({ value, words }) => (
                <ToggleButton key={value} value={value}>
                  {words} {counts.get(value) ?? 0}
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
          </Row>
          <DataTable
            name="benches"
            label="Instruments"
            noun="instrument"
            rows={shown}
            rowKey={({ piece }) => piece}
            columns={columnsOf(data.zone, data.nowMs)}
            attention={({ verdict }) => verdict === 'back' || verdict === 'adjust'}
            empty="No instrument stands there now."
          />
        </Panel>
      </Box>
    </Page>
  );
}

const columnsOf = (zone: string, nowMs: number): Column<BenchLine>[] => [
  {
    key: 'piece',
    head: 'instrument',
    of: ({ piece }) => piece,
    show: ({ piece, batch, position }) => (
      <Link to={`/assembly/bench/${batch}/${position}`} className="condensed codelink">
        {piece}
      </Link>
    ),
    least: 92,
    share: 0.7,
  },
  { key: 'serial', head: 'serial', of: ({ serial }) => serial, share: 0.9, least: 104 },
  { key: 'model', head: 'model', of: ({ model }) => model, choice: true, share: 0.8 },
  { key: 'place', head: 'where', of: ({ operationName }) => operationName, choice: true, share: 1 },
  {
    key: 'next',
    head: 'next',
    of: ({ verdict }) => NEXT[verdict],
    show: ({ verdict }) => <strong>{NEXT[verdict]}</strong>,
    choice: true,
    least: 104,
    share: 0.8,
  },
  { key: 'words', head: 'what the bench says', of: ({ words }) => words, share: 2.6, least: 220 },
  {
    key: 'ends',
    head: 'second look',
    of: ({ endsMs }) => (endsMs === null ? null : isoDate(endsMs, zone)),
    show: ({ endsMs }) => (endsMs === null ? <Quiet>none</Quiet> : sayTime(endsMs, zone, nowMs)),
    least: 110,
    share: 0.8,
  },
  {
    key: 'due',
    head: 'due',
    of: ({ dueMs }) => isoDate(dueMs, zone),
    show: ({ dueMs }) => sayDate(dueMs, zone),
    least: 90,
    share: 0.7,
  },
];
