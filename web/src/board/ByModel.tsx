import { count } from '@ample-crane/core';
import { Typography } from '@mui/material';
import { Link } from 'react-router';
import type { Floor } from '../api/queries.ts';
import { EmptyState, Opening } from '../parts/index.ts';
import { sayDate } from '../shared/time.ts';
import type { InAddress } from '../shared/useInAddress.ts';
import { byModel } from './by-model.ts';
import { MarkRow, MarksHead, stagesOf } from './MarkRow.tsx';
import { useAskedRacks } from './useAskedRacks.ts';

/** Every open rack as a mark: a row for each model, a column for each stage. */
export function ByModel({ floor, address, onAsk }: { floor: Floor; address: InAddress; onAsk: () => void }) {
  const stageOf = stagesOf(floor);
  const { asked, all, error } = useAskedRacks(address, stageOf);
  if (!asked) return <Opening error={error} />;
  const rows = byModel(asked, stageOf);
  return (
    <>
      <MarksHead last="due next" onAsk={onAsk} />
      {rows.map(({ model, racks, pieces, late, next, stages }) => (
        <MarkRow
          key={model}
          {...{ stages, address }}
          name={model}
          list={{ model }}
          head={
            <>
              <b>{model}</b>
              <span>
                {count(racks, 'rack')}, {count(pieces, 'piece')}
              </span>
            </>
          }
        >
          <Link to={`/batch/${next.batch}`} data-rack={next.batch} className="condensed codelink">
            {next.batch}
          </Link>{' '}
          {sayDate(next.dueMs, floor.zone)}
          {late > 0 && (
            <Typography sx={{ fontSize: 12, color: 'error.main', fontWeight: 700 }}>
              {late} of {racks} late
            </Typography>
          )}
        </MarkRow>
      ))}
      {rows.length === 0 && all > 0 && <EmptyState>No open rack is like that.</EmptyState>}
    </>
  );
}
