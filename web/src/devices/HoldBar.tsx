import { Link } from 'react-router';
import './HoldBar.css';

export interface HoldBarProps {
  code: string;
  /** The word for the rule: drying, rest, glue, recoat, cure, settling, held. */
  word: string;
  over: boolean;
  nowMs: number;
  /** Right end of the time axis. */
  axisEndMs: number;
  /** Forecast end; null: nobody can say. */
  endMs: number | null;
  lowMs: number | null;
  highMs: number | null;
  /** The end in words. */
  until: string;
  href: string;
}

/** The bar is wide enough to carry its label from this share of the axis on. */
const ROOM_FOR_LABEL_PCT = 46;

/** A hold: hatched from now to its forecast end, with its range as a whisker; no bar once it is over. */
export function HoldBar({
  code,
  word,
  over,
  nowMs,
  axisEndMs,
  endMs,
  lowMs,
  highMs,
  until,
  href,
}: HoldBarProps) {
  const share = (ms: number): number =>
    Math.min(100, Math.max(0, (100 * (ms - nowMs)) / (axisEndMs - nowMs)));
  const endPct = over ? 0 : endMs === null ? 100 : Math.max(1.5, share(endMs));
  const beyond = endMs !== null && endMs > axisEndMs;
  const state = over ? 'ready' : endMs === null ? 'open' : beyond ? 'beyond' : '';
  const said = over ? 'may go on' : until;
  const ranged =
    !over && lowMs !== null && highMs !== null && highMs - lowMs > 3_600_000 && share(lowMs) < 100;
  return (
    <Link
      className={`holdbar ${state}`}
      to={href}
      data-rack={code}
      title={`${code}: ${word}, ${said}`}
      aria-label={`${code}, on hold, ${word}, ${said}`}
    >
      {!over && <span className="bar" style={{ width: `${endPct}%` }} />}
      {ranged && (
        <span
          className="whisker"
          style={{ left: `${share(lowMs)}%`, width: `${share(highMs) - share(lowMs)}%` }}
        />
      )}
      <span
        className="label"
        style={over || endPct >= ROOM_FOR_LABEL_PCT ? undefined : { marginLeft: `calc(${endPct}% + 5px)` }}
      >
        <b>{code}</b>
        {over ? `${word} over` : endMs === null || beyond ? `${word} · ${until}` : word}
      </span>
    </Link>
  );
}
