import type { Observation } from './mtconnect.ts';

/** One run of a program on one path, as observations tell it. */
export interface Cycle {
  path: string;
  program: string | null;
  startedMs: number;
  endedMs: number | null;
  heldMinutes: number;
  outcome: 'running' | 'complete' | 'broken off' | 'lost';
  note: string;
}

/** What is known of a path between two polls. Kept, so that a server that stops goes on where it was. */
export interface PathState {
  program: string | null;
  /** Last execution told. */
  execution: string | null;
  /** Since when it is held within a cycle; null: it cuts. */
  heldSinceMs: number | null;
  cycle: Cycle | null;
}

export const FRESH_PATH: PathState = { program: null, execution: null, heldSinceMs: null, cycle: null };

const HELD = new Set(['FEED_HOLD', 'INTERRUPTED', 'OPTIONAL_STOP', 'PROGRAM_STOPPED', 'WAIT']);
const OVER = new Set(['READY', 'PROGRAM_COMPLETED', 'STOPPED', 'UNAVAILABLE']);

/**
 * Turns a path's observations into cycles: ACTIVE from rest begins one; READY or PROGRAM_COMPLETED after it ends it as
 * complete, STOPPED as broken off, UNAVAILABLE as lost; feed hold and stops within it are held minutes. Gives the path's
 * next state and every cycle that changed, the running one last.
 */
export function followPath(
  before: PathState,
  path: string,
  observations: readonly Observation[],
): { state: PathState; cycles: Cycle[] } {
  let state = { ...before };
  const changed: Cycle[] = [];
  for (const { item, value, atMs } of observations.toSorted((a, b) => a.sequence - b.sequence)) {
    if (item === 'Program') {
      state = { ...state, program: value === 'UNAVAILABLE' ? null : value };
      if (state.cycle && state.program !== null && state.cycle.program === null)
        state.cycle = { ...state.cycle, program: state.program };
    }
    if (item === 'Condition' && value.startsWith('Fault') && state.cycle)
      state.cycle = { ...state.cycle, note: value.slice('Fault'.length).trim() };
    if (item !== 'Execution') continue;
    const ended = ending(state, value, atMs);
    if (ended) {
      changed.push(ended);
      state = { ...state, cycle: null, heldSinceMs: null };
    }
    state = { ...running(state, path, value, atMs), execution: value };
  }
  if (state.cycle) changed.push(state.cycle);
  return { state, cycles: changed };
}

/** The cycle as it ended with this execution; undefined while none runs or it goes on. */
function ending({ cycle, heldSinceMs }: PathState, execution: string, atMs: number): Cycle | undefined {
  if (!cycle || !OVER.has(execution)) return undefined;
  const held = heldSinceMs === null ? 0 : Math.max(0, atMs - heldSinceMs) / 60_000;
  const outcome = execution === 'UNAVAILABLE' ? 'lost' : execution === 'STOPPED' ? 'broken off' : 'complete';
  return {
    ...cycle,
    // A clock that jumped back must not make a cycle end before it began.
    endedMs: Math.max(cycle.startedMs, atMs),
    heldMinutes: cycle.heldMinutes + held,
    outcome,
  };
}

function running(state: PathState, path: string, execution: string, atMs: number): PathState {
  if (execution === 'ACTIVE') {
    const { cycle } = state;
    if (!cycle) {
      const { program } = state;
      const fresh = { path, program, startedMs: atMs, endedMs: null, heldMinutes: 0, note: '' };
      return { ...state, heldSinceMs: null, cycle: { ...fresh, outcome: 'running' } };
    }
    const held = state.heldSinceMs === null ? 0 : Math.max(0, atMs - state.heldSinceMs) / 60_000;
    return { ...state, heldSinceMs: null, cycle: { ...cycle, heldMinutes: cycle.heldMinutes + held } };
  }
  if (state.cycle && HELD.has(execution) && state.heldSinceMs === null)
    return { ...state, heldSinceMs: atMs };
  return state;
}
