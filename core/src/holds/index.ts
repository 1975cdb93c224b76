/** The rules of holds: when one is over, when it will be, what is known of it when it ends. */
export { age } from './age.ts';
export { ageingView } from './ageing.ts';
export { holdContext } from './context.ts';
export { cureEndAt, cureView, cureStartMs } from './cure.ts';
export { end } from './end.ts';
export { coatedRooms, cureFacts, factsForEnd, roomsInQuestion } from './facts.ts';
export { forecastEnd, isOver } from './kinds.ts';
export { judgeRack, judgedValues, lastInsideMarginPct, takenReadings } from './moisture.ts';
export type { HoldContext, HoldForecast, HoldJudgement } from './rules.ts';
export { secondLooks, shelfApart, shelfOf } from './settle.ts';
