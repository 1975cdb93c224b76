/** Routes: the graph of operations, the ways through it, its validation, comparison and weighing. */
export { CAUTIONS, REMINDER, cautionWords } from './cautions.ts';
export { compareRoutes, type RouteChange } from './compare.ts';
export {
  windowOf,
  type AgeingRule,
  type CureRule,
  type ElapsedRule,
  type HoldRule,
  type MoistureRule,
  type SettleRule,
} from './hold-rule.ts';
export { plannedHoldHours } from './planned.ts';
export { ROUTE_FORMAT, ROUTE_SCHEMA } from './route-schema.ts';
export {
  STAGES,
  carries,
  endsRoute,
  operationAfter,
  operationIndex,
  operationOf,
  workMinutes,
  type AttendedOperation,
  type HoldOperation,
  type JoinOperation,
  type LoadOperation,
  type Operation,
  type OperationMode,
  type Route,
  type SplitOperation,
  type Stage,
  type Station,
} from './route.ts';
export { allWays, validateRoute, type RouteProblem, type RouteWorld } from './validate.ts';
export { followers, forks, unknownWays, workedRoute, type Fork, type Ways } from './ways.ts';
export { HOUR_RATES, weighWays, type HourRates, type WeighedFork, type WeighedWay } from './weigh-ways.ts';
