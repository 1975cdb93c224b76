import { rangeOf, type Stage } from '@ample-crane/core';
import { Link, useParams } from 'react-router';
import { useFloor, useStage, type HoldAt, type RackAt, type StageRow } from '../api/queries.ts';
import { STAGE_NAMES } from '../shared/stages.ts';
import { lateTag, sayDate, sayTime, useFactoryNow } from '../shared/time.ts';
import { withStations } from '../board/rows.ts';
import { FinishNav } from '../finishing/FinishNav.tsx';
import { FittingNav } from '../fitting/FittingNav.tsx';
import { MillNav } from '../machining/MillNav.tsx';
import { PegRack } from '../devices/PegRack.tsx';
import { Verdict } from '../devices/Verdict.tsx';

/** One stage: its racks station by station, all of them, and the load in front of it. */
export default function StagePage() {
  const { stage = '' } = useParams();
  const { data: floor, dataUpdatedAt, error } = useFloor();
  const { data: standing, error: failed } = useStage(stage);
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  const name = STAGE_NAMES[stage as Stage];
  if (!name) return <p className="title">There is no stage '{stage}'. Press 0 for the board.</p>;
  if (!floor || !standing) return <p className="title">{(error ?? failed)?.message ?? 'Opening…'}</p>;
  const rows = withStations(standing, floor);
  const ready = rows.flatMap((row) => row.holds.filter(({ hold }) => hold.over));
  const totals = floor.stages.find((candidate) => candidate.stage === stage);
  return (
    <>
      <div className="title">
        <h1>{name}</h1>
        {stage === 'machining' && <MillNav />}
        {stage === 'fitting' && <FittingNav />}
        {stage === 'finishing' && <FinishNav />}
        <span className="quiet">
          {totals?.racks ?? 0} racks · {totals?.waiting ?? 0} pieces waiting · {totals?.inHand ?? 0} in hand ·{' '}
          {totals?.onHold ?? 0} on hold
        </span>
      </div>
      <div className="columns">
        <div className="stack">
          <Verdict tone={ready.length > 0 ? 'good' : 'hold'} sentence={readyWords(ready)} />
          {rows.map((row) => (
            <StationPanel key={row.station.code} row={row} nowMs={nowMs} zone={floor.zone} />
          ))}
        </div>
        <section className="panel" aria-label="Load">
          <h2>Load</h2>
          <table>
            <thead>
              <tr>
                <th scope="col">station</th>
                <th scope="col" className="number">
                  waiting
                </th>
                <th scope="col" className="number">
                  a day
                </th>
                <th scope="col" className="number">
                  days
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ station }) => (
                <tr key={station.code}>
                  <td>{station.name}</td>
                  <td className="number">{station.hoursWaiting.toFixed(1)} h</td>
                  <td className="number">{station.hoursADay.toFixed(0)} h</td>
                  <td className="number">{station.days.toFixed(1)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="quiet" style={{ marginTop: 8 }}>
            Hours of work by the route's times, for what waits and what is in hand.{' '}
            <Link to="/flow">See the flow</Link>
          </p>
        </section>
      </div>
    </>
  );
}

function readyWords(ready: readonly HoldAt[]): string {
  if (ready.length === 0) return 'No hold here is over now.';
  const codes = [...new Set(ready.map(({ batch }) => batch))];
  return `Ready: ${codes.join(', ')} ${codes.length === 1 ? 'has' : 'have'} a hold that is over.`;
}

type Row = ReturnType<typeof withStations<StageRow>>[number];

function StationPanel({ row, nowMs, zone }: { row: Row; nowMs: number; zone: string }) {
  const { station, inHand, waiting, holds } = row;
  return (
    <section className="panel" aria-label={station.name}>
      <h2>
        {station.name}{' '}
        <span className="quiet" style={{ fontWeight: 500, fontSize: 16 }}>
          {station.note}
        </span>
      </h2>
      {inHand.length + waiting.length + holds.length === 0 && <p className="quiet">Nothing here.</p>}
      <table>
        <tbody>
          {inHand.map((rack) => (
            <RackLine
              key={`h${rack.batch}${rack.operation}`}
              rack={rack}
              nowMs={nowMs}
              zone={zone}
              word="in hand"
            />
          ))}
          {waiting.map((rack, i) => (
            <RackLine
              key={`w${rack.batch}${rack.operation}`}
              rack={rack}
              nowMs={nowMs}
              zone={zone}
              word={i === 0 ? 'next' : 'waiting'}
            />
          ))}
          {holds.map(({ batch, model, dueMs, hold, more }) => (
            <tr key={`d${batch}${hold.operation}${hold.rule}`}>
              <td style={{ width: 120 }}>
                <PegRack
                  code={batch}
                  pegs={hold.positions.map(() => 'todo')}
                  wide
                  words={`${model}, on hold`}
                  href={`/batch/${batch}`}
                />
              </td>
              <td>
                <strong>{hold.over ? 'ready' : hold.word}</strong>{' '}
                {hold.endMs !== null &&
                  !hold.over &&
                  `until ${sayTime(hold.endMs, zone, nowMs, rangeOf(hold))}`}
                <div className="quiet">
                  {hold.sentence}
                  {more > 0 && ` ${more} more of it rest here too.`}
                </div>
              </td>
              <td className="quiet number">due {sayDate(dueMs, zone)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function RackLine({ rack, nowMs, zone, word }: { rack: RackAt; nowMs: number; zone: string; word: string }) {
  const late = lateTag(rack.dueMs, nowMs);
  return (
    <tr>
      <td style={{ width: 120 }}>
        <PegRack
          code={rack.batch}
          pegs={rack.pegs}
          wide
          inverted={word === 'in hand'}
          tag={late}
          late={late !== null}
          words={`${rack.model}, ${word}`}
          href={`/batch/${rack.batch}`}
        />
      </td>
      <td>
        <strong>{word}</strong> · {rack.operationName}
        <div className="quiet">
          {rack.model}, {rack.here} of {rack.quantity} here since {sayTime(rack.sinceMs, zone, nowMs)}
        </div>
      </td>
      <td className="quiet number">due {sayDate(rack.dueMs, zone)}</td>
    </tr>
  );
}
