import { Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { Fold } from './Fold.tsx';

/** How a judgement comes about. */
export interface Reckoned {
  /** What was put in: name and value with its unit. */
  put: readonly (readonly [name: string, value: string])[];
  /** The formula, in words. */
  formula: string;
  /** Where formula and defaults are from. */
  source: string;
}

/** A judgement that can be asked how it comes about: what was put in, the formula in words, where it is from. */
export function Reckoning({ put, formula, source }: Reckoned) {
  return (
    <Fold name="How this is reckoned">
      <Table size="small" aria-label="What was put in">
        <TableBody>
          {put.map(([name, value]) => (
            <TableRow key={name}>
              <TableCell component="th" scope="row">
                {name}
              </TableCell>
              <TableCell align="right">{value}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Typography sx={{ marginTop: '8px' }}>{formula}</Typography>
      <Typography color="textSecondary">{source}</Typography>
    </Fold>
  );
}
