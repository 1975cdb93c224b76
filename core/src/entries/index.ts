/** The reducer: every kind of entry and what it makes of a batch; replay and corrections. */
export {
  FILED_KINDS,
  kindOf,
  KINDS,
  type AskedEntry,
  type BodyOf,
  type Entry,
  type EntryBody,
  type EntryType,
} from './kinds.ts';
export { applyEntry } from './reduce.ts';
export { applyLogged, applyUndo, replay, routeIn, routesNamed, type RouteBook } from './replay.ts';
export { toAccept } from './accept.ts';
export { SERIAL_TO_COME, serialsDue } from './serial.ts';
export { shippingAgainst, type WoodPapers } from './ship.ts';
