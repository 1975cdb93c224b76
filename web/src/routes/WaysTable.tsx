import { weighWays, type Route, type WeighedFork, type Ways } from '@ample-crane/core';
import { Radio } from '@mui/material';
import { useMemo } from 'react';
import type { Setup } from '../api/queries.ts';

const PIECES = 12;

/** The forks of a route with their ways side by side: time, cost, skill and risk, for a usual rack. */
export function WaysTable({
  route,
  setup,
  nowMs,
  pieces = PIECES,
  ways,
  onChoose,
}: {
  route: Route;
  setup: Pick<Setup, 'calendar' | 'hourRates'>;
  nowMs: number;
  pieces?: number;
  ways?: Ways;
  /** Left out: only shown. */
  onChoose?: (at: string, way: string) => void;
}) {
  const { calendar, hourRates } = setup;
  const forks = useMemo(
    () => weighWays({ route, pieces, atMs: nowMs, calendar, rates: hourRates, ...(ways ? { ways } : {}) }),
    [route, pieces, nowMs, calendar, hourRates, ways],
  );
  if (forks.length === 0) return <p className="quiet">This route leaves no choice.</p>;
  return (
    <>
      {forks.map((fork) => (
        <ForkTable key={fork.at} fork={fork} chosen={ways?.[fork.at]} onChoose={onChoose} />
      ))}
      <p className="quiet">
        For {pieces} pieces; a person's hour at {hourRates.person}, a machine's at {hourRates.machine}.
        Elapsed is the mean over starts through a working week. What follows for all ways alike is left out.
      </p>
    </>
  );
}

function ForkTable({
  fork,
  chosen,
  onChoose,
}: {
  fork: WeighedFork;
  chosen: string | undefined;
  onChoose: ((at: string, way: string) => void) | undefined;
}) {
  return (
    <div style={{ overflowX: 'auto' }}>
      <table aria-label={`Ways after ${fork.name}`}>
        <thead>
          <tr>
            {[
              `after ${fork.name}`,
              ...['people', 'machines', 'held', 'elapsed', 'a piece', 'good of 100', 'skill', 'risk'],
            ].map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {fork.ways.map((way, i) => (
            <tr key={way.way}>
              <td>
                {onChoose ? (
                  <label>
                    <Radio
                      size="small"
                      checked={(chosen ?? fork.ways[0]?.way) === way.way}
                      onChange={() => onChoose(fork.at, way.way)}
                    />
                    {way.name}
                  </label>
                ) : (
                  <strong>{way.name}</strong>
                )}
                <div className="quiet">
                  {way.operations.length > 1 ? way.operations.slice(1).join(', ') : ''}
                  {i === 0 ? ' (usual)' : ''}
                </div>
              </td>
              {way.operations.length === 0 ? (
                <td colSpan={8} className="quiet">
                  nothing more to do: it goes on with what all ways share
                </td>
              ) : (
                <>
                  <td>{way.workHours.toFixed(1)} h</td>
                  <td>{way.machineHours.toFixed(1)} h</td>
                  <td>{way.heldDays.toFixed(1)} d</td>
                  <td>{way.elapsedDays.toFixed(1)} d</td>
                  <td>{way.costPerPiece.toFixed(2)}</td>
                  <td>{way.yieldPct.toFixed(1)}</td>
                  <td>{way.skills.join(', ') || 'anyone'}</td>
                  <td>{way.risks.join('; ') || 'none noted'}</td>
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
