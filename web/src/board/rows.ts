import type { BoardRow, Floor, StageRow, StationView } from '../api/queries.ts';

/** Rows of the board with their stations' names and loads, in the order of the stations. */
export function withStations<R extends StageRow>(
  rows: readonly R[],
  { stations }: Pick<Floor, 'stations'>,
): (Omit<R, 'station'> & { station: StationView })[] {
  return stations.flatMap((station) => {
    const row = rows.find((one) => one.station === station.code);
    return row ? [{ ...row, station }] : [];
  });
}

/** A row of the board with its station. */
export type Row = ReturnType<typeof withStations<BoardRow>>[number];
