/** What an instrument tells of itself. */
export { passportOf, setUpOf, type PassportKind, type PassportLine, type SetUpValue } from './passport.ts';
export { PASSPORT_FORMAT, PASSPORT_SCHEMA } from './passport-schema.ts';
