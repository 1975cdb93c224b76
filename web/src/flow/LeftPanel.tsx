import { Button, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { useLeft } from '../api/queries.ts';
import { ColumnHeads, EmptyState, Opening, Panel, Quiet, Row, Sideways } from '../parts/index.ts';
import { RackCells } from './RackCells.tsx';
import { dayWords, sayHour } from '../shared/time.ts';

/** The racks behind a day of a station: which pieces left it, when, and who had them in hand. */
export function LeftPanel(props: {
  station: { code: string; name: string };
  day: string;
  days: number;
  onClose: () => void;
}) {
  const { station, day, days, onClose } = props;
  const { data, error } = useLeft(station.code, day, days);
  return (
    <Panel label={`${station.name}, ${dayWords(day)}`}>
      <Row style={{ justifyContent: 'space-between' }}>
        <Typography variant="h2">
          What left {station.name} on {dayWords(day)}
        </Typography>
        <Button onClick={onClose}>Close</Button>
      </Row>
      {!data ? (
        <Opening error={error} words="Looking it up…" />
      ) : data.left.length === 0 ? (
        <EmptyState>Nothing left it on that day.</EmptyState>
      ) : (
        <Sideways>
          <Table size="small" aria-label={`What left ${station.name} on ${dayWords(day)}`}>
            <ColumnHeads names={['rack', 'pieces', 'at', 'by', 'how']} />
            <TableBody>
              {data.left.map(({ batch, positions, operation, ended, by, reason, atMs }) => (
                <TableRow key={`${batch} ${operation} ${ended} ${atMs} ${by}`}>
                  <RackCells batch={batch} positions={positions} />
                  <TableCell>{sayHour(atMs, data.zone)}</TableCell>
                  <TableCell>{by ?? <Quiet>nobody named</Quiet>}</TableCell>
                  <TableCell className={ended === 'good' ? undefined : 'attention'}>
                    {ended}
                    {reason !== null && ended !== 'good' && <Quiet small>: {reason}</Quiet>}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Sideways>
      )}
    </Panel>
  );
}
