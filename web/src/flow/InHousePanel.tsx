import { count } from '@ample-crane/core';
import { Button, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Link } from 'react-router';
import { EmptyState, Opening, Panel, Quiet, Row, Sideways } from '../parts/index.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { dayWords, sayDate } from '../shared/time.ts';
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
            <TableHead>
              <TableRow>
                {['stage', 'rack', 'pieces', 'came'].map((head) => (
                  <TableCell key={head} scope="col">
                    {head}
                  </TableCell>
                ))}
              </TableRow>
            </TableHead>
            <TableBody>
              {rows.map(({ stage, batch, positions, sinceMs }) => (
                <TableRow key={`${stage} ${batch}`}>
                  <TableCell>{STAGE_NAMES[stage]}</TableCell>
                  <TableCell>
                    <Link to={`/batch/${batch}`} className="condensed codelink">
                      {batch}
                    </Link>
                  </TableCell>
                  <TableCell>
                    {count(positions.length, 'piece')} <Quiet small>{positions.join(', ')}</Quiet>
                  </TableCell>
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
