import { Box, Button, Stack, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { useFloor, useSetup } from '../api/queries.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { useRoutes, type RouteSummary } from './queries.ts';

/** Every model with its routes, by kind, and the racks that still work by an older revision. */
export default function RoutesPage() {
  const { data: routes, error } = useRoutes();
  const { data: setup } = useSetup();
  if (!routes || !setup) return <Opening error={error} />;
  const kindName = (letter: string): string =>
    setup.kinds.find((kind) => kind.letter === letter)?.name ?? letter;
  return (
    <Page
      title="Routes"
      tabs={<Quiet>racks keep the revision they were opened on until somebody moves them</Quiet>}
    >
      <Stack style={{ padding: '14px 16px' }}>
        {setup.models.map(({ model, construction, description }) => {
          const own = routes.filter((route) => route.model === model);
          return (
            <Panel key={model} label={model}>
              <Typography variant="h2">
                {model}{' '}
                <Quiet small>
                  {construction} · {description}
                </Quiet>
              </Typography>
              {own.length === 0 && <Typography color="textSecondary">No route yet.</Typography>}
              <Table>
                <TableBody>
                  {own
                    .filter((route) => route.newest)
                    .map((route) => (
                      <RouteLine key={route.id} route={route} all={own} kindName={kindName(route.kind)} />
                    ))}
                </TableBody>
              </Table>
            </Panel>
          );
        })}
        <Stations />
      </Stack>
    </Page>
  );
}

/** The stations routes go through; one that nothing goes through can be taken out of use. */
function Stations() {
  const { data: floor } = useFloor();
  const { perform, busy, refused } = usePerform();
  const remove = (code: string, name: string): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(server.DELETE('/api/stations/{code}', { params: { path: { code }, query: { by, key } } })),
      () => `${name} is out of use`,
    );
  return (
    <Panel label="Stations">
      <Typography variant="h2">
        Stations <Quiet small>what no route goes through may be taken out of use</Quiet>
      </Typography>
      <Refused words={refused} />
      <Row>
        {floor?.stations.map(({ code, name }) => (
          <Button
            key={code}
            disabled={busy}
            onClick={() => void remove(code, name)}
            aria-label={`Take ${name} out of use`}
          >
            {name} ✕
          </Button>
        ))}
      </Row>
    </Panel>
  );
}

function RouteLine({
  route,
  all,
  kindName,
}: {
  route: RouteSummary;
  all: readonly RouteSummary[];
  kindName: string;
}) {
  const older = all.filter((other) => other.kind === route.kind && !other.newest && other.batches.length > 0);
  return (
    <TableRow>
      <TableCell style={{ width: 160 }}>
        <Link to={`/routes/${encodeURIComponent(route.model)}/${route.kind}`}>
          <strong>{route.kind}</strong> {kindName}
        </Link>
      </TableCell>
      <TableCell style={{ width: 150 }}>
        revision {route.revision}, {route.operations} operations
      </TableCell>
      <TableCell>
        {route.note}
        {older.length > 0 && (
          <Box style={{ color: 'var(--shellacText)' }}>
            {older.map((other) => `revision ${other.revision}: ${other.batches.join(', ')}`).join('; ')}
          </Box>
        )}
      </TableCell>
      <TableCell align="right">{route.batches.length} racks on it</TableCell>
    </TableRow>
  );
}
