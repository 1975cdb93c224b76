import { saidIn } from '@ample-crane/core';
import { Table, TableBody, TableCell, TableHead, TableRow } from '@mui/material';
import type { Schemas } from '../api/client.ts';
import { Sideways } from '../parts/index.ts';
import { useUnits } from '../shared/units.ts';

/** How an instrument was set up, and how it had settled: value by value. */
export function SetUp({ values }: { values: readonly Schemas['SetUpValueDto'][] }) {
  const units = useUnits();
  const said = (value: number | null, unit: string): string =>
    value === null ? '' : saidIn(value, unit, unit === 'cents' ? 1 : 2, units);
  const isSettled = values.some(({ settled }) => settled !== null);
  return (
    <Sideways>
      <Table aria-label="Set-up" sx={{ maxWidth: 620, marginBottom: '10px' }}>
        <TableHead>
          <TableRow>
            <TableCell scope="col">set-up</TableCell>
            <TableCell scope="col">as set up</TableCell>
            {isSettled && <TableCell scope="col">when it had settled</TableCell>}
          </TableRow>
        </TableHead>
        <TableBody>
          {values.map(({ key, name, unit, atSetUp, settled }) => (
            <TableRow key={key}>
              <TableCell component="th" scope="row">
                {name}
              </TableCell>
              <TableCell>{said(atSetUp, unit)}</TableCell>
              {isSettled && <TableCell>{said(settled, unit)}</TableCell>}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Sideways>
  );
}
