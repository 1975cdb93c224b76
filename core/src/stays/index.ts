/** What every piece was in, from when to when, and how it ended: the log as rows that can be asked. */
export { staysEnded, staysOf, type Stay, type StayEnd, type StayStatus } from './stays.ts';
