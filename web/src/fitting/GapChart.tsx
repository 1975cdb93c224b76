import type { GapWindow } from '@ample-crane/core';
import { Typography } from '@mui/material';
import { scaleLinear } from 'd3-scale';
import type { PairingSide } from './queries.ts';
import './fitting.css';
import './GapChart.css';

const WIDTH = 760;
const HEIGHT = 118;
const LEFT = 70;

/** Both populations on one scale of width: pockets above, tenons below moved up by the middle of the wanted gap. */
export function GapChart({
  host,
  guest,
  windowMm,
}: {
  host: PairingSide;
  guest: PairingSide;
  windowMm: GapWindow;
}) {
  const pockets = host.pieces.flatMap((piece) => piece.valueMm ?? []);
  const tenons = guest.pieces.flatMap((piece) => piece.valueMm ?? []);
  const middle = (windowMm.low + windowMm.high) / 2;
  const all = [...pockets, ...tenons.map((width) => width + middle)];
  if (all.length === 0) return <Typography color="textSecondary">Nothing measured yet.</Typography>;
  const x = scaleLinear([Math.min(...all) - 0.03, Math.max(...all) + 0.03], [LEFT, WIDTH - 14]).nice();
  const dots = (values: readonly number[], y: number, up: number, by: number) => {
    const stacked = new Map<number, number>();
    return values.map((value, i) => {
      const shown = Math.round((value + by) * 100) / 100;
      const level = stacked.get(shown) ?? 0;
      stacked.set(shown, level + 1);
      return (
        <circle
          key={i}
          cx={x(value + by)}
          cy={y + up * level * 9}
          r={4}
          className={up < 0 ? 'pocketdot' : 'tenondot'}
        />
      );
    });
  };
  return (
    <figure style={{ margin: 0 }}>
      <Typography component="figcaption" variant="inherit" color="textSecondary">
        Every width measured: pockets above the line, tenons below it with {middle.toFixed(2)} mm added, the
        middle of the wanted gap. Straight above each other fits best.
      </Typography>
      <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} width="100%" aria-hidden="true">
        <text x={0} y={44} className="axisname">
          pockets
        </text>
        <text x={0} y={80} className="axisname">
          tenons
        </text>
        <path d={`M${LEFT} 58H${WIDTH - 14}`} stroke="var(--ebony)" />
        {x.ticks(8).map((tick) => (
          <g key={tick}>
            <path d={`M${x(tick)} 54V62`} stroke="var(--ebony)" />
            <text x={x(tick)} y={HEIGHT - 4} textAnchor="middle" className="axisname">
              {tick.toFixed(2)} mm
            </text>
          </g>
        ))}
        {dots(pockets, 48, -1, 0)}
        {dots(tenons, 68, 1, middle)}
      </svg>
    </figure>
  );
}
