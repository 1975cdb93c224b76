/** What may be done with a rack in finish, and when: its coats as a ladder. */
export type { FinishAir, LateReadings } from './finish-air.ts';
export { inBooth } from './in-booth.ts';
export {
  finishViews,
  listed,
  type FinishNext,
  type FinishView,
  type ListedView,
  type RungView,
} from './ladder.ts';
export type { Moved } from './moved.ts';
export type { SandingAhead } from './sanding-ahead.ts';
