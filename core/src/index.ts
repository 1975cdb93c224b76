/** The public surface of the core: no interface code, no clock, no chance of its own. Types stand apart below. */

export {
  HOUR_MS,
  MINUTE_MS,
  DAY_MS,
  boardFeet,
  celsiusFromFahrenheit,
  fahrenheitFromCelsius,
  inchesFromMm,
  mmFromInches,
  umFromMils,
} from './units/quantities.ts';
export {
  addWorkingMinutes,
  factoryDate,
  instantOfClock,
  shiftAt,
  shiftDate,
  startOfFactoryDay,
  workingMinutesBetween,
  workingMinutesOfDay,
  workingSpanAt,
  workingSpansOfDay,
} from './time/calendar.ts';
export { quantile, summarise } from './stats/descriptive.ts';
export { randomStream } from './stats/random.ts';

export { equilibriumMoistureContentPct, relativeHumidityForEmcPct } from './wood/emc.ts';
export { gateSentence, judgeMoisture } from './wood/gate.ts';
export { dryingOutlook, DRYING_TAU_DAYS } from './wood/drying.ts';
export { parseReadingsSheet } from './wood/readings-sheet.ts';
export { dewPointC } from './finishing/dew-point.ts';
export { cureRate, curedHours, usualAir } from './finishing/cure.ts';
export { settlingDriftMm } from './assembly/settling.ts';

export {
  operationAfter,
  operationIndex,
  operationOf,
  routeProblems,
  STAGES,
  workMinutes,
} from './routing/route.ts';
export { hasLeft, holdGroups, isClosed, pieceCode } from './routing/batch.ts';
export { applyEntry, holdContext, LARGEST_BATCH } from './routing/reduce.ts';
export { applyUndo, replay, voidedBy } from './routing/replay.ts';
export { planJoin } from './routing/join.ts';
export { factsForRelease, roomsInQuestion } from './routing/facts.ts';
export { isRefusal, refuse } from './routing/refusal.ts';
export { operationsInUse, tallyAt } from './routing/tally.ts';
export { whereabouts } from './routing/select.ts';
export { forecastEnd, isOver } from './routing/holds/index.ts';
export { cureProgressHours, cureStartMs } from './routing/holds/cure.ts';
export { judgeRack } from './routing/holds/moisture.ts';
export { spanWords } from './routing/holds/words.ts';

export { LONGEST_LINE, parseLine, VERBS } from './logline/parse.ts';
export { actionWords, lineEffect } from './logline/describe.ts';
export { applyAll } from './logline/preview.ts';

export { constraintSign, hoursByStation, stationLoads } from './flow/station-load.ts';
export { ropeStages } from './flow/rope.ts';
export { earliestEndMs } from './flow/due.ts';
export { calls } from './flow/calls.ts';

export type { FactoryCalendar, Shift, WallSpan, WorkingSpan } from './time/calendar.ts';
export type { Summary } from './stats/descriptive.ts';
export type { RandomStream } from './stats/random.ts';
export type { Air } from './wood/emc.ts';
export type { GateVerdict, MoistureJudgement, MoistureWindow } from './wood/gate.ts';
export type { ReadingsSheet, SheetProblem, SheetReading } from './wood/readings-sheet.ts';
export type { ClimateSample, CureKinetics } from './finishing/cure.ts';
export type { Operation, OperationMode, Route, Stage, Station } from './routing/route.ts';
export type { BatchState, HoldGroup, Override, PieceState, Standing } from './routing/batch.ts';
export type { Entry, EntryBody, EntryType, Facts, JoinBody, Selection, UndoBody } from './routing/entry.ts';
export type { Applied, Effect } from './routing/reduce.ts';
export type { Refusal, RefusalCode } from './routing/refusal.ts';
export type { JoinPlan, JoinSide } from './routing/join.ts';
export type { Tally } from './routing/tally.ts';
export type {
  Coat,
  HoldContext,
  HoldForecast,
  HoldJudgement,
  HoldRule,
  MeasureSet,
  ReadingSet,
} from './routing/holds/rules.ts';
export type { LineAction, NotUnderstood, Parsed, Understood } from './logline/parse.ts';
export type { Vocabulary } from './logline/vocabulary.ts';
export type { Call, CallAction, CallKind, DueSight, HoldSight } from './flow/calls.ts';
export type { Constraint, LoadDay, RoutedBatch, StationLoad } from './flow/station-load.ts';
export type { RopeStage } from './flow/rope.ts';
