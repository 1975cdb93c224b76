export {
  awaitKit,
  binOf,
  binStanding,
  kitMissing,
  kitOperation,
  kitPartWords,
  kitsToPick,
  kitUnfilled,
  pickedOtherwise,
  type Bin,
  type BinStanding,
} from './bin.ts';
export { BILL_ASKED, MOST_BILL_LINES, MOST_IN_A_KIT } from './bill-schema.ts';
export {
  billed,
  optionsOfBill,
  type Bill,
  type BilledPart,
  type BillLine,
  type Given,
  type Substitute,
} from './bill.ts';
export { instrumentsFor, kit, kitsApart, kitBack, type KitBackBody, type KitBody } from './kit.ts';
export { NEW_PART, PART_FORMS, type NewPartAsked, type PartAsked } from './part-asked.ts';
export type { PartBody, PartEntry, PartWords } from './part-entry.ts';
export { applyPartEntry, MOST_OF_A_PART, partLedger } from './part-reduce.ts';
export { partWords } from './part-words.ts';
export { broughtIn, stillComing, type Coming, type PartMove, type PartState } from './part.ts';
export {
  kitShortages,
  type KitShortages,
  type PartShortage,
  type PartStock,
  type ShortRack,
  type StandIn,
  type WantedKits,
} from './shortages.ts';
export { parseStoreSheet, STORE_COLUMNS, type StoreSheet, type StoreSheetRow } from './store-sheet.ts';
export { validateBill, type BillProblems } from './validate-bill.ts';
