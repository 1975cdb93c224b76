const DAY_MS = 24 * 3_600_000;

/** The list looks so many days ahead. */
export const AXIS_DAYS = 8;

/** Where an instant stands on the axis, 0…100 %. */
export const share = (ms: number, nowMs: number): number =>
  Math.min(100, Math.max(0, (100 * (ms - nowMs)) / (AXIS_DAYS * DAY_MS)));
