import type { Floor, StageRow, StationSeen } from '../api/queries.ts';

/** Rows of the board with their stations' names and loads, in the order of the stations. */
export function withStations<R extends StageRow>(
  rows: readonly R[],
  { stations }: Pick<Floor, 'stations'>,
): (Omit<R, 'station'> & { station: StationSeen })[] {
  return stations.flatMap((station) => {
    const row = rows.find((one) => one.station === station.code);
    return row ? [{ ...row, station }] : [];
  });
}
