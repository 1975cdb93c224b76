import { csvOf } from '@ample-crane/core';
import type { Flow, StationView } from '../api/queries.ts';

export interface DayCount {
  day: string;
  good: number;
  scrapped: number;
  reworked: number;
}

export interface StationDays {
  station: StationView;
  /** Every working day of the window, days without a piece included. */
  days: DayCount[];
  total: number;
  scrapped: number;
  reworked: number;
  /** Good pieces a day over the days that are over; today is left out. */
  mean: number;
  /** Pieces that must leave it a working day in the next four weeks, so that what is open can be in time; 0: none. */
  need: number;
}

/** The server's rows, one for each station and day that had any, as complete series. */
export function stationDays(flow: Flow): StationDays[] {
  return flow.stations.map((station) => {
    const rows = flow.throughput.filter((row) => row.station === station.code);
    const days = flow.days.map((day) => {
      const row = rows.find((candidate) => candidate.day === day);
      return { day, good: row?.good ?? 0, scrapped: row?.scrapped ?? 0, reworked: row?.reworked ?? 0 };
    });
    const sum = (list: readonly DayCount[], of: 'good' | 'scrapped' | 'reworked'): number =>
      list.reduce((total, day) => total + day[of], 0);
    const over = days.slice(0, -1);
    return {
      station,
      days,
      total: sum(days, 'good'),
      scrapped: sum(days, 'scrapped'),
      reworked: sum(days, 'reworked'),
      need: flow.need.find((one) => one.station === station.code)?.aDay ?? 0,
      mean: over.length > 0 ? sum(over, 'good') / over.length : 0,
    };
  });
}

export function throughputCsv(rows: readonly StationDays[]): string {
  return csvOf(
    ['day', 'station', 'good', 'scrapped', 'sent_back'],
    rows.flatMap(({ station, days }) =>
      days.map((day) => [day.day, station.name, day.good, day.scrapped, day.reworked]),
    ),
  );
}
