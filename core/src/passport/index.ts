/** What an instrument tells of itself. */
export { passportOf, type PassportKind, type PassportLine } from './passport.ts';
