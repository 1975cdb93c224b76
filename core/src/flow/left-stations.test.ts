import type { Route } from '../route/index.ts';
import { leftStations } from './left-stations.ts';
import type { PlacedStay } from './log-whole.ts';

const route = { id: 'r1', model: 'Bowline', kind: 'B', revision: 1, operations: [] } as unknown as Route;
const stay = (
  operation: string,
  [fromMs, toMs]: [number, number],
  positions: number[],
  ended: PlacedStay['ended'],
  extra: Partial<PlacedStay> = {},
): PlacedStay => ({
  ...{ batch: 'B-1', route, operation, station: 'mill', status: 'inHand', person: 'venn' },
  ...{ positions, pieces: positions.length, fromMs, toMs, ended, ...extra },
});
const left = (
  stays: PlacedStay[],
  staysThere: Parameters<typeof leftStations>[0]['staysThere'] = () => false,
) =>
  leftStations({ stays, fromMs: 100, toMs: 200, staysThere }).map(
    ({ batch, ended, positions, atMs, reason }) =>
      `${batch} ${positions.join(' ')} ${ended} ${atMs}${reason === null ? '' : ` ${reason}`}`,
  );

describe('what left stations in a window', () => {
  it('is counted good once, when it went on from there last; what was lost as often as it was', () => {
    expect(
      left([
        stay('cut', [90, 110], [1, 2, 3], 'passed'),
        stay('cut', [110, 120], [3], 'sent back', { reason: 'run' }),
        stay('cut', [125, 150], [3], 'sent back', { reason: 'run' }),
        stay('cut', [155, 160], [3], 'passed'),
        stay('cut', [100, 130], [4], 'scrapped', { reason: 'knot' }),
      ]),
    ).toEqual([
      'B-1 1 2 good 110',
      'B-1 3 sent back 120 run',
      'B-1 4 scrapped 130 knot',
      'B-1 3 sent back 150 run',
      'B-1 3 good 160',
    ]);
  });

  it('is what ended within it, its beginning counted and its end not; what goes on, was held or stands nowhere did not leave', () => {
    expect(
      left([
        stay('cut', [10, 99], [1], 'passed'),
        stay('cut', [10, 100], [2], 'passed'),
        stay('cut', [10, 200], [3], 'passed'),
        stay('cut', [10, 150], [4], null),
        stay('cut', [10, 150], [5], 'held'),
        stay('cut', [10, 150], [6], 'passed', { station: null }),
      ]),
    ).toEqual(['B-1 2 good 100']);
  });

  it('is not what goes on to another operation of the same station, and it is counted there', () => {
    const twice = [stay('face', [90, 110], [1, 2], 'passed'), stay('drill', [110, 140], [2], 'passed')];
    expect(left(twice, ({ operation }) => operation === 'face')).toEqual(['B-1 2 good 140']);
  });

  it('is told together where it left together, and by batch where at the same time', () => {
    expect(
      left([
        stay('cut', [90, 110], [5, 6], 'passed', { batch: 'B-2' }),
        stay('cut', [95, 110], [3], 'passed'),
        stay('cut', [90, 110], [1], 'passed'),
      ]),
    ).toEqual(['B-1 1 3 good 110', 'B-2 5 6 good 110']);
  });
});
