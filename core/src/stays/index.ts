/** What every piece was in, from when to when, and how it ended: the log as rows that can be asked. */
export { changedSpan, type ChangedSpan, type Told } from './changed-span.ts';
export {
  retold,
  staysEnded,
  staysOf,
  type Retold,
  type Stay,
  type StayEnd,
  type StayStatus,
} from './stays.ts';
