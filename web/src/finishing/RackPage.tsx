import { rangeOf, REMINDER, type FinishView } from '@ample-crane/core';
import { Box, Stack, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { sayTime, useFactoryNow } from '../shared/time.ts';
import { Caution } from '../devices/Caution.tsx';
import { Ladder } from '../devices/Ladder.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { TagsHere } from '../orders/TagsHere.tsx';
import { PassportLink } from '../passport/PassportLink.tsx';
import { Columns, Fold, Opening, Page, Panel, Quiet, Row, Sideways } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment, type Column } from '../tables/column.ts';
import { AgeForm } from './AgeForm.tsx';
import { CoatForm } from './CoatForm.tsx';
import { ColourPanel } from './ColourPanel.tsx';
import { EvidenceForm } from './EvidenceForm.tsx';
import { FinishNav } from './FinishNav.tsx';
import { RackPanels } from './RackPanels.tsx';
import { RecipeOfRack } from './RecipeOfRack.tsx';
import { SandForm } from './SandForm.tsx';
import { SendBackForm } from './SendBackForm.tsx';
import { useRackPage, type RackPage as Rack } from './queries.ts';

const LEAST_SCALE_UM = 120;
const LADDER_HEIGHT = 170;
const LADDER_WIDTH = 560;

/** One rack in finish: its ladder large, what it rests on, and everything that can be logged of it. */
export default function RackPage() {
  const { code = '' } = useParams();
  const { data, dataUpdatedAt, error } = useRackPage(code);
  const nowMs = useFactoryNow(data, dataUpdatedAt);
  if (!data) return <Opening error={error} />;
  const { rack, cautions } = data;
  const coated = rack.views.filter(
    ({ rungs, coat, next }) => rungs.length > 0 || coat !== null || next === 'age',
  );
  return (
    <Page
      title={
        <>
          {rack.batch}{' '}
          <Quiet small>
            {rack.model}, {rack.recipeTitle ?? 'no recipe'}
          </Quiet>
        </>
      }
      tabs={
        <>
          <FinishNav />
          <Link to={`/batch/${rack.batch}`}>Its batch and log</Link>
        </>
      }
    >
      <Columns>
        <Stack>
          {coated.length === 0 && (
            <Verdict tone="wait" sentence="No coat is on it yet. It gets its first one at Prep & seal." />
          )}
          {coated.map((view) => (
            // What is being typed stays when the pieces are started meanwhile.
            <GroupPanel
              key={`${view.operation}${view.positions[0] ?? 0}`}
              view={view}
              page={data}
              nowMs={nowMs}
            />
          ))}
          <Caution words={cautions.length > 0 ? `${cautions.join(' ')} ${REMINDER}` : null} />
        </Stack>
        <Stack>
          <RackPanels page={data} />
          <SendBackForm page={data} nowMs={nowMs} />
          <ColourPanel page={data} />
          <RecipeOfRack page={data} />
          <Past page={data} nowMs={nowMs} />
        </Stack>
      </Columns>
    </Page>
  );
}

function GroupPanel({ view, page, nowMs }: { view: FinishView; page: Rack; nowMs: number }) {
  const { rack, zone } = page;
  const until = view.next === 'coat' ? 'recoat' : view.next === 'sand' ? 'sand' : 'buff';
  const pieces =
    view.positions.length === rack.quantity
      ? `all ${rack.quantity}`
      : `${view.positions.length} of ${rack.quantity}: ${view.positions.join(', ')}`;
  const range =
    !view.ready && view.lowMs !== null && view.highMs !== null && view.highMs - view.lowMs > 3_600_000
      ? ` Between ${sayTime(view.lowMs, zone, nowMs, rangeOf(view))} and ${sayTime(view.highMs, zone, nowMs, rangeOf(view))}, nine times of ten.`
      : '';
  return (
    <Verdict
      tone={view.ready ? 'good' : view.next === 'held' ? 'wait' : 'hold'}
      sentence={`${view.title}. ${view.detail}${range}`}
    >
      <Typography color="textSecondary">
        {pieces} at {view.operationName}
        {view.moved &&
          ` · ${Math.abs(view.moved.hours).toFixed(0)} h ${view.moved.hours > 0 ? 'later' : 'sooner'} than yesterday: ${view.moved.why}${view.moved.proof ? `, ${view.moved.proof}` : ''}`}
      </Typography>
      <TagsHere stage="finishing" batch={rack.batch} operation={view.operation} />
      {view.recomputed && <Typography className="attention">{view.recomputed}</Typography>}
      {view.rungs.length > 0 && (
        <Sideways style={{ margin: '8px 0' }}>
          <Ladder
            rungs={view.rungs.map(({ name, leftUm, progress }) => ({
              name,
              leftUm,
              progress: progress[until],
            }))}
            minimumUm={rack.minimumUm}
            scaleUm={Math.max(LEAST_SCALE_UM, view.buildUm * 1.05)}
            height={LADDER_HEIGHT}
            width={LADDER_WIDTH}
            named
            words={`${view.rungs.length} coats, ${view.buildUm.toFixed(0)} µm, minimum ${rack.minimumUm ?? 'none'} µm`}
          />
        </Sideways>
      )}
      {view.rungs.length > 0 && <Rungs view={view} zone={zone} />}
      {view.coat && <CoatForm page={page} view={view} />}
      {view.standing === 'onHold' && view.next !== 'age' && view.next !== 'held' && view.next !== 'work' && (
        <EvidenceForm page={page} view={view} nowMs={nowMs} />
      )}
      {view.next === 'age' && <AgeForm page={page} view={view} />}
      {view.standing === 'inHand' && view.next === 'work' && view.rungs.length > 0 && (
        <SandForm page={page} view={view} />
      )}
    </Verdict>
  );
}

const h = (hours: number): string => (hours < 10 ? hours.toFixed(1) : hours.toFixed(0));

type Rung = FinishView['rungs'][number];

const rungColumns = (zone: string): Column<Rung>[] => [
  {
    key: 'coat',
    head: 'coat',
    of: ({ name, extra }) => (extra ? `${name}, extra: ${extra}` : name),
    show: ({ name, extra }) => (
      <Box>
        {name}
        {extra && <Box className="attention">extra: {extra}</Box>}
      </Box>
    ),
    share: 1.5,
  },
  moment({ key: 'laid', head: 'laid', ms: ({ atMs }) => atMs, zone }),
  {
    key: 'film',
    head: 'film',
    unit: 'µm',
    of: ({ leftUm }) => leftUm,
    digits: 1,
    show: ({ leftUm, filmUm }) => (
      <span>
        {leftUm.toFixed(1)} µm
        {leftUm < filmUm && <Quiet> of {filmUm.toFixed(1)} µm</Quiet>}
      </span>
    ),
  },
  { key: 'slab', head: 'slab', unit: 'µm', of: ({ slabUm }) => slabUm, digits: 0 },
  { key: 'gathered', head: 'gathered, h', of: ({ gathered }) => gathered, digits: 1 },
  ...(['recoat', 'sand', 'buff'] as const).map((until): Column<Rung> => ({
    key: until,
    head: `${until}, %`,
    of: ({ progress }) => Math.min(100, Math.floor(100 * progress[until])),
    digits: 0,
    show: ({ progress, needs }) => (
      <span>
        {progress[until] >= 1 ? '✓' : `${Math.floor(100 * progress[until])} %`}
        <Quiet> {h(needs[until])}</Quiet>
      </span>
    ),
  })),
  { key: 'from', head: 'from', of: ({ booth, lot }) => [booth, lot].filter(Boolean).join(', ') },
];

/** Every rung with its numbers: the proof under the drawing. */
function Rungs({ view, zone }: { view: FinishView; zone: string }) {
  return (
    <Fold name="The clock of each coat">
      <DataTable
        name="coats"
        label="The clock of each coat"
        noun="coat"
        rows={view.rungs.toReversed()}
        rowKey={({ atMs, name }) => `${atMs}${name}`}
        columns={rungColumns(zone)}
        empty="No coat is laid yet."
      />
      <Typography color="textSecondary">
        Hours are reference hours, at 21 °C and up to 65 % RH, counted on after what was needed is reached.
        Solvent coats of one material are one slab: its hours run from its last coat, and go with how thick
        the slab is and how much solvent was left in it then. Other coats run a clock each.
        {view.bridgedHours >= 1 &&
          ` For ${view.bridgedHours.toFixed(0)} h no sensor was heard: the room’s usual air stands in.`}
      </Typography>
    </Fold>
  );
}

const ON: Record<string, string> = {
  clock: 'by the clock',
  panel: 'on a test panel',
  mark: 'on a mark test',
  sight: 'by eye',
  reason: 'rule passed by',
};

/** On what its holds ended, and what went wrong: it stays. */
function Past({ page, nowMs }: { page: Rack; nowMs: number }) {
  const { state, zone, route } = page;
  const name = (key: string): string => route.operations.find((one) => one.key === key)?.name ?? key;
  const freed = state.freed ?? [];
  const slips = state.slips ?? [];
  if (freed.length + slips.length === 0) return null;
  return (
    <Panel label="On what its holds ended">
      <Typography variant="h2">On what its holds ended</Typography>
      {freed.toReversed().map((one) => (
        <Typography key={`${one.atMs}${one.operation}${one.positions[0] ?? 0}`} style={{ marginTop: 6 }}>
          <strong>{name(one.operation)}</strong> {ON[one.on]}, {one.positions.length} pieces,{' '}
          {sayTime(one.atMs, zone, nowMs)}
          <br />
          <Quiet>{one.words}</Quiet>
        </Typography>
      ))}
      {slips.length > 0 && (
        <Typography variant="h3" style={{ marginTop: 10 }}>
          Slips
        </Typography>
      )}
      {slips.map((slip) => (
        <Typography key={`${slip.atMs}${slip.positions[0] ?? 0}`}>
          {slip.reason} at {name(slip.operation)},{' '}
          {slip.positions.map((p) => `/${String(p).padStart(2, '0')}`).join(' ')} back to {name(slip.to)},{' '}
          {sayTime(slip.atMs, zone, nowMs)}
          <br />
          <Quiet>{[slip.cause, slip.origin && `caused at ${slip.origin}`].filter(Boolean).join(', ')}</Quiet>
        </Typography>
      ))}
      <Row style={{ marginTop: 10, color: 'var(--umber)' }}>
        Kept in the passport of
        {state.pieces.map(({ position }) => (
          <PassportLink key={position} batch={state.code} position={position} />
        ))}
      </Row>
    </Panel>
  );
}
