/** A kernel that plays a factory: discrete events, chance from a seed, no idea of the log. */
export type {
  DispatchRule,
  FactoryModel,
  SimArrivals,
  SimFinished,
  SimHold,
  SimJoin,
  SimPerson,
  SimRack,
  SimResult,
  SimRoute,
  SimStation,
  SimStationResult,
  SimStay,
  SimStep,
  SimWork,
} from './factory-model.ts';
export type { OpenSpan } from './open-hours.ts';
export { queueingModel, type TextbookStation } from './queueing-model.ts';
export { simulate } from './simulate.ts';
