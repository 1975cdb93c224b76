import type { StationView } from '../api/queries.ts';
import './board.css';

/** A station's name, and the work in front of it; where nothing waits, what it is. */
export function StationName({ station }: { station: StationView }) {
  return (
    <div className="station">
      <b>{station.name}</b>
      {station.hoursWaiting > 0 ? (
        <span className="load" title={station.note}>
          {station.hoursWaiting.toFixed(station.hoursWaiting < 100 ? 1 : 0)} h
          <span className="wide-only"> waiting</span>, {station.hoursADay.toFixed(0)} a day
        </span>
      ) : (
        <span>{station.note}</span>
      )}
    </div>
  );
}
