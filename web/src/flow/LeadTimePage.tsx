import { LEAD_PART_WORDS, LEAD_PARTS } from '@ample-crane/core';
import { Box, Stack, Table, TableBody, TableCell, TableHead, TableRow, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { Columns, Opening, Page, Panel, Quiet, Sideways } from '../parts/index.ts';
import { FlowNav } from '../shared/FlowNav.tsx';
import { STAGE_NAMES } from '../shared/stages.ts';
import { sayClock } from '../shared/time.ts';
import { PartsBar, PartsKey } from './PartsBar.tsx';
import { useLeadTime, type LeadTime } from './queries.ts';

/** One instrument's lead time, down to its stays. */
export default function LeadTimePage() {
  const { batch = '', position = '' } = useParams();
  const { data, error } = useLeadTime(batch, Number(position));
  if (!data) return <Opening error={error} instead={<Link to="/flow/time">See where the time goes</Link>} />;
  return (
    <Page
      title={
        <>
          {data.piece} <Quiet small>{data.model}</Quiet>
        </>
      }
      tabs={<FlowNav />}
    >
      <Columns>
        <Panel label="Stay by stay">
          <Typography variant="h2">{data.days.toFixed(1)} days, stay by stay</Typography>
          <PartsKey />
          <Stays data={data} />
        </Panel>
        <Panel label="In all">
          <Typography variant="h2">In all</Typography>
          {LEAD_PARTS.map((part) => (
            <Typography key={part} sx={{ display: 'flex', justifyContent: 'space-between' }}>
              <span>{LEAD_PART_WORDS[part]}</span> <strong>{data.parts[part].toFixed(1)} days</strong>
            </Typography>
          ))}
          <Typography sx={{ marginTop: '8px' }}>
            <Link to={`/passport/${data.batch}/${data.position}`}>Its passport</Link>
          </Typography>
        </Panel>
      </Columns>
    </Page>
  );
}

function Stays({ data }: { data: LeadTime }) {
  const sums = data.stretches.map(({ parts }) => LEAD_PARTS.reduce((sum, part) => sum + parts[part], 0));
  const most = Math.max(0.01, ...sums);
  return (
    <Sideways>
      <Table size="small" aria-label="Stay by stay" sx={{ minWidth: 560 }}>
        <TableHead>
          <TableRow>
            <TableCell scope="col">from</TableCell>
            <TableCell scope="col">at</TableCell>
            <TableCell scope="col" sx={{ width: '38%' }}>
              how it went
            </TableCell>
            <TableCell scope="col" align="right">
              days
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {data.stretches.map(({ batch, operationName, stage, fromMs, parts }, i) => (
            <TableRow key={`${batch}${fromMs}${i}`}>
              <TableCell sx={{ whiteSpace: 'nowrap' }}>{sayClock(fromMs, data.zone)}</TableCell>
              <TableCell>
                {operationName}
                <Quiet block small>
                  {batch !== null && <Link to={`/batch/${batch}`}>{batch}</Link>}
                  {stage !== null && ` · ${STAGE_NAMES[stage]}`}
                </Quiet>
              </TableCell>
              <TableCell>
                <Stack>
                  <Box>
                    <PartsBar parts={parts} most={most} name={operationName} />
                  </Box>
                </Stack>
              </TableCell>
              <TableCell align="right">{(sums[i] ?? 0).toFixed(2)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Sideways>
  );
}
