import { DAY_MS, rangeOf } from '@ample-crane/core';
import { useMediaQuery } from '@mui/material';
import { Link } from 'react-router';
import type { Floor, HoldAt, RackAt } from '../api/queries.ts';
import { daysAhead, lateTag, sayTime } from '../shared/time.ts';
import { HoldBar } from '../devices/HoldBar.tsx';
import { PegRack } from '../devices/PegRack.tsx';
import { StationName } from './StationName.tsx';
import type { Row } from './rows.ts';
import './board.css';
import './StationRow.css';

/** The axis of holds ends so many days from now. */
export const AXIS_DAYS = 6;
/** Holds drawn at one station of those the board tells; the rest is a number that leads to the stage. */
const MOST_HOLDS = 2;
/** A tall screen has room for all it tells. */
const MOST_HOLDS_TALL = 4;
const TALL = '(min-height: 950px)';

/** A station of a works whose racks can be drawn one by one: those that wait, those in hand, those on hold until when. */
export function StationRow({ row, floor, nowMs }: { row: Row; floor: Floor; nowMs: number }) {
  const { station, waiting, moreWaiting, inHand, moreInHand, holds, moreHolds } = row;
  const constraint = floor.constraint?.station === station.code;
  const mostHolds = useMediaQuery(TALL) ? MOST_HOLDS_TALL : MOST_HOLDS;
  const later = moreHolds + Math.max(0, holds.length - mostHolds);
  return (
    <div className={`boardrow${constraint ? ' constraint' : ''}`} role="group" aria-label={station.name}>
      <StationName station={station} />
      <div className="waiting">
        {moreWaiting > 0 && (
          <Link
            className="morelink"
            to={`/stage/${station.stage}`}
            aria-label={`${moreWaiting} more waiting at ${station.name}`}
          >
            +{moreWaiting}
          </Link>
        )}
        {waiting.toReversed().map((rack) => (
          <WaitingRack key={rack.batch + rack.operation} rack={rack} nowMs={nowMs} />
        ))}
      </div>
      <div className="inhand">
        {inHand.map((rack) => (
          <PegRack
            key={rack.batch + rack.operation}
            code={rack.batch}
            pegs={rack.pegs}
            tag={`${rack.done}/${rack.pegs.filter((peg) => peg !== 'scrapped').length}`}
            inverted
            wide
            words={`${rack.model}, in hand at ${rack.operationName}`}
            href={`/batch/${rack.batch}`}
          />
        ))}
        {moreInHand > 0 && (
          <Link
            className="morelink"
            to={`/stage/${station.stage}`}
            aria-label={`${moreInHand} more in hand at ${station.name}`}
          >
            +{moreInHand}
          </Link>
        )}
      </div>
      <div className="holds">
        <DayLines nowMs={nowMs} zone={floor.zone} />
        {holds.slice(0, mostHolds).map((at) => (
          <HoldOf key={at.batch + at.hold.operation} at={at} nowMs={nowMs} zone={floor.zone} />
        ))}
        {later > 0 && (
          <Link
            className="morelink laterlink"
            to={`/stage/${station.stage}`}
            aria-label={`${later} more on hold at ${station.name}, ending later`}
          >
            +{later} later
          </Link>
        )}
      </div>
    </div>
  );
}

function DayLines({ nowMs, zone }: { nowMs: number; zone: string }) {
  return (
    <span className="daylines" aria-hidden="true">
      {daysAhead(nowMs, zone, AXIS_DAYS).map(({ ms }) => (
        <i key={ms} style={{ left: `${(100 * (ms - nowMs)) / (AXIS_DAYS * DAY_MS)}%` }} />
      ))}
    </span>
  );
}

/** A rack that waits: how late it is, and how many of its pieces are here. */
export function WaitingRack({ rack, nowMs }: { rack: RackAt; nowMs: number }) {
  const late = lateTag(rack.dueMs, nowMs);
  return (
    <PegRack
      code={rack.batch}
      pegs={rack.pegs}
      tag={late}
      late={late !== null}
      words={`${rack.model}, ${rack.here} waiting at ${rack.operationName}`}
      href={`/batch/${rack.batch}`}
    />
  );
}

function HoldOf({ at, nowMs, zone }: { at: HoldAt; nowMs: number; zone: string }) {
  const { hold, batch } = at;
  const unread = hold.rule === 'moisture' && hold.endMs === null;
  const until =
    hold.endMs === null ? (unread ? 'read it' : 'open') : sayTime(hold.endMs, zone, nowMs, rangeOf(hold));
  return (
    <HoldBar
      code={batch}
      word={hold.word}
      over={hold.over}
      nowMs={nowMs}
      axisEndMs={nowMs + AXIS_DAYS * DAY_MS}
      endMs={hold.endMs}
      lowMs={hold.lowMs}
      highMs={hold.highMs}
      until={until}
      href={`/batch/${batch}`}
    />
  );
}
