import { count } from '@ample-crane/core';
import { TableCell } from '@mui/material';
import { Link } from 'react-router';
import { Quiet } from '../parts/index.ts';

/** Which pieces of which rack stand behind a number: two cells of a row. */
export function RackCells({ batch, positions }: { batch: string; positions: readonly number[] }) {
  return (
    <>
      <TableCell>
        <Link to={`/batch/${batch}`} className="condensed codelink">
          {batch}
        </Link>
      </TableCell>
      <TableCell>
        {count(positions.length, 'piece')} <Quiet small>{positions.join(', ')}</Quiet>
      </TableCell>
    </>
  );
}
