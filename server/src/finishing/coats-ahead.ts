import {
  coatsAsked,
  coatsOn,
  earliestEndMs,
  hasLeft,
  type FactoryCalendar,
  type FinishPlan,
  type JoinOperation,
  type Route,
  type WorkingClock,
} from '@ample-crane/core';
import type { RackInQuestion } from '../floor/racks.service.ts';

/** What parts of a kind go by unless somebody chooses otherwise. */
export interface Usual {
  route: Route;
  plan: FinishPlan | undefined;
}

/** When pieces come to an operation, of this rack or of what it becomes. */
type Comes = (upTo: string, from?: RackInQuestion, fromMs?: number) => number;

/** Coats that are still to come on so many pieces, and when. */
export interface CoatAhead {
  kind: string;
  coat: Pick<FinishPlan['coats'][number], 'spec' | 'transferPct'>;
  pieces: number;
  atMs: number;
}

/** The coats that are to come on a rack by its recipe, and on what it becomes by the usual one of that. */
export function coatsAhead(
  rack: RackInQuestion,
  usual: Usual | null,
  time: { nowMs: number; calendar: FactoryCalendar; clock: WorkingClock },
): CoatAhead[] {
  const comes: Comes = (upTo, from = rack, fromMs = time.nowMs) =>
    earliestEndMs({ ...from, ...time, nowMs: fromMs, holds: [], upTo }) ?? fromMs;
  return [...coming(rack, comes), ...afterJoin(rack, comes, usual)];
}

function coming({ state, route }: RackInQuestion, comes: Comes): CoatAhead[] {
  return route.operations.flatMap((operation, index) => {
    const asked = coatsAsked(state, operation);
    const atMs = asked.length > 0 ? comes(operation.key) : 0;
    return asked.map((coat, number) => ({
      ...{ kind: state.kind, coat, atMs },
      pieces: state.pieces.filter((piece) => {
        if (hasLeft(piece)) return false;
        const at = route.operations.findIndex(({ key }) => key === piece.operation);
        return at < index || (at === index && coatsOn(state, piece) <= number);
      }).length,
    }));
  });
}

/** The join at which a rack's pieces become parts of another kind. */
const joinAhead = ({ state, route }: RackInQuestion): JoinOperation | undefined =>
  route.operations.find(
    (operation): operation is JoinOperation =>
      operation.mode === 'join' && operation.role === 'host' && operation.makesKind !== state.kind,
  );

/** What a rack's pieces become; null: they stay what they are. */
export const kindAfterJoin = (rack: RackInQuestion): string | null => joinAhead(rack)?.makesKind ?? null;

/** The coats of what a rack becomes, by the usual route and finish of that. */
function afterJoin(rack: RackInQuestion, comes: Comes, usual: Usual | null): CoatAhead[] {
  const join = joinAhead(rack);
  const [first] = usual?.route.operations ?? [];
  if (!join || !usual || !first) return [];
  const { state } = rack;
  const pieces = state.pieces.filter((piece) => !hasLeft(piece));
  const joinedMs = comes(join.key);
  const instruments: RackInQuestion = {
    route: usual.route,
    state: { ...state, pieces: pieces.map((piece) => ({ ...piece, operation: first.key })) },
  };
  return (usual.plan?.coats ?? []).flatMap((coat) => {
    const atMs = comes(coat.at, instruments, joinedMs);
    return Array.from({ length: coat.coats }, () => ({
      ...{ kind: join.makesKind, coat, pieces: pieces.length, atMs },
    }));
  });
}
