import { Box, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { answered, server } from '../api/client.ts';
import { EmptyState, Panel, PlainList, Quiet } from '../parts/index.ts';
import { SetUp } from './SetUp.tsx';

/** What the owner of an instrument may see of it: it stands alone, without the works around it. */
export default function OwnerPage() {
  const { token = '' } = useParams();
  const { data, error, isPending } = useQuery({
    queryKey: ['owner', token],
    queryFn: () => answered(server.GET('/api/owners/{token}', { params: { path: { token } } })),
  });
  if (isPending) return <EmptyState>Opening…</EmptyState>;
  if (!data || error)
    return <EmptyState>There is no such page. The address on your papers is the whole of it.</EmptyState>;
  const { factory, model, serial, left, finishes, wood, setUp } = data;
  return (
    <Box
      component="main"
      sx={{ maxWidth: 720, margin: '0 auto', padding: '24px 16px', display: 'grid', gap: '14px' }}
    >
      <Box>
        <Typography color="textSecondary">{factory}</Typography>
        <Typography variant="h1">{serial ?? model}</Typography>
        <Typography>
          {model}
          {left !== null && `, left the works on ${left}`}
        </Typography>
      </Box>
      <Panel label="What it is made of">
        <Typography variant="h2">What it is made of</Typography>
        {wood.length + finishes.length === 0 && <Quiet>Nothing is noted.</Quiet>}
        <PlainList>
          {wood.map(({ part, species, papers }, i) => (
            <Typography component="li" key={i}>
              {part}: {species}
              {papers !== null && `, papers ${papers}: keep this with them`}
            </Typography>
          ))}
          {finishes.map((finish) => (
            <Typography component="li" key={finish}>
              finish: {finish}
            </Typography>
          ))}
        </PlainList>
      </Panel>
      {setUp.length > 0 && (
        <Panel label="Its set-up">
          <Typography variant="h2">Its set-up as it left</Typography>
          <SetUp values={setUp} />
          <Quiet block>
            Wood moves with the air: a set-up changes with the season, and can be done again.
          </Quiet>
        </Panel>
      )}
    </Box>
  );
}
