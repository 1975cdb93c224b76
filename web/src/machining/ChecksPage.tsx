import { limitsWords } from '@ample-crane/core';
import { Stack, Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import { Link } from 'react-router';
import { useSetup } from '../api/queries.ts';
import { sayDayOf } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening } from '../parts/Opening.tsx';
import { Page } from '../parts/Page.tsx';
import { Panel } from '../parts/Panel.tsx';
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
          <Table>
            <TableHead>
              <TableRow>
                {['dimension', 'measured at', 'limits', 'looks', 'last', 'now'].map((head) => (
                  <TableCell key={head} scope="col">
                    {head}
                  </TableCell>
                ))}
              </TableRow>
            </TableHead>
            <TableBody>
              {sorted.map((one) => (
                <TableRow key={one.view.href}>
                  <TableCell>
                    <Link to={one.view.href}>
                      {one.model} {one.kind}: {one.check.name}
                    </Link>
                  </TableCell>
                  <TableCell>{one.operationName}</TableCell>
                  <TableCell>{limitsWords(one.check)}</TableCell>
                  <TableCell>{one.looks}</TableCell>
                  <TableCell>{one.lastMs === null ? 'never' : sayDayOf(one.lastMs, zone)}</TableCell>
                  <TableCell style={{ color: order(one) < 2 ? 'var(--oxblood)' : undefined }}>
                    {stateWords(one)}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Panel>
      </Stack>
    </Page>
  );
}

function stateWords({ looks, view }: Dimension): string {
  if (looks === 0) return 'nothing measured yet';
  if (view.drift) return `drifting ${view.drift.slope > 0 ? 'up' : 'down'}`;
  return view.hit ? 'breaks a run rule' : 'in control';
}
