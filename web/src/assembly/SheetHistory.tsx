import { isYesNo, saidIn } from '@ample-crane/core';
import { Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Panel, Quiet, Sideways } from '../parts/index.ts';
import { sayClock } from '../shared/time.ts';
import { useUnits } from '../shared/units.ts';
import type { Sheet } from './queries.ts';

/** Every sheet that was filed of it, the newest first. */
export function SheetHistory({ sheet }: { sheet: Sheet }) {
  const units = useUnits();
  if (sheet.sheets.length === 0) return null;
  const said = ({ name, unit, value }: Sheet['sheets'][number]['read'][number]): string =>
    isYesNo({ unit })
      ? `${name}: ${value === 1 ? 'yes' : 'no'}`
      : `${name} ${saidIn(value, unit, unit === 'cents' ? 1 : 2, units)}`;
  return (
    <Panel label="Sheets of it">
      <Typography variant="h2">Sheets of it</Typography>
      <Sideways>
        <Table>
          <TableHead>
            <TableRow>
              <TableCell scope="col">when</TableCell>
              <TableCell scope="col">at</TableCell>
              <TableCell scope="col">what was read</TableCell>
              <TableCell scope="col">by</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {sheet.sheets.toReversed().map((one, i) => (
              <TableRow key={i}>
                <TableCell sx={{ whiteSpace: 'nowrap' }}>{sayClock(one.atMs, sheet.zone)}</TableCell>
                <TableCell>{one.operationName}</TableCell>
                <TableCell>
                  {one.read.map(said).join(', ')}
                  {one.note !== null && <Quiet block>{one.note}</Quiet>}
                </TableCell>
                <TableCell className="quiet">{one.byName}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Sideways>
    </Panel>
  );
}
