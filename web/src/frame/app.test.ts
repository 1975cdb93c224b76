import { stationDays, throughputCsv } from '../flow/throughput.ts';
import type { Flow } from '../api/queries.ts';
import { floorOf, HOUR, NOW } from '../testing/tarrow.ts';
import { nearestInDirection } from './keys.ts';
import { daysAhead, dueInstant, isoDate, lateTag, sayTime } from '../shared/time.ts';

describe('factory time in words', () => {
  it('names the weekday within a week and the date beyond', () => {
    expect(sayTime(NOW + 48 * HOUR, 'UTC', NOW)).toBe('Thu 14:20');
    expect(sayTime(NOW + 240 * HOUR, 'UTC', NOW)).toBe('4 Dec 14:20');
    expect(sayTime(NOW, 'America/Chicago', NOW)).toBe('Tue 08:20');
  });

  it('tags what is late, and only that', () => {
    expect(lateTag(NOW + HOUR, NOW)).toBeNull();
    expect(lateTag(NOW - HOUR, NOW)).toBe('−1 d');
    expect(lateTag(NOW - 50 * HOUR, NOW)).toBe('−2 d');
  });

  it('counts days by the factory, through a clock change', () => {
    const before = Date.UTC(2026, 9, 31, 18);
    const [sunday, monday] = daysAhead(before, 'America/Chicago', 2);
    expect([sunday?.name, monday?.name]).toEqual(['Sun', 'Mon']);
    expect((monday?.ms ?? 0) - (sunday?.ms ?? 0)).toBe(25 * HOUR);
  });

  it('turns a due date into the end of that working day', () => {
    expect(dueInstant('2026-12-04', 'America/Chicago')).toBe('2026-12-04T21:00:00.000Z');
    expect(isoDate(Date.UTC(2026, 11, 4, 3), 'America/Chicago')).toBe('2026-12-03');
  });
});

describe('arrow keys among racks', () => {
  const spots = [
    { x: 0, y: 0 },
    { x: 100, y: 0 },
    { x: 10, y: 50 },
  ];
  it('keep to the row and to the column', () => {
    expect(nearestInDirection({ x: 0, y: 0 }, spots, 'arrowright')).toBe(1);
    expect(nearestInDirection({ x: 0, y: 0 }, spots, 'arrowdown')).toBe(2);
    expect(nearestInDirection({ x: 10, y: 50 }, spots, 'arrowup')).toBe(0);
  });
  it('stay where nothing follows', () => {
    expect(nearestInDirection({ x: 0, y: 0 }, spots, 'arrowleft')).toBe(-1);
  });
});

describe('throughput', () => {
  const flow: Flow = {
    fromDay: '2026-11-20',
    toDay: '2026-11-24',
    days: ['2026-11-20', '2026-11-23', '2026-11-24'],
    stations: floorOf([]).stations.slice(1, 2),
    throughput: [
      { day: '2026-11-20', station: 'body-mill', good: 12, scrapped: 1, reworked: 0 },
      { day: '2026-11-24', station: 'body-mill', good: 4, scrapped: 0, reworked: 2 },
    ],
    load: [],
    need: [],
    constraint: null,
  };

  it('fills days without a piece and leaves today out of the mean', () => {
    const [row] = stationDays(flow);
    expect(row?.days.map((day) => day.good)).toEqual([12, 0, 4]);
    expect(row).toMatchObject({ total: 16, scrapped: 1, reworked: 2, mean: 6 });
  });

  it('goes out as CSV', () => {
    expect(throughputCsv(stationDays(flow)).split('\r\n')).toEqual([
      'day,station,good,scrapped,sent_back',
      '2026-11-20,Body mill,12,1,0',
      '2026-11-23,Body mill,0,0,0',
      '2026-11-24,Body mill,4,0,2',
      '',
    ]);
  });
});
