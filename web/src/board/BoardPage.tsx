import { DAY_MS } from '@ample-crane/core';
import { Typography, useMediaQuery } from '@mui/material';
import { lazy, Suspense, useCallback, useRef, useState } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { useBoard, useFloor, type Board, type Floor } from '../api/queries.ts';
import { rackQuestion } from '../fields/RackFilters.tsx';
import { daysAhead, useFactoryNow } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { EmptyState, Opening, Quiet } from '../parts/index.ts';
import { AskBoard, BoardName, NotAll, rowsOf } from './AskBoard.tsx';
import { ByModel } from './ByModel.tsx';
import { ByOrder } from './ByOrder.tsx';
import { Calls } from './Calls.tsx';
import { ScaleHead, ScaleRow, scalesOf } from './ScaleRow.tsx';
import { AXIS_DAYS, StationRow } from './StationRow.tsx';
import { withStations } from './rows.ts';
import { useMoves } from './useMoves.ts';
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
  const address = useInAddress();
  const [asking, setAsking] = useState(false);
  const onAsk = (): void => setAsking(true);
  const question = rackQuestion(address);
  const { data: board, error, isPlaceholderData } = useBoard(question);
  const { data: floor, dataUpdatedAt } = useFloor();
  const nowMs = useFactoryNow(floor, dataUpdatedAt);
  const callsFirst = useMediaQuery(PHONE);
  const { state, search } = useLocation() as { state: { tour?: boolean } | null; search: string };
  const touring = state?.tour === true;
  const navigate = useNavigate();
  const endTour = useCallback(() => void navigate('/', { replace: true }), [navigate]);
  const area = useRef<HTMLElement>(null);
  useMoves(area, board, isPlaceholderData ? 'on its way' : search);
  if (!board || !floor) return <Opening error={error} words="Looking at the floor…" />;
  const by = rowsOf(address);
  return (
    <div className="boardpage">
      {callsFirst && <Calls {...{ board, floor, nowMs }} />}
      <section ref={area} className="board" aria-label={`Now board, by ${by}`}>
        <NotAll {...{ board, address }} />
        {by === 'model' && <ByModel {...{ floor, address, onAsk }} />}
        {by === 'order' && <ByOrder {...{ floor, address, onAsk }} />}
        {by === 'station' && (
          <ByStation
            {...{ board, floor, nowMs, onAsk }}
            stage={address.asked('stage')}
            asked={Object.keys(question).length > 0}
          />
        )}
        {board.racks === 0 && (
          <EmptyState>
            Nothing is open. <Link to="/open">Open a first batch</Link>.
          </EmptyState>
        )}
      </section>
      {!callsFirst && <Calls {...{ board, floor, nowMs }} />}
      <AskBoard open={asking} onClose={() => setAsking(false)} address={address} />
      {touring && (
        <Suspense>
          <Tour onEnd={endTour} />
        </Suspense>
      )}
    </div>
  );
}

/** A row for each station; few racks are drawn one by one, many to scale. `asked`: not all of them are drawn. */
function ByStation({
  board,
  floor,
  nowMs,
  stage,
  asked,
  onAsk,
}: {
  board: Board;
  floor: Floor;
  nowMs: number;
  /** The one that is asked for; '': all. */
  stage: string;
  asked: boolean;
  onAsk: () => void;
}) {
  const rows = withStations(board.rows, floor).filter(
    ({ station }) => stage === '' || station.stage === stage,
  );
  const used = rows.filter((row) => row.used);
  const idle = rows.filter((row) => !row.used);
  const large = board.drawn > MOST_DRAWN;
  // The work in front of a station is that of all racks: a bar of it stands for all or is not drawn.
  const scales = scalesOf(used, !asked);
  const { days } = board;
  const { zone } = floor;
  return (
    <>
      {large ? (
        <ScaleHead {...{ days, nowMs, scales, zone, onAsk }} />
      ) : (
        <BoardHead {...{ nowMs, zone, onAsk }} />
      )}
      {used.map((row) =>
        large ? (
          <ScaleRow key={row.station.code} {...{ row, floor, nowMs, days, scales }} />
        ) : (
          <StationRow key={row.station.code} {...{ row, floor, nowMs }} />
        ),
      )}
      {board.drawn > 0 && idle.length > 0 && (
        <Typography color="textSecondary" className="idle">
          {asked ? 'None of them' : 'No open rack'} goes through{' '}
          {idle.map(({ station }) => station.name).join(', ')}.
        </Typography>
      )}
    </>
  );
}

function BoardHead({ nowMs, zone, onAsk }: { nowMs: number; zone: string; onAsk: () => void }) {
  return (
    <div className="boardrow boardhead">
      <BoardName onAsk={onAsk} />
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
