import { buildOn, coatsAsked, coatsOn, type Layer } from '../coats/index.ts';
import type { BatchState } from '../ledger/index.ts';
import { operationIndex, type Operation, type Route } from '../route/index.ts';
import { dryFilmUm, sandThroughRisk } from '../finishing/film.ts';
import { summarise } from '../stats/descriptive.ts';

/** What a sanding to come would leave, piece by piece of a group. */
export interface SandingAhead {
  name: string;
  grits: number[];
  removalUm: number;
  leftUm: number;
  sdUm: number;
  minimumUm: number;
  /** Share of pieces left thinner than the minimum, and sanded through to the wood, 0…1. */
  thinShare: number;
  throughShare: number;
}

/** How the build spreads from piece to piece: the coats' own spreads and the sandings', independent of each other, µm. */
export function buildSd({ sandings = [] }: BatchState, layers: readonly Layer[], position: number): number {
  const coats = layers.map(({ coat, filmUm }) => {
    const wetSd = coat.wetUms && coat.wetUms.length > 1 ? summarise(coat.wetUms).sd : coat.spec.wetSdUm;
    return filmUm === 0 ? 0 : (wetSd * coat.spec.solidsPct) / 100;
  });
  const off = sandings.flatMap((one) => (one.positions.includes(position) ? one.removalSdUm : []));
  return Math.hypot(...coats, ...off, 0);
}

/** The next sanding its recipe asks for, with the coats that are still to come before it as planned. */
export function sandingAhead(
  state: BatchState,
  route: Route,
  operation: Operation,
  positions: readonly number[],
  layers: readonly Layer[],
): SandingAhead | null {
  const { finish, sandings = [] } = state;
  if (!finish) return null;
  const here = operationIndex(route, operation.key);
  const since = Math.max(
    0,
    ...state.pieces.filter((p) => positions.includes(p.position)).map((p) => p.sinceMs),
  );
  const sanded = sandings.some(
    (one) =>
      one.operation === operation.key &&
      one.atMs >= since &&
      one.positions.some((p) => positions.includes(p)),
  );
  const next = finish.sandings.find(({ at }) => {
    const index = operationIndex(route, at);
    return index > here || (index === here && !sanded);
  });
  if (!next || (next.removalUm === 0 && next.removalSdUm === 0)) return null;
  const until = operationIndex(route, next.at);
  const coming = route.operations.slice(here, until).flatMap((one) => {
    const first = state.pieces.find(({ position }) => position === positions[0]);
    const on = one.key === operation.key && first ? coatsOn(state, first) : 0;
    return coatsAsked(state, one).slice(on);
  });
  const films = coming.map(({ spec }) => dryFilmUm(spec));
  const buildUm = buildOn(layers) + films.reduce((sum, um) => sum + um, 0);
  const buildSdUm = Math.hypot(
    buildSd(state, layers, positions[0] ?? 0),
    ...coming.map(({ spec }) => (spec.wetSdUm * spec.solidsPct) / 100),
  );
  if (buildUm === 0) return null;
  const { removalUm, removalSdUm, name, grits } = next;
  const film = { buildUm, buildSdUm, removalUm, removalSdUm };
  const minimumUm = next.leavesUm ?? finish.minimumUm;
  const thin = sandThroughRisk({ ...film, minimumUm });
  return {
    name,
    grits,
    removalUm,
    leftUm: thin.leftUm,
    sdUm: thin.sdUm,
    minimumUm,
    thinShare: thin.share,
    throughShare: sandThroughRisk({ ...film, minimumUm: 0 }).share,
  };
}
