/** The reducer: every kind of entry and what it makes of a batch; replay and corrections. */
export { LARGEST_BATCH } from './open.ts';
export { applyEntry } from './reduce.ts';
export { applyLogged, applyUndo, replay, routeIn, routesNamed, voidedBy, type RouteBook } from './replay.ts';
