import { ageingView, cautionWords } from '@ample-crane/core';
import { Box, Stack, Typography } from '@mui/material';
import { useQueries } from '@tanstack/react-query';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { Bed } from '../devices/Bed.tsx';
import { Caution } from '../devices/Caution.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, Opening, Page, Panel, Quiet } from '../parts/index.ts';
import { AgeForm } from './AgeForm.tsx';
import { FinishNav } from './FinishNav.tsx';
import { useFinishList, type RackPage } from './queries.ts';

/** The freezer and what is aged: turns of cold and warm, counted, until it is enough. */
export default function AgeingPage() {
  const { data, error } = useFinishList();
  const ageing = (data?.racks ?? []).filter(({ views }) => views.some(({ next }) => next === 'age'));
  const pages = useQueries({
    queries: ageing.map(({ batch }) => ({
      queryKey: ['finish', 'rack', batch],
      queryFn: async () =>
        await answered(server.GET('/api/finish/racks/{code}', { params: { path: { code: batch } } })),
    })),
  });
  if (!data) return <Opening error={error} />;
  const open = pages.flatMap(({ data: page }) => (page ? [page] : []));
  const freezers = open[0]?.freezers ?? [];
  return (
    <Page title="Ageing" tabs={<FinishNav />}>
      <Columns>
        <Stack>
          <Caution words={cautionWords('freezer')} />
          {ageing.length === 0 && (
            <Verdict
              tone="hold"
              sentence="Nothing is being aged. A rack comes here by its way: choose ‘Freezer & warm’ on its batch page."
            />
          )}
          {open.map((page) =>
            page.rack.views
              .filter(({ next }) => next === 'age')
              .map((view) => (
                <Verdict
                  key={`${page.rack.batch}${view.positions[0] ?? 0}`}
                  tone={view.ready ? 'good' : 'hold'}
                  sentence={`${page.rack.batch}: ${view.detail}`}
                >
                  <Typography color="textSecondary">
                    <Link to={`/finish/rack/${page.rack.batch}`}>{page.rack.batch}</Link>, {page.rack.model},{' '}
                    {view.positions.length} pieces · {turns(page, view.positions)}
                  </Typography>
                  <AgeForm page={page} view={view} />
                </Verdict>
              )),
          )}
        </Stack>
        <Panel label="Freezers">
          <Typography variant="h2">Freezer</Typography>
          {freezers.length === 0 && (
            <Typography color="textSecondary">
              What lies in the freezer is shown with the first rack aged.
            </Typography>
          )}
          {freezers.map((freezer) => {
            const parts = open.flatMap((page) => {
              const pieces = page.state.pieces.filter(({ bed }) => bed === freezer.code).length;
              return pieces > 0 ? [{ batch: page.rack.batch, pieces }] : [];
            });
            const taken = parts.reduce((sum, { pieces }) => sum + pieces, 0);
            return (
              <Box key={freezer.code}>
                <Typography variant="h3">
                  {freezer.name}{' '}
                  <Quiet style={{ fontWeight: 400 }}>
                    {freezer.places - taken} of {freezer.places} free
                  </Quiet>
                </Typography>
                <Bed name={freezer.name} places={freezer.places} parts={parts} working={taken > 0} />
              </Box>
            );
          })}
        </Panel>
      </Columns>
    </Page>
  );
}

function turns(page: RackPage, positions: number[]): string {
  const since = page.state.pieces.find(({ position }) => position === positions[0])?.sinceMs ?? 0;
  const { cycles, phase } = ageingView({
    ageing: page.state.ageing ?? [],
    positions,
    sinceMs: since,
    atMs: page.nowMs,
  });
  const where = phase === null ? 'not begun' : phase === 'cold' ? 'in the cold' : 'warming';
  return `${cycles} turns, ${where}`;
}
