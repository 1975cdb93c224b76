import { forks, type Route } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { useSetup, type BatchDetail } from '../api/queries.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { useRoute, useRoutes } from '../routes/queries.ts';
import { WaysTable } from '../routes/WaysTable.tsx';
import { AskChoice, AskWords, Form, Leave, useDraft } from '../fields/index.ts';
import { Panel, Quiet, Row } from '../parts/index.ts';

/** Which revision and which ways a batch works by, and moving it to others, for a reason that stays with it. */
export function RoutePanel({ batch }: { batch: BatchDetail }) {
  const [moving, setMoving] = useState(false);
  const { data: routes = [] } = useRoutes();
  const { state } = batch;
  const { data: drawn } = useRoute(state?.routeId ?? '');
  if (!state || !drawn) return null;
  const own = routes.find(({ id }) => id === state.routeId);
  const newest = routes.find((one) => one.model === state.model && one.kind === state.kind && one.newest);
  const taken = forks(drawn).map(({ at, ways }) => {
    const way = ways.find(({ key }) => key === state.ways?.[at.key]) ?? ways[0];
    return `after ${at.name}: ${way?.name ?? ''}`;
  });
  return (
    <Panel label="Revision and ways">
      <Typography>
        <Link to={`/routes/${encodeURIComponent(state.model)}/${state.kind}`}>Revision {drawn.revision}</Link>
        {newest && own && newest.revision > own.revision && (
          <span style={{ color: 'var(--shellacText)' }}>
            {' '}
            · revision {newest.revision} is newer: {newest.note}
          </span>
        )}
        {taken.length > 0 && <Quiet> · {taken.join('; ')}</Quiet>}
      </Typography>
      {state.moves?.map((move) => (
        <Typography color="textSecondary" key={move.atMs}>
          {move.from === move.to ? 'sent by other ways' : `moved from ${move.from} to ${move.to}`}:{' '}
          {move.reason}
        </Typography>
      ))}
      {!moving && <Button onClick={() => setMoving(true)}>Move it</Button>}
      {moving && <MoveForm batch={batch} routes={routes} onDone={() => setMoving(false)} />}
    </Panel>
  );
}

function MoveForm({
  batch,
  routes,
  onDone,
}: {
  batch: BatchDetail;
  routes: readonly { id: string; model: string; kind: string; revision: number; note: string }[];
  onDone: () => void;
}) {
  const { perform, busy, refusal } = usePerform();
  const { state, code, nowMs } = batch;
  const own = routes.filter((one) => one.model === state?.model && one.kind === state.kind);
  const draft = useDraft(`move of ${code}`, { routeId: own[0]?.id ?? state?.routeId ?? '', reason: '' });
  const [ways, setWays] = useState<Record<string, string>>(state?.ways ?? {});
  const { data: route } = useRoute(useWatch({ control: draft.form.control, name: 'routeId' }));
  if (!state || !route) return null;
  const move = async ({ routeId, reason }: { routeId: string; reason: string }): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/batches/{code}/route', {
            params: { path: { code } },
            body: { key, by, routeId, ways: onlyKnown(route, ways), reason: reason.trim() },
          }),
        ),
      filedWords,
    );
    if (done) onDone();
    return done !== null;
  };
  return (
    <Form draft={draft} refusal={refusal} lay="stack" style={{ gap: 10, marginTop: 8 }} onFile={move}>
      <AskChoice
        name="routeId"
        label="To revision"
        options={own.map(({ id, revision, note }) => ({ value: id, words: `revision ${revision}: ${note}` }))}
        needed="which one"
      />
      <WaysChoice route={route} nowMs={nowMs} pieces={state.quantity} ways={ways} onChange={setWays} />
      <Row>
        <AskWords name="reason" label="Why" needed="it stays with the rack" width={260} />
        <Button type="submit" variant="contained" disabled={busy}>
          Move {code}
        </Button>
        <Leave draft={draft} onLeft={onDone} />
      </Row>
    </Form>
  );
}

/** Choices the route really leaves: a revision may have fewer. */
export const onlyKnown = (route: Route, ways: Record<string, string>): Record<string, string> =>
  Object.fromEntries(
    forks(route).flatMap(({ at, ways: offered }) => {
      const chosen = ways[at.key];
      const usual = offered[0]?.key;
      return chosen !== undefined && chosen !== usual && offered.some(({ key }) => key === chosen)
        ? [[at.key, chosen]]
        : [];
    }),
  );

/** The ways of a route side by side, to choose from. */
export function WaysChoice({
  route,
  nowMs,
  pieces,
  ways,
  onChange,
}: {
  route: Route;
  nowMs: number;
  pieces: number;
  ways: Record<string, string>;
  onChange: (ways: Record<string, string>) => void;
}) {
  const { data: setup } = useSetup();
  if (!setup || forks(route).length === 0) return null;
  return (
    <WaysTable
      route={route}
      setup={setup}
      nowMs={nowMs}
      pieces={pieces}
      ways={ways}
      onChoose={(at, way) => onChange({ ...ways, [at]: way })}
    />
  );
}
