import { DAY_MS } from '@ample-crane/core';
import { Typography, useMediaQuery } from '@mui/material';
import { lazy, Suspense, useCallback } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { useBoard, useFloor } from '../api/queries.ts';
import { daysAhead, useFactoryNow } from '../shared/time.ts';
import { EmptyState, Opening, Quiet } from '../parts/index.ts';
import { Calls } from './Calls.tsx';
import { ScaleHead, ScaleRow, scalesOf } from './ScaleRow.tsx';
import { AXIS_DAYS, StationRow } from './StationRow.tsx';
import { withStations } from './rows.ts';
import './BoardPage.css';
import './board.css';

/** Few ask for it: it is loaded when it is. */
const Tour = lazy(() => import('./Tour.tsx'));

/** Up to so many open racks are drawn one by one; a larger works is drawn to scale. */
const MOST_DRAWN = 60;
/** In a hand there is room for one thing: what wants you comes before where everything is. */
const PHONE = '(max-width: 600px)';

/** Left of the Now line what waits, on it what is in hand, right of it what is on hold and until when. */
export function BoardPage() {
  const { data: board, error } = useBoard();
  const { data: floor, dataUpdatedAt } = useFloor();
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  const callsFirst = useMediaQuery(PHONE);
  const { state } = useLocation() as { state: { tour?: boolean } | null };
  const touring = state?.tour === true;
  const navigate = useNavigate();
  const endTour = useCallback(() => void navigate('/', { replace: true }), [navigate]);
  if (!board || !floor) return <Opening error={error} words="Looking at the floor…" />;
  const rows = withStations(board.rows, floor);
  const used = rows.filter((row) => row.used);
  const idle = rows.filter((row) => !row.used);
  const large = board.racks > MOST_DRAWN;
  const scales = scalesOf(used);
  const { days } = board;
  return (
    <div className="boardpage">
      {callsFirst && <Calls {...{ board, floor, nowMs }} />}
      <section className="board" aria-label="Now board, by station">
        {large ? (
          <ScaleHead {...{ days, nowMs, scales }} zone={floor.zone} />
        ) : (
          <BoardHead nowMs={nowMs} zone={floor.zone} />
        )}
        {used.map((row) =>
          large ? (
            <ScaleRow key={row.station.code} {...{ row, floor, nowMs, days, scales }} />
          ) : (
            <StationRow key={row.station.code} {...{ row, floor, nowMs }} />
          ),
        )}
        {board.racks > 0 && idle.length > 0 && (
          <Typography color="textSecondary" className="idle">
            No open rack goes through {idle.map(({ station }) => station.name).join(', ')}.
          </Typography>
        )}
        {board.racks === 0 && (
          <EmptyState>
            Nothing is open. <Link to="/open">Open a first batch</Link>.
          </EmptyState>
        )}
      </section>
      {!callsFirst && <Calls {...{ board, floor, nowMs }} />}
      {touring && (
        <Suspense>
          <Tour onEnd={endTour} />
        </Suspense>
      )}
    </div>
  );
}

function BoardHead({ nowMs, zone }: { nowMs: number; zone: string }) {
  return (
    <div className="boardrow boardhead">
      <Typography variant="h1" style={{ paddingLeft: 20 }}>
        Now board
      </Typography>
      <Quiet style={{ textAlign: 'right', paddingRight: 10 }}>waiting</Quiet>
      <strong style={{ textAlign: 'center' }}>in hand</strong>
      <div className="axis">
        <span className="now">on hold until</span>
        {daysAhead(nowMs, zone, AXIS_DAYS).map(({ ms, name }) => {
          const left = (100 * (ms - nowMs)) / (AXIS_DAYS * DAY_MS);
          return left > 30 && left < 94 ? (
            <span key={ms} style={{ left: `${left}%` }}>
              {name}
            </span>
          ) : null;
        })}
      </div>
    </div>
  );
}
