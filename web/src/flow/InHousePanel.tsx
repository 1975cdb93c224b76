import { Button, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { ColumnHeads, EmptyState, Opening, Panel, Row, Sideways } from '../parts/index.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { dayWords, sayDate } from '../shared/time.ts';
import { RackCells } from './RackCells.tsx';
import { useInHouse } from './queries.ts';

/** The racks behind a day of the cumulative flow: what was in each stage when it ended. */
export function InHousePanel({ day, days, onClose }: { day: string; days: number; onClose: () => void }) {
  const { data, error } = useInHouse(day, days);
  const title = `In the house on ${dayWords(day)}`;
  const rows = (data?.stages ?? []).flatMap(({ stage, racks }) => racks.map((rack) => ({ stage, ...rack })));
  return (
    <Panel label={title}>
      <Row style={{ justifyContent: 'space-between' }}>
        <Typography variant="h2">{title}</Typography>
        <Button onClick={onClose}>Close</Button>
      </Row>
      {!data ? (
        <Opening error={error} words="Looking it up…" />
      ) : rows.length === 0 ? (
        <EmptyState>Nothing was in the house when that day ended.</EmptyState>
      ) : (
        <Sideways>
          <Table size="small" aria-label={title}>
            <ColumnHeads names={['stage', 'rack', 'pieces', 'came']} />
            <TableBody>
              {rows.map(({ stage, batch, positions, sinceMs }) => (
                <TableRow key={`${stage} ${batch}`}>
                  <TableCell>{STAGE_NAMES[stage]}</TableCell>
                  <RackCells batch={batch} positions={positions} />
                  <TableCell>{sayDate(sinceMs, data.zone)}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Sideways>
      )}
      <Typography color="textSecondary">
        By the racks they are on now: what has become an instrument since then is told as that instrument.
      </Typography>
    </Panel>
  );
}
