import { operationOf, pieceAt, type Peg, type Route } from '@ample-crane/core';
import { Box, Stack, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { useBatch, type BatchDetail } from '../api/queries.ts';
import { sayDate, sayTime, useFactoryNow } from '../shared/time.ts';
import { KitPanel } from '../kits/KitPanel.tsx';
import { TagPanel } from '../orders/TagPanel.tsx';
import { PassportLink } from '../passport/PassportLink.tsx';
import { PegRack } from '../devices/PegRack.tsx';
import { Strip } from '../devices/Strip.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { Columns, Opening, PageHead, Panel, Quiet } from '../parts/index.ts';
import { Actions } from './Actions.tsx';
import { ChecksDue } from './ChecksDue.tsx';
import { Entries } from './Entries.tsx';
import { HoldPanel } from './HoldPanel.tsx';
import { RoutePanel } from './RoutePanel.tsx';
import { Readings } from './Readings.tsx';
import { stripSteps } from './steps.ts';

/** One batch: what the rules say of it, where its pieces are, what can be done now, and everything that happened. */
export default function BatchPage() {
  const { code = '' } = useParams();
  const { data: batch, error, dataUpdatedAt } = useBatch(code);
  const nowMs = useFactoryNow(batch, dataUpdatedAt);
  if (!batch) return <Opening error={error} />;
  const { state, route, zone } = batch;
  if (!state) {
    return (
      <>
        <Title batch={batch} />
        <Columns>
          <Verdict tone="bad" sentence={`The opening of ${batch.code} was taken back. It holds no pieces.`} />
          <Entries batch={batch} />
        </Columns>
      </>
    );
  }
  return (
    <>
      <Title batch={batch} />
      <Columns>
        <Stack>
          {batch.holds.map((hold) => (
            <HoldPanel
              key={`${hold.operation}${hold.sinceMs}${hold.rule}`}
              hold={hold}
              batch={batch}
              nowMs={nowMs}
            />
          ))}
          {batch.holds.length === 0 && <Whereabouts batch={batch} nowMs={nowMs} />}
          <Panel label="Route">
            <Typography variant="h2">Route</Typography>
            <Strip
              steps={stripSteps(batch, nowMs)}
              label={`Route of ${batch.code}, revision ${route.revision}`}
            />
          </Panel>
          <RoutePanel batch={batch} />
          <TagPanel state={state} route={route} />
          <KitPanel state={state} route={route} />
          <ChecksDue batch={batch} />
          <Actions batch={batch} />
          <Readings batch={batch} nowMs={nowMs} />
        </Stack>
        <Stack>
          {state.overrides.length > 0 && <Overrides batch={batch} zone={zone} nowMs={nowMs} />}
          <Entries batch={batch} />
          <Pieces batch={batch} />
        </Stack>
      </Columns>
    </>
  );
}

function Title({ batch }: { batch: BatchDetail }) {
  const { state, zone, earliestMs } = batch;
  return (
    <PageHead>
      <Typography variant="h1">{batch.code}</Typography>
      {state?.finish && <Link to={`/finish/rack/${batch.code}`}>Its ladder and recipe</Link>}
      {state && earliestMs !== null && (
        <a href={`/api/tags/${batch.code}/tags.pdf`} target="_blank" rel="noopener">
          Its tags
        </a>
      )}
      {state && (
        <Quiet>
          {state.model} · {state.quantity} {state.quantity === 1 ? 'piece' : 'pieces'} · opened{' '}
          {sayDate(state.openedMs, zone)} · due {sayDate(state.dueMs, zone)}
        </Quiet>
      )}
    </PageHead>
  );
}

/** Without a hold the first sentence says whether the rack will be in time. */
function Whereabouts({ batch, nowMs }: { batch: BatchDetail; nowMs: number }) {
  const { state, earliestMs, zone } = batch;
  if (!state) return null;
  if (earliestMs === null)
    return <Verdict tone="good" sentence="Finished: no piece is left on this route." />;
  const late = earliestMs > state.dueMs;
  const numbers = `by its route alone ready ${sayTime(earliestMs, zone, nowMs)} at the earliest, due ${sayTime(state.dueMs, zone, nowMs)}`;
  return (
    <Verdict
      tone={late ? 'bad' : 'good'}
      sentence={late ? `Late: ${numbers}.` : `In time so far: ${numbers}.`}
    />
  );
}

const STANDING_WORDS = {
  waiting: 'waiting',
  inHand: 'in hand',
  onHold: 'on hold',
  scrapped: 'scrapped',
  joined: 'joined',
  parted: 'parted',
  shipped: 'shipped',
} as const;

function Pieces({ batch }: { batch: BatchDetail }) {
  const { state, route } = batch;
  if (!state) return null;
  const pegs = state.pieces.map(pegOf);
  return (
    <Panel label="Piece by piece">
      <Typography variant="h2">Piece by piece</Typography>
      <Box style={{ margin: '8px 0' }}>
        <PegRack code={batch.code} pegs={pegs} wide words="all pieces" />
      </Box>
      <Table>
        <TableBody>
          {state.pieces.map((piece) => (
            <TableRow key={piece.position}>
              <TableCell className="condensed">
                <PassportLink batch={state.code} position={piece.position} />
              </TableCell>
              <TableCell>
                {STANDING_WORDS[piece.standing]} · {operationOf(route, piece.operation).name}
                {piece.rework && (
                  <Quiet block>
                    back from {operationName(route, piece.rework.from)}: {piece.rework.reason}
                  </Quiet>
                )}
                {piece.called && <Quiet block>held: {piece.called.reason}</Quiet>}
                {piece.bed && (
                  <Quiet block>
                    in {piece.bed}
                    {piece.load && `, load ${piece.load.code}`}
                  </Quiet>
                )}
                {piece.partner && (
                  <Quiet block>
                    paired with {piece.partner.piece}, gap {piece.partner.gapMm.toFixed(2)} mm
                  </Quiet>
                )}
                {piece.scrapReason && <Quiet block>{piece.scrapReason}</Quiet>}
                {piece.joinedInto && (
                  <Quiet block>
                    is now <BatchLink piece={piece.joinedInto} />
                  </Quiet>
                )}
                {piece.parents.length > 0 && (
                  <Quiet block>
                    from{' '}
                    {piece.parents.map((parent, i) => (
                      <span key={parent}>
                        {i > 0 && ' and '}
                        <BatchLink piece={parent} />
                      </span>
                    ))}
                  </Quiet>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Panel>
  );
}

const BatchLink = ({ piece }: { piece: string }) => (
  <Link to={`/batch/${pieceAt(piece).batch}`}>{piece}</Link>
);

const operationName = (route: Route, key: string): string => operationOf(route, key).name;

function pegOf(piece: { standing: keyof typeof STANDING_WORDS; rework: unknown }): Peg {
  if (piece.standing === 'scrapped') return 'scrapped';
  if (piece.standing === 'joined' || piece.standing === 'parted' || piece.standing === 'shipped')
    return 'done';
  return piece.rework ? 'rework' : 'todo';
}

function Overrides({ batch, zone, nowMs }: { batch: BatchDetail; zone: string; nowMs: number }) {
  return (
    <Panel label="Rules passed by">
      <Typography variant="h2">Rules passed by</Typography>
      {batch.state?.overrides.map((override) => (
        <Typography key={override.atMs} style={{ marginTop: 6 }}>
          <strong>{override.reason}</strong> · {override.pieces} at{' '}
          {operationName(batch.route, override.operation)}, {sayTime(override.atMs, zone, nowMs)}
          <br />
          <Quiet>The rule said: {override.against}</Quiet>
        </Typography>
      ))}
    </Panel>
  );
}
