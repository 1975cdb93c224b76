import type { LoadsQuestion } from './plan-loads.ts';
import type { RandomStream } from '../stats/random.ts';
import type { FactoryCalendar } from '../time/calendar.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';

/** A made-up morning at a mill of two tables: 6 to 14 batches of four programs, due within the next two weeks. */
export function randomMillDay(random: RandomStream, calendar: FactoryCalendar, nowMs: number): LoadsQuestion {
  const programs = ['a', 'b', 'c', 'd'].map((name) => ({
    name,
    setUpMinutes: random.between(20, 45),
    loadMinutes: 10,
    cycleMinutes: random.between(60, 180),
    tools: [
      { tool: 'upcut 6', minutes: random.between(15, 50) },
      { tool: 'ball 10', minutes: random.between(10, 35) },
    ],
  }));
  const count = Math.round(random.between(6, 14));
  return {
    nowMs,
    calendar,
    programs,
    tables: ['1', '2'].map((code) => ({
      code,
      places: 8,
      freeMs: nowMs + Math.round(random.between(0, 90)) * MINUTE_MS,
      program: random.pick(['a', 'b', 'c', 'd']),
    })),
    waiting: Array.from({ length: count }, (_, i) => ({
      batch: `B-${200 + i}`,
      program: random.pick(['a', 'a', 'b', 'b', 'c', 'd']),
      pieces: random.pick([1, 8, 10, 12, 12, 14]),
      sinceMs: nowMs - random.between(1, 60) * HOUR_MS,
      neededMs: nowMs + random.between(4, 120) * HOUR_MS,
    })),
    cutters: ['upcut 6', 'ball 10'].map((tool) => ({
      tool,
      usedMinutes: random.between(0, 440),
      lifeMinutes: 480,
      changeMinutes: 10,
    })),
  };
}
