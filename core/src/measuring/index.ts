/** What is measured of pieces and what is still to be; the entries of checks and action. */
export { check, verdictOf } from './check.ts';
export { checksDue, checksMissing, limitsBroken, outsideLimits, type CheckDue } from './checks-due.ts';
export { measure } from './measure.ts';
