import { Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Panel, Quiet } from '../parts/index.ts';
import { sayMonth } from '../shared/time.ts';
import { useBacklog } from './queries.ts';
import { backlogWords } from './words.ts';

/** How much is ordered and not begun, and when it is due. */
export function BacklogPanel() {
  const { data: backlog } = useBacklog();
  if (!backlog || backlog.pieces === 0) return null;
  const { months, zone, stationName } = backlog;
  return (
    <Panel label="Backlog">
      <Typography variant="h2">Backlog</Typography>
      <Typography sx={{ fontWeight: 600 }}>{backlogWords(backlog)}</Typography>
      <Quiet block>What is begun is not in it, nor are set-ups.</Quiet>
      <Table size="small" aria-label="Backlog by month">
        <TableHead>
          <TableRow>
            <TableCell>due in</TableCell>
            <TableCell align="right">pieces</TableCell>
            {stationName !== null && <TableCell align="right">hours at {stationName}</TableCell>}
          </TableRow>
        </TableHead>
        <TableBody>
          {months.map(({ fromMs, pieces, hours }) => (
            <TableRow key={fromMs}>
              <TableCell>{sayMonth(fromMs, zone)}</TableCell>
              <TableCell align="right">{pieces}</TableCell>
              {stationName !== null && <TableCell align="right">{hours.toFixed(1)}</TableCell>}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Panel>
  );
}
