import { isYesNo, pieceAt, saidIn } from '@ample-crane/core';
import { Box, Typography } from '@mui/material';
import { Link } from 'react-router';
import { Panel, Quiet } from '../parts/index.ts';
import { sayClock } from '../shared/time.ts';
import { useUnits } from '../shared/units.ts';
import type { Sheet } from './queries.ts';

/** What its parts measured while they were on their own: the tone and the top of its box, the heel of its neck. */
export function SheetParts({ sheet: { parts, zone } }: { sheet: Sheet }) {
  const units = useUnits();
  if (parts.length === 0) return null;
  return (
    <Panel label="Measured of its parts">
      <Typography variant="h2">Measured of its parts</Typography>
      {parts.map(({ piece, kindName, read }) => (
        <Box key={piece} sx={{ marginTop: '6px' }}>
          <Typography>
            {kindName}{' '}
            <Link to={`/batch/${pieceAt(piece).batch}`} className="codelink">
              {piece}
            </Link>
          </Typography>
          {read.map(({ operation, operationName, check, name, unit, value, atMs }) => (
            <Typography key={`${operation} ${check}`}>
              {name}{' '}
              <strong>
                {isYesNo({ unit })
                  ? value === 1
                    ? 'yes'
                    : 'no'
                  : saidIn(value, unit, unit === 'mm' ? 2 : 0, units)}
              </strong>{' '}
              <Quiet>
                {operationName}, {sayClock(atMs, zone)}
              </Quiet>
            </Typography>
          ))}
        </Box>
      ))}
    </Panel>
  );
}
