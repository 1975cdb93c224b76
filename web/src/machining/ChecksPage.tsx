import { limitsWords } from '@ample-crane/core';
import { Box, Stack } from '@mui/material';
import { Link } from 'react-router';
import { useSetup } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, Page, Panel } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment, type Column } from '../tables/column.ts';
import { MillNav } from './MillNav.tsx';
import { useDimensions, type Dimension } from './queries.ts';

const order = ({ view }: Dimension): number => (view.drift ? 0 : view.hit ? 1 : 2);

/** Every dimension that is measured: what its chart says, the worst first. */
export default function ChecksPage() {
  const { data: dimensions, error } = useDimensions();
  const { data: setup } = useSetup();
  if (!dimensions || !setup) return <Opening error={error} />;
  const { zone } = setup.calendar;
  const sorted = dimensions.toSorted((a, b) => order(a) - order(b) || b.looks - a.looks);
  const wanting = sorted.filter((one) => order(one) < 2);
  return (
    <Page title={<>Checks & charts</>} tabs={<MillNav />}>
      <Stack style={{ padding: '14px 16px' }}>
        <Verdict
          tone={wanting.length > 0 ? 'wait' : 'good'}
          sentence={
            wanting.length > 0
              ? `Look at ${wanting.map((one) => `${one.model} ${one.kind} ${one.check.name.toLowerCase()}`).join(', ')}.`
              : 'Every dimension is in control.'
          }
        />
        <Panel>
          <DataTable
            name="dimensions"
            label="Dimensions"
            noun="dimension"
            rows={sorted}
            rowKey={({ view }) => view.href}
            columns={columnsOf(zone)}
            attention={(one) => order(one) < 2}
            empty="No dimension is measured on any route."
          />
        </Panel>
      </Stack>
    </Page>
  );
}

const columnsOf = (zone: string): Column<Dimension>[] => [
  {
    key: 'dimension',
    head: 'dimension',
    of: ({ model, kind, check }) => `${model} ${kind}: ${check.name}`,
    show: ({ model, kind, check, view }) => (
      <Link to={view.href}>
        {model} {kind}: {check.name}
      </Link>
    ),
    share: 2,
    least: 180,
  },
  { key: 'operation', head: 'measured at', of: ({ operationName }) => operationName, choice: true },
  { key: 'limits', head: 'limits', of: ({ check }) => limitsWords(check), share: 1.5, least: 150 },
  { key: 'looks', head: 'looks', of: ({ looks }) => looks, digits: 0 },
  moment({ key: 'last', head: 'last', ms: ({ lastMs }) => lastMs, zone, never: 'never' }),
  {
    key: 'now',
    head: 'now',
    of: stateWords,
    show: (one) => (
      <Box component="span" sx={{ color: order(one) < 2 ? 'error.main' : undefined }}>
        {stateWords(one)}
      </Box>
    ),
    choice: true,
    least: 140,
  },
];

function stateWords({ looks, view }: Dimension): string {
  if (looks === 0) return 'nothing measured yet';
  if (view.drift) return `drifting ${view.drift.slope > 0 ? 'up' : 'down'}`;
  return view.hit ? 'breaks a run rule' : 'in control';
}
