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
export { MAY_BE } from './units/may-be.ts';
export {
  decimalsIn,
  differenceIn,
  METRIC,
  numberIn,
  saidIn,
  signIn,
  typedIn,
  unitEdits,
  wordsIn,
} from './units/chosen.ts';
export {
  addWorkingMinutes,
  closedWords,
  factoryDate,
  instantOfClock,
  nearestWorkingDays,
  shiftAt,
  shiftDate,
  shiftsOn,
  startOfFactoryDay,
  stationCalendar,
  workingMinutesBetween,
  workingMinutesOfDay,
  workingSpanAt,
  workingSpansOfDay,
} from './time/calendar.ts';
export { calendarFault, overtimeKey, withClosed, withOvertime, withShifts } from './time/change-calendar.ts';
export { instantFromIso, instantsShowing } from './time/instant.ts';
export { grainOf, rangeOf, type DateGrain } from './time/grain.ts';
export { workingClock } from './time/working-clock.ts';
export { quantile, summarise } from './stats/descriptive.ts';
export { countUpTo, groupedBy } from './stats/grouped.ts';
export { randomStream } from './stats/random.ts';
export { toleranceFactor } from './stats/tolerance.ts';
export { equilibriumMoistureContentPct, loggedAirEmcPct, relativeHumidityForEmcPct } from './wood/emc.ts';
export { gateSentence, judgeMoisture, moistureWindow } from './wood/gate.ts';
export { METER_RESOLVES } from './wood/reading.ts';
export { judgeSample, believedReadings } from './wood/sample.ts';
export { readingFloors } from './wood/drying/floors.ts';
export { priorTauDays, yearPerInchDays } from './wood/drying/prior.ts';
export { fitDrying } from './wood/drying/fit.ts';
export { dryingAir, USUAL_DAYS, WANDER_DAYS } from './wood/drying/logged.ts';
export { dryingFan, fittedCurve, forecastDrying } from './wood/drying/forecast.ts';
export {
  correctMeterReadingPct,
  fitMeterLine,
  LINE_GOOD_FOR_DAYS,
  METER_TEMPERATURE_C,
  ovenDryMoisturePct,
  readingAtReferencePct,
  UNCORRECTED,
} from './wood/meter.ts';
export { movementMm } from './wood/movement.ts';
export { densityKgM3, SPECIES, speciesNamed } from './wood/species.ts';
export { judgeRoom } from './wood/room.ts';
export { doubtsOf, readSensorMessage, sensorHealth, sensorInstant } from './wood/sensor.ts';
export { planBlanks } from './wood/plan-blanks.ts';
export {
  chooseBlanks,
  FIGURE_GRADES,
  WOOD_COLOURS,
  finishedWeightKg,
  lightestFirst,
} from './wood/choose-blanks.ts';
export {
  weightForecast,
  type TermForecast,
  type WeightForecast,
  type WeightTerm,
} from './wood/weight-forecast.ts';
export { learnKeepFraction } from './wood/keep-fraction.ts';
export { applyLotEntry, lotLedger, MOST_BOARDS } from './stock/lot-reduce.ts';
export { LOT_FORMS, type LotAsked } from './stock/lot-asked.ts';
export { blanksOfPiece, boardTag, isUsedUp, readableBoards } from './stock/lot.ts';
export { asTaken, believedOf, boardsToRead, correctedReadings, latestByBoard } from './stock/corrected.ts';
export { blankMoisturePct, judgeLot, lotSentence } from './stock/judge.ts';
export { lotWords } from './stock/lot-words.ts';
export { parseReadingsSheet, sheetHeadings } from './wood/readings-sheet.ts';
export { parseClimateSheet } from './wood/climate-sheet.ts';
export { judgeCheck, limitsWords, unitSlip } from './machining/check.ts';
export { ACTION_CHECK, isYesNo, valueWords, YES_NO } from './machining/check.ts';
export { checkCalls } from './flow/check-calls.ts';
export { kitCalls } from './flow/kit-calls.ts';
export { shelfCalls } from './flow/shelf-calls.ts';
export { controlChart } from './machining/control-chart.ts';
export { looksVerdict, readLooks, strongestHit } from './machining/look-chart.ts';
export { runRuleHits, RUN_RULES } from './machining/run-rules.ts';
export { CAPABILITY_POINTS, processCapability } from './machining/capability.ts';
export { dimensionDrift } from './machining/drift.ts';
export { firstComeLoads, loadsByHand, planLoads } from './machining/plan-loads.ts';
export { expectedFitShare, GAP_WINDOWS, pairParts } from './fitting/pairing.ts';
export { meetingForecast, MISS_HOURS } from './fitting/meeting.ts';
export { dewPointC } from './finishing/dew-point.ts';
export { cureRate, curedHours, roomAir } from './finishing/cure.ts';
export { TIME_CONSTANTS_TO_BUFF } from './finishing/slab.ts';
export { cureState, HARDENINGS, UNTILS } from './finishing/coat-cure.ts';
export { cureOutlook, forecastCure, whenGathered } from './finishing/forecast-cure.ts';
export { dryFilmUm, filmBuildUm, sandThroughRisk, THICKEST_WET_UM } from './finishing/film.ts';
export { fitTestPanel, panelBuffHours, rescaledHours } from './finishing/panel.ts';
export { deltaE2000 } from './finishing/delta-e.ts';
export { AGEING_LEVELS, finishPlan, plannedFilm, recipeMisfits, validateRecipe } from './finishing/recipe.ts';
export { SHIPPED_RECIPES } from './finishing/shipped-recipes.ts';
export { RECIPE_FORMAT, RECIPE_SCHEMA } from './finishing/recipe-schema.ts';
export { recipeLength } from './finishing/recipe-length.ts';
export { BOOTH_LIMITS, boothOutlook, closesMs, judgeBooth, opensMs } from './finishing/booth.ts';
export { boothOpenings, sprayFirst, sprayFirstWords } from './finishing/spraying.ts';
export { coatLitres, materialsOf, supplyAhead } from './finishing/materials.ts';
export { settleDrift, settlingDriftMm, signed } from './assembly/settling.ts';
export { isInside, judgeSetup } from './assembly/setup.ts';
export { setupAdvice, USUAL_PRACTICE } from './assembly/setup-advice.ts';
export {
  isUsedOnPaper,
  LONGEST_SERIAL,
  parseSerial,
  SERIAL_TOKENS,
  serialCounts,
  serialFromPattern,
  serialProblems,
} from './assembly/serial.ts';
export { foundAndCaused, type Fault, type FoundAndCaused } from './flow/faults.ts';
export { sendBackCosts } from './flow/send-back.ts';
export { boothCalls, materialCalls, panelCalls } from './flow/finish-calls.ts';
export { spanWords } from './time/span-words.ts';
export { LONGEST_LINE, parseLine, VERBS } from './logline/parse.ts';
export { instantOf } from './logline/moment.ts';
export { actionWords, lineEffect } from './logline/describe.ts';
export { applyAll } from './logline/preview.ts';
export { cutListOf, type ListedBlank, type ListedBoard } from './stock/cut-list.ts';
export { csvOf, type CsvCell, type SheetProblem } from './csv.ts';
export {
  constraintWords,
  markedConstraint,
  stationLoads,
  stationsLeft,
  workNow,
} from './flow/station-load.ts';
export { ropeStages } from './flow/rope.ts';
export { boardRows, drawRack, PEGS, pegsAt } from './flow/board-rows.ts';
export { earliestEndMs, endOfRouteMs } from './flow/due.ts';
export { dayMoves, stayNow } from './flow/day-moves.ts';
export { activePeriods, momentaryConstraint, momentarySpans } from './flow/active-periods.ts';
export { availableHours, skillRisk } from './flow/available-hours.ts';
export { wipAgainstCap } from './flow/wip-cap.ts';
export { dayRoster, workBefore } from './flow/day-roster.ts';
export { degreeOf, SKILL_DEGREES, withDegree } from './flow/skills.ts';
export { trainFirst, USUAL_TRAINING_DAYS } from './flow/training.ts';
export { constraintSigns } from './flow/constraint-signs.ts';
export { constraintVerdict, SURE_ENOUGH } from './flow/constraint-verdict.ts';
export {
  addLeadParts,
  cumulativeFlow,
  cycleTimes,
  lateness,
  LEAD_PART_WORDS,
  LEAD_PARTS,
  leadTimeSplit,
  LITTLE_LIMIT,
  littlesLawCheck,
  noLeadParts,
  throughput,
} from './flow/lead-time.ts';
export { logResources } from './flow/log-resources.ts';
export { leftStations } from './flow/left-stations.ts';
export { filingHabits, FORGOTTEN_DAYS, logWhole } from './flow/log-whole.ts';
export { firstPasses, operationTimes, rolledYieldPct, usageOf } from './flow/work-log.ts';
export { offeredLoad } from './flow/offered-load.ts';
export { HAND_OVER_MS, saturated } from './flow/saturation.ts';
export { queueingModel, simulate } from './simulate/index.ts';
export { daysLate, isLike, rackLine } from './flow/rack-line.ts';
export { openedWork } from './flow/opened-work.ts';
export { dayStarts, FREE_DAYS, rowToScale, type RowToScale } from './flow/board-scale.ts';
export { answered, type AnsweredCall, type CallAnswer } from './flow/answered-calls.ts';
export { CALL_KINDS } from './flow/call.ts';
export { calls } from './flow/calls.ts';
export { pairCalls, uncutPieces, woodCalls, type WoodView } from './flow/missing-calls.ts';
export { roomCalls } from './flow/room-calls.ts';
export { joinAhead, meetingCalls, meetingSides } from './flow/meeting-sides.ts';
export { millCalls } from './flow/mill-calls.ts';
export { neededBy } from './flow/need.ts';
export { neededMs } from './flow/needed.ts';
export { samplesWithin, usualAir } from './units/climate.ts';
export {
  ageingView,
  coatedRooms,
  cureFacts,
  cureView,
  cureStartMs,
  factsForEnd,
  forecastEnd,
  holdContext,
  isOver,
  judgedValues,
  lastInsideMarginPct,
  judgeRack,
  shelfApart,
  roomsInQuestion,
  takenReadings,
} from './holds/index.ts';
export {
  benchPieces,
  benchSheet,
  checksDue,
  eyesAt,
  isBench,
  lookedAtBy,
  measuredOf,
  outsideLimits,
  valuesAt,
} from './measuring/index.ts';
export {
  allWays,
  CAUTIONS,
  cautionWords,
  compareRoutes,
  carries,
  endsRoute,
  followers,
  forks,
  HOUR_RATES,
  operationAfter,
  operationIndex,
  operationOf,
  REMINDER,
  ROUTE_FORMAT,
  ROUTE_SCHEMA,
  STAGES,
  unknownWays,
  validateRoute,
  weighWays,
  windowOf,
  workedRoute,
  workMinutes,
} from './route/index.ts';
export {
  count,
  hasLeft,
  holdGroups,
  lineOf,
  isClosed,
  isCorrection,
  isRefusal,
  LARGEST_BATCH,
  operationsInUse,
  madeOf,
  pieceAt,
  pieceCode,
  refuse,
  replayed,
  takenBack,
  tallyAt,
  voidedBy,
  whereabouts,
} from './ledger/index.ts';
export {
  applyEntry,
  applyLogged,
  applyUndo,
  FILED_KINDS,
  replay,
  routeIn,
  routesNamed,
  serialsDue,
  toAccept,
  shippingAgainst,
} from './entries/index.ts';
export {
  checkOptions,
  operationSpec,
  OPTIONS_ASKED,
  placeOf,
  ruleWords,
  specDifference,
  specOf,
  validateBook,
  withUsual,
} from './options/index.ts';
export {
  backlogAt,
  applyOrderEntry,
  builtOtherwise,
  groupIntoRacks,
  heldAgainst,
  LATEST_MS,
  lineCode,
  ORDER_FORMS,
  ORDERED_LINES,
  orderLedger,
  orderOfLine,
  orderWords,
  specChange,
  tagHere,
  tagsOf,
  wantedLines,
  wantedOf,
} from './orders/index.ts';
export {
  awaitKit,
  BILL_ASKED,
  billed,
  binOf,
  binStanding,
  broughtIn,
  instrumentsFor,
  kitMissing,
  kitOperation,
  kitPartWords,
  kitsApart,
  kitShortages,
  kitsToPick,
  NEW_PART,
  optionsOfBill,
  PART_FORMS,
  parseStoreSheet,
  partLedger,
  partWords,
  pickedOtherwise,
  STORE_COLUMNS,
  stillComing,
  validateBill,
} from './kits/index.ts';
export { joinPartners, latestValues, numbered, planJoin, planSplit } from './joining/index.ts';
export {
  buildOn,
  coatedAlike,
  coatsAsked,
  coatsOn,
  coatsWanted,
  colourOf,
  laidCoats,
  layersOn,
  MOST_REMOVED_UM,
  recoatAgainst,
} from './coats/index.ts';
export { finishViews, inBooth, listed } from './ladder/index.ts';
export { PASSPORT_FORMAT, PASSPORT_SCHEMA, passportOf, setUpOf } from './passport/index.ts';
export { changedSpan, retold, staysEnded, staysOf } from './stays/index.ts';
export { cameMs } from './ledger/index.ts';

export type { FactoryCalendar, Overtime, Shift, WallSpan, WorkingSpan } from './time/calendar.ts';
export type { WorkingClock } from './time/working-clock.ts';
export type { Summary } from './stats/descriptive.ts';
export type { RandomStream } from './stats/random.ts';
export type { Air } from './wood/emc.ts';
export type { GateVerdict, MoistureGate, MoistureJudgement, MoistureWindow } from './wood/gate.ts';
export type { DryingClimate } from './wood/drying/air.ts';
export type { DryingSpecies } from './wood/drying/prior.ts';
export type { DryingFit, DryingReading } from './wood/drying/fit.ts';
export type { DryingGate, DryingOutlook, FanPoint } from './wood/drying/forecast.ts';
export type { MeterFit, MeterLine, MeterSample } from './wood/meter.ts';
export type { RoomDrift, RoomJudgement } from './wood/room.ts';
export type { Doubt, SensorHealth } from './wood/sensor.ts';
export type {
  BlankSize,
  BlanksPlan,
  BoardPlan,
  BoardSize,
  FirstCut,
  PlacedBlank,
} from './wood/plan-blanks.ts';
export type {
  BlankDemand,
  BlanksChosen,
  ChosenBlank,
  FigureGrade,
  WoodColour,
  StockBlank,
} from './wood/choose-blanks.ts';
export type { KeepBelief, KeepFraction, WeighBack } from './wood/keep-fraction.ts';
export type { Blank, Board, Dryness, LotReadings, LotState } from './stock/lot.ts';
export type { LotBody, LotEntry } from './stock/lot-entry.ts';
export type { LineOf, LotJudgement } from './stock/judge.ts';
export type { SetAside, TakenReading } from './wood/reading.ts';
export type { DryingWood } from './wood/drying/floors.ts';
export type { CorrectedReading } from './stock/corrected.ts';
export type { Species } from './wood/species.ts';
export type { ReadingsSheet, SheetColumns, SheetReading } from './wood/readings-sheet.ts';
export type { Check, CheckJudgement, CheckSet, UnitSlip } from './machining/check.ts';
export type { ControlChart, Limits } from './machining/control-chart.ts';
export type { RunHit, RunRule } from './machining/run-rules.ts';
export type { Capability } from './machining/capability.ts';
export type { Drift } from './machining/drift.ts';
export type {
  Cutter,
  LoadPlan,
  LoadsQuestion,
  MillProgram,
  MillTable,
  PlannedLoad,
  WaitingPieces,
} from './machining/plan-loads.ts';
export type { Measured, SetupItem, SetupJudgement } from './assembly/setup.ts';
export type { SetupPractice, SetupTurn } from './assembly/setup-advice.ts';
export type { DriftLimit, SettledItem, SettledJudgement } from './assembly/settling.ts';
export type { ParsedSerial, SerialRange } from './assembly/serial.ts';
export type { GapWindow, Leftover, Pair, Pairing, PartsToPair, Remedy } from './fitting/pairing.ts';
export type { Meeting, MeetingForecast, MeetingSide, Swap } from './fitting/meeting.ts';
export type { CureKinetics, RoomAir, Span } from './finishing/cure.ts';
export type { ByUntil, CureSpec, CureState, LaidCoat, Rung, Until } from './finishing/coat-cure.ts';
export type { CureEnd, CureOutlook } from './finishing/forecast-cure.ts';
export type { SandThrough, WetCoat } from './finishing/film.ts';
export type { PanelFit, PanelVerdict, RescaledHours, Weighing } from './finishing/panel.ts';
export type { Lab } from './finishing/delta-e.ts';
export type {
  CoatSpec,
  CoatStep,
  Defect,
  FinishPlan,
  Recipe,
  RecipeProblem,
  RecipeStep,
} from './finishing/recipe.ts';
export type { Hardening } from './finishing/coat-cure.ts';
export type { RecipeLength } from './finishing/recipe-length.ts';
export type { BoothAhead, BoothOpenings, NextCoat, SprayFirst } from './finishing/spraying.ts';
export type { BoothHour, BoothJudgement, BoothLimits, BoothSample } from './finishing/booth.ts';
export type { Demand, StockLot, Supply } from './finishing/materials.ts';
export type { OpenedAt, OpenedPart } from './flow/opened-work.ts';
export type { SendBackChoice, SendBackCosts } from './flow/send-back.ts';
export type { DayMove, Leg, MoveCause, StayOnWay } from './flow/day-moves.ts';
export type { MomentaryShare, MomentarySpan, StationInterval } from './flow/active-periods.ts';
export type { AvailableHours, SkillCover, SkilledPerson } from './flow/available-hours.ts';
export type { DayRoster, RosterPerson, RosterPlace, RosterWork } from './flow/day-roster.ts';
export type { Skilled, SkillDegree } from './flow/skills.ts';
export type { TaughtPerson, Training } from './flow/training.ts';
export type { Resource } from './flow/constraint-signs.ts';
export type { ConstraintSigns, ConstraintVerdict, Sign } from './flow/constraint-verdict.ts';
export type {
  CycleTimes,
  Lateness,
  FlowPoint,
  LeadPart,
  LeadParts,
  LeadStay,
  LeadTimeSplit,
  LittleCheck,
} from './flow/lead-time.ts';
export type { LoggedStay, LogWindow } from './flow/log-resources.ts';
export type { LeftTogether } from './flow/left-stations.ts';
export type { FilingHabit, Forgotten, LogWhole, OddAt, PlacedStay } from './flow/log-whole.ts';
export type { FirstPass, OperationAt, OperationTime, Usage } from './flow/work-log.ts';
export type { OfferedLoad, ReworkArc, RouteFlow, ScrapAt } from './flow/offered-load.ts';
export type {
  FactoryModel,
  SimRack,
  SimResult,
  SimStationResult,
  SimStay,
  TextbookStation,
} from './simulate/index.ts';
export type { BoothView, MaterialView, MixView, PanelView } from './flow/finish-calls.ts';
export type { AirNow, ClimateSample } from './units/climate.ts';
export type { MayBe } from './units/may-be.ts';
export type { ChosenUnits, UnitEdit } from './units/chosen.ts';
export type { LineAction, NotUnderstood, Parsed, Understood } from './logline/parse.ts';
export type { Vocabulary } from './logline/vocabulary.ts';
export type { LooksRead } from './machining/look-chart.ts';
export type { Call, CallAction, CallItem, CallKind, SingleCall } from './flow/call.ts';
export type { DueView, HoldView } from './flow/calls.ts';
export type { WipAgainstCap } from './flow/wip-cap.ts';
export type { OrderOnRack, RackLine, RackQuestion } from './flow/rack-line.ts';
export type { MeetingRack, NamedSide } from './flow/meeting-sides.ts';
export type { CutterView, DimensionView, MachineView } from './flow/mill-calls.ts';
export type { ForecastShift, RoomView } from './flow/room-calls.ts';
export type {
  Constraint,
  LoadDay,
  NamedConstraint,
  RoutedBatch,
  StationLoad,
  WorkAt,
} from './flow/station-load.ts';
export type { RopeStage } from './flow/rope.ts';
export type { BoardRow, HoldAt, Peg, RackAt, RackDrawn } from './flow/board-rows.ts';
export type { HoldContext, HoldForecast, HoldJudgement } from './holds/index.ts';
export type { MeasuredOf, BenchPiece, BenchSheet, BenchVerdict, CheckDue } from './measuring/index.ts';
export type {
  AgeingRule,
  CureRule,
  Fork,
  HoldOperation,
  HoldRule,
  HourRates,
  JoinOperation,
  LoadOperation,
  MoistureRule,
  Operation,
  OperationMode,
  Route,
  RouteChange,
  RouteProblem,
  RouteWorld,
  Stage,
  Station,
  Ways,
  WeighedFork,
  WeighedWay,
} from './route/index.ts';
export type {
  Correction,
  Applied,
  BatchState,
  Coat,
  CureFact,
  Effect,
  Facts,
  Freed,
  Entry as LedgerEntry,
  HoldGroup,
  Ledger,
  LoadMark,
  MeasureSet,
  Override,
  PanelEnd,
  PieceAt,
  PieceState,
  ReadingSet,
  Refusal,
  RefusalCode,
  Rest,
  Selection,
  KitPart,
  KitTurn,
  Sheet,
  Shipment,
  Standing,
  Tally,
} from './ledger/index.ts';
export type {
  AskedEntry,
  BodyOf,
  Entry,
  EntryBody,
  EntryType,
  RouteBook,
  WoodPapers,
} from './entries/index.ts';
export type {
  Choices,
  Disagreement,
  Option,
  OptionBook,
  OptionRule,
  OptionValue,
  Spec,
  SpecDifference,
  SpecHere,
  SpecLine,
} from './options/index.ts';
export type {
  AllottedPiece,
  BuiltOtherwise,
  Grouping,
  KindsOfModel,
  OrderAsked,
  OrderBody,
  OrderChange,
  OrderedAsked,
  OrderedLine,
  OrderEntry,
  OrderLine,
  OrderState,
  PlannedRack,
  SpecChange,
  TagLine,
  TagOption,
  TagsThere,
  TagValue,
  Wanted,
} from './orders/index.ts';
export type {
  Bill,
  BilledPart,
  BillLine,
  BillProblems,
  Bin,
  BinStanding,
  Coming,
  Given,
  KitShortages,
  NewPartAsked,
  PartAsked,
  PartBody,
  PartShortage,
  PartState,
  PartStock,
  PartWords,
  ShortRack,
  StandIn,
  Substitute,
  WantedKits,
  StoreSheet,
  StoreSheetRow,
} from './kits/index.ts';
export type { JoinPartner, JoinPlan, JoinSide, SplitPlan } from './joining/index.ts';
export type { ClimateOf, Layer } from './coats/index.ts';
export type {
  FinishAir,
  FinishNext,
  FinishView,
  LateReadings,
  ListedView,
  Moved,
  RungView,
  SandingAhead,
} from './ladder/index.ts';
export type { PassportKind, PassportLine, SetUpValue } from './passport/index.ts';
export type { ChangedSpan, Retold, Stay, StayEnd, StayStatus } from './stays/index.ts';
