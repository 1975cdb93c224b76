import { shiftDate } from '@ample-crane/core';

/** At most so many days are told of in one go. */
const MOST_DAYS = 366;

/** Days from one to another ('YYYY-MM-DD'), both included; none where they do not rise, or are more than a year. */
export function daysBetween(fromDay: string, toDay: string): string[] {
  const days: string[] = [];
  for (let day = fromDay; day <= toDay; day = shiftDate(day, 1)) {
    if (days.length >= MOST_DAYS) return [];
    days.push(day);
  }
  return days;
}
