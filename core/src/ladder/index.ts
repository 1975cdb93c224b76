/** What may be done with a rack in finish, and when: its coats as a ladder. */
export type { FinishAir, LateReadings } from './finish-air.ts';
export {
  finishSights,
  listed,
  type FinishNext,
  type FinishSight,
  type ListedSight,
  type RungSeen,
} from './ladder.ts';
export type { Moved } from './moved.ts';
export type { SandingAhead } from './sanding-ahead.ts';
