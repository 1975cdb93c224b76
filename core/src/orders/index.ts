/** What is ordered, what racks it makes, whose piece is whose, and what its tag says where it stands. */
export { allot, builtOtherwise, type BuiltOtherwise } from './allot.ts';
export { confirm, heldAgainst, type Held } from './confirm.ts';
export { wantedOf, type AllottedPiece, type KindsOfModel, type Wanted } from './demand.ts';
export { backlogAt, type BacklogWork } from './backlog.ts';
export { groupIntoRacks, type Grouping, type PlannedRack } from './group-racks.ts';
export { LATEST_MS, ORDER_FORMS, ORDERED_LINES, type OrderAsked, type OrderedAsked } from './order-asked.ts';
export type { OrderBody, OrderEntry, OrderedLine } from './order-entry.ts';
export { applyOrderEntry, MOST_LINES, orderLedger } from './order-reduce.ts';
export { orderWords } from './order-words.ts';
export {
  lineCode,
  orderOfLine,
  wantedLines,
  type OrderChange,
  type OrderLine,
  type OrderState,
} from './order.ts';
export { specChange, type SpecChange } from './spec-change.ts';
export {
  isBehind,
  tagHere,
  tagsOf,
  unconfirmed,
  type TagLine,
  type TagOption,
  type TagsThere,
  type TagValue,
} from './tag.ts';
