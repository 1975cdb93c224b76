import { Stack } from '@mui/material';
import { useParams, Link } from 'react-router';
import { useBatch, useFloor, type BatchDetail } from '../api/queries.ts';
import { Columns, Opening, Page, Quiet, Row } from '../parts/index.ts';
import { useDryingView } from './DryingPanel.tsx';
import { Movement } from './Movement.tsx';
import { useRackDrying, useRooms, type Drying } from './queries.ts';

/** Readings within half a day of the last are one look. */
const ONE_LOOK_MS = 12 * 3_600_000;

/** How a resting rack dries: the same proof as for a lot. */
export default function RackDryingPage() {
  const { code = '' } = useParams();
  const { data: drying, error } = useRackDrying(code);
  const { data: batch } = useBatch(code);
  const { data: floor } = useFloor();
  if (!drying || !batch || !floor) return <Opening error={error} instead="Press 1 for the wood room." />;
  return <RackView drying={drying} batch={batch} zone={floor.zone} />;
}

function RackView({ drying, batch, zone }: { drying: Drying; batch: BatchDetail; zone: string }) {
  const { data: rooms = [] } = useRooms();
  const hold = batch.holds.find(({ rule }) => rule === 'moisture');
  const view = useDryingView({
    ...{ drying, rooms, zone },
    sentence: hold?.sentence ?? `${batch.code} rests.`,
    tone: hold?.over ? 'good' : 'hold',
  });
  const lastMs = drying.readings.at(-1)?.atMs ?? 0;
  const look = drying.readings.filter(({ atMs }) => lastMs - atMs <= ONE_LOOK_MS);
  const meanPct = look.reduce((sum, { correctedPct }) => sum + correctedPct, 0) / look.length;
  return (
    <Page
      title={<>{batch.code} at rest</>}
      tabs={
        <>
          <Quiet>
            {batch.state?.model}, {drying.species ?? 'wood not named'} · {drying.room}
          </Quiet>
          <Row component="span">
            <Link to={`/batch/${batch.code}`}>The rack</Link>
            <Link to={`/wood/read/${batch.code}`}>Read it</Link>
          </Row>
        </>
      }
    >
      <Columns>
        <Stack>
          {view.verdict}
          {view.chart}
        </Stack>
        <Stack>
          {view.whatIf}
          {look.length > 0 && drying.species && (
            <Movement
              species={drying.species}
              nowPct={meanPct}
              gatePct={(drying.window.lowPct + drying.window.highPct) / 2}
              {...(batch.state ? { model: batch.state.model } : {})}
            />
          )}
        </Stack>
      </Columns>
    </Page>
  );
}
