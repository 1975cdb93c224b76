/** What is measured of pieces and what is still to be; the entries of checks, action and bench sheets. */
export {
  benchPieces,
  benchSheet,
  isBench,
  type BenchPiece,
  type BenchSheet,
  type BenchVerdict,
} from './bench.ts';
export { check, verdictOf } from './check.ts';
export {
  checksDue,
  checksMissing,
  eyesAt,
  limitsBroken,
  lookedAtBy,
  outsideLimits,
  secondEyesMissing,
  valuesAt,
  type CheckDue,
} from './checks-due.ts';
export { measuredOf, type MeasuredOf } from './measured-of.ts';
export { measure } from './measure.ts';
export { sheet, type SheetBody } from './sheet.ts';
