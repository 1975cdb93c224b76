import { rangeOf, REMINDER, type FinishView } from '@ample-crane/core';
import { Link, useParams } from 'react-router';
import { sayClock, sayTime, useFactoryNow } from '../shared/time.ts';
import { Caution } from '../devices/Caution.tsx';
import { Ladder } from '../devices/Ladder.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { PassportLink } from '../passport/PassportLink.tsx';
import { AgeForm } from './AgeForm.tsx';
import { CoatForm } from './CoatForm.tsx';
import { ColourPanel } from './ColourPanel.tsx';
import { EvidenceForm } from './EvidenceForm.tsx';
import { FinishNav } from './FinishNav.tsx';
import { RackPanels } from './RackPanels.tsx';
import { RecipeOfRack } from './RecipeOfRack.tsx';
import { SandForm } from './SandForm.tsx';
import { SendBackForm } from './SendBackForm.tsx';
import { useRackPage, type RackPage as Page } from './queries.ts';

const LEAST_SCALE_UM = 120;
const LADDER_HEIGHT = 170;
const LADDER_WIDTH = 560;

/** One rack in finish: its ladder large, what it rests on, and everything that can be logged of it. */
export default function RackPage() {
  const { code = '' } = useParams();
  const { data, dataUpdatedAt, error } = useRackPage(code);
  const nowMs = useFactoryNow(data, dataUpdatedAt);
  if (!data) return <p className="title">{error?.message ?? 'Opening…'}</p>;
  const { rack, cautions } = data;
  const coated = rack.views.filter(
    ({ rungs, coat, next }) => rungs.length > 0 || coat !== null || next === 'age',
  );
  return (
    <>
      <div className="title">
        <h1>
          {rack.batch}{' '}
          <span className="quiet smallhead">
            {rack.model}, {rack.recipeTitle ?? 'no recipe'}
          </span>
        </h1>
        <FinishNav />
        <Link to={`/batch/${rack.batch}`}>Its batch and log</Link>
      </div>
      <div className="columns">
        <div className="stack">
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
        </div>
        <div className="stack">
          <RackPanels page={data} />
          <SendBackForm page={data} nowMs={nowMs} />
          <ColourPanel page={data} />
          <RecipeOfRack page={data} />
          <Past page={data} nowMs={nowMs} />
        </div>
      </div>
    </>
  );
}

function GroupPanel({ view, page, nowMs }: { view: FinishView; page: Page; nowMs: number }) {
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
      <p className="quiet">
        {pieces} at {view.operationName}
        {view.moved &&
          ` · ${Math.abs(view.moved.hours).toFixed(0)} h ${view.moved.hours > 0 ? 'later' : 'sooner'} than yesterday: ${view.moved.why}${view.moved.proof ? `, ${view.moved.proof}` : ''}`}
      </p>
      {view.recomputed && <p className="attention">{view.recomputed}</p>}
      {view.rungs.length > 0 && (
        <div style={{ margin: '8px 0', overflowX: 'auto' }}>
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
        </div>
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

/** Every rung with its numbers: the proof under the drawing. */
function Rungs({ view, zone }: { view: FinishView; zone: string }) {
  return (
    <details>
      <summary>The clock of each coat</summary>
      <div style={{ overflowX: 'auto' }}>
        <table>
          <thead>
            <tr>
              <th scope="col">coat</th>
              <th scope="col">laid</th>
              <th scope="col" className="number">
                film, µm
              </th>
              <th scope="col" className="number">
                slab, µm
              </th>
              <th scope="col" className="number">
                gathered, h
              </th>
              <th scope="col" className="number">
                recoat
              </th>
              <th scope="col" className="number">
                sand
              </th>
              <th scope="col" className="number">
                buff
              </th>
              <th scope="col">from</th>
            </tr>
          </thead>
          <tbody>
            {view.rungs.toReversed().map((rung) => (
              <tr key={`${rung.atMs}${rung.name}`}>
                <td>
                  {rung.name}
                  {rung.extra && <div className="attention">extra: {rung.extra}</div>}
                </td>
                <td>{sayClock(rung.atMs, zone)}</td>
                <td className="number">
                  {rung.leftUm.toFixed(1)}
                  {rung.leftUm < rung.filmUm && <span className="quiet"> of {rung.filmUm.toFixed(1)}</span>}
                </td>
                <td className="number">{rung.slabUm.toFixed(0)}</td>
                <td className="number">{h(rung.gathered)}</td>
                {(['recoat', 'sand', 'buff'] as const).map((until) => (
                  <td key={until} className="number">
                    {rung.progress[until] >= 1 ? '✓' : `${Math.floor(100 * rung.progress[until])} %`}
                    <span className="quiet"> {h(rung.needs[until])}</span>
                  </td>
                ))}
                <td className="quiet">{[rung.booth, rung.lot].filter(Boolean).join(', ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="quiet">
        Hours are reference hours, at 21 °C and up to 65 % RH, counted on after what was needed is reached.
        Solvent coats of one material are one slab: its hours run from its last coat, and go with how thick
        the slab is and how much solvent was left in it then. Other coats run a clock each.
        {view.bridgedHours >= 1 &&
          ` For ${view.bridgedHours.toFixed(0)} h no sensor was heard: the room’s usual air stands in.`}
      </p>
    </details>
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
function Past({ page, nowMs }: { page: Page; nowMs: number }) {
  const { state, zone, route } = page;
  const name = (key: string): string => route.operations.find((one) => one.key === key)?.name ?? key;
  const freed = state.freed ?? [];
  const slips = state.slips ?? [];
  if (freed.length + slips.length === 0) return null;
  return (
    <section className="panel" aria-label="On what its holds ended">
      <h2>On what its holds ended</h2>
      {freed.toReversed().map((one) => (
        <p key={`${one.atMs}${one.operation}${one.positions[0] ?? 0}`} style={{ marginTop: 6 }}>
          <strong>{name(one.operation)}</strong> {ON[one.on]}, {one.positions.length} pieces,{' '}
          {sayTime(one.atMs, zone, nowMs)}
          <br />
          <span className="quiet">{one.words}</span>
        </p>
      ))}
      {slips.length > 0 && <h3 style={{ marginTop: 10 }}>Slips</h3>}
      {slips.map((slip) => (
        <p key={`${slip.atMs}${slip.positions[0] ?? 0}`}>
          {slip.reason} at {name(slip.operation)},{' '}
          {slip.positions.map((p) => `/${String(p).padStart(2, '0')}`).join(' ')} back to {name(slip.to)},{' '}
          {sayTime(slip.atMs, zone, nowMs)}
          <br />
          <span className="quiet">{slip.cause}</span>
        </p>
      ))}
      <p className="row quiet" style={{ marginTop: 10 }}>
        Kept in the passport of
        {state.pieces.map(({ position }) => (
          <PassportLink key={position} batch={state.code} position={position} />
        ))}
      </p>
    </section>
  );
}
