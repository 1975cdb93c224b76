import { weighWays, type Route, type WeighedFork, type Ways } from '@ample-crane/core';
import {
  FormControlLabel,
  Radio,
  Table,
  TableBody,
  TableCell,
  TableHead,
  TableRow,
  Typography,
} from '@mui/material';
import { useId, useMemo } from 'react';
import type { Setup } from '../api/queries.ts';
import { Quiet, Sideways } from '../parts/index.ts';

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
  if (forks.length === 0) return <Typography color="textSecondary">This route leaves no choice.</Typography>;
  return (
    <>
      {forks.map((fork) => (
        <ForkTable key={fork.at} fork={fork} chosen={ways?.[fork.at]} onChoose={onChoose} />
      ))}
      <Typography color="textSecondary">
        For {pieces} pieces; a person's hour at {hourRates.person}, a machine's at {hourRates.machine}.
        Elapsed is the mean over starts through a working week. What follows for all ways alike is left out.
      </Typography>
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
  // One of a group: Tab leads to the way that is chosen, arrows to the others.
  const group = useId();
  return (
    <Sideways>
      <Table aria-label={`Ways after ${fork.name}`}>
        <TableHead>
          <TableRow>
            {[
              `after ${fork.name}`,
              ...['people', 'machines', 'held', 'elapsed', 'a piece', 'good of 100', 'skill', 'risk'],
            ].map((head) => (
              <TableCell key={head} scope="col">
                {head}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {fork.ways.map((way, i) => (
            <TableRow key={way.way}>
              <TableCell>
                {onChoose ? (
                  <FormControlLabel
                    control={
                      <Radio
                        size="small"
                        name={group}
                        checked={(chosen ?? fork.ways[0]?.way) === way.way}
                        onChange={() => onChoose(fork.at, way.way)}
                      />
                    }
                    label={way.name}
                  />
                ) : (
                  <strong>{way.name}</strong>
                )}
                <Quiet block>
                  {way.operations.length > 1 ? way.operations.slice(1).join(', ') : ''}
                  {i === 0 ? ' (usual)' : ''}
                </Quiet>
              </TableCell>
              {way.operations.length === 0 ? (
                <TableCell colSpan={8} className="quiet">
                  nothing more to do: it goes on with what all ways share
                </TableCell>
              ) : (
                <>
                  <TableCell sx={{ whiteSpace: 'nowrap' }}>{way.workHours.toFixed(1)} h</TableCell>
                  <TableCell sx={{ whiteSpace: 'nowrap' }}>{way.machineHours.toFixed(1)} h</TableCell>
                  <TableCell sx={{ whiteSpace: 'nowrap' }}>{way.heldDays.toFixed(1)} d</TableCell>
                  <TableCell sx={{ whiteSpace: 'nowrap' }}>{way.elapsedDays.toFixed(1)} d</TableCell>
                  <TableCell>{way.costPerPiece.toFixed(2)}</TableCell>
                  <TableCell>{way.yieldPct.toFixed(1)}</TableCell>
                  <TableCell>{way.skills.join(', ') || 'anyone'}</TableCell>
                  <TableCell>{way.risks.join('; ') || 'none noted'}</TableCell>
                </>
              )}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Sideways>
  );
}
