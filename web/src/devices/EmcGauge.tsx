import { scaleLinear } from 'd3-scale';
import './EmcGauge.css';

export interface EmcGaugeProps {
  /** Where the room would take wood, %; null: unknown. */
  emcPct: number | null;
  band: { lowPct: number; highPct: number };
  /** In words, for those who cannot see it. */
  words: string;
  lowPct?: number;
  highPct?: number;
}

const WIDTH = 300;
const HEIGHT = 34;

/** A room against the EMC it should hold: the band on a short scale, the room's mark on it. */
export function EmcGauge({ emcPct, band, words, lowPct = 4, highPct = 13 }: EmcGaugeProps) {
  const x = scaleLinear()
    .domain([lowPct, highPct])
    .range([2, WIDTH - 2])
    .clamp(true);
  const outside = emcPct !== null && (emcPct < band.lowPct || emcPct > band.highPct);
  const ticks = Array.from({ length: Math.floor((highPct - lowPct) / 2) + 1 }, (_, i) => lowPct + 2 * i);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={words} className="emcgauge">
      <rect x={0} y={5} width={WIDTH} height={9} fill="var(--bone)" stroke="var(--fibre)" />
      <rect
        x={x(band.lowPct)}
        y={5}
        width={x(band.highPct) - x(band.lowPct)}
        height={9}
        fill="var(--verdigris)"
        opacity={0.35}
      />
      {emcPct !== null && (
        <rect
          x={x(emcPct) - 2}
          y={1}
          width={4}
          height={17}
          fill={outside ? 'var(--oxblood)' : 'var(--ebony)'}
        />
      )}
      {ticks.map((tick) => (
        <text key={tick} x={x(tick)} y={30} textAnchor="middle" fontSize={11} fill="var(--umber)">
          {tick}
        </text>
      ))}
    </svg>
  );
}
