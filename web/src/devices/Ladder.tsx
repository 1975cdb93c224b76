import { scaleLinear } from 'd3-scale';
import { useId } from 'react';
import './Ladder.css';

/** One coat: a rung as thick as its film, hatched as far as it has cured, full when it is through. */
export interface LadderRung {
  name: string;
  /** What is left of it, µm. */
  leftUm: number;
  /** 0…1. */
  progress: number;
}

export interface LadderProps {
  /** Lowest first. */
  rungs: readonly LadderRung[];
  /** Thinnest film allowed after sanding, µm; null: no recipe. */
  minimumUm: number | null;
  /** Top of the scale, µm: the same for all ladders that are compared. */
  scaleUm: number;
  height: number;
  width?: number;
  /** In words, for those who cannot see it. */
  words: string;
  /** Writes the rungs' names beside them. */
  named?: boolean;
}

const DEFAULT_WIDTH = 300;
const THINNEST_PX = 2;
const LABEL_ROOM_PX = 46;
const NAME_ROOM_PX = 118;
/** A rung lower than this has no room for its name. */
const NAME_PX = 11;

/** Coats as rungs to scale, each with its cure from left to right; the build in µm at the top right, the minimum dashed. */
export function Ladder({
  rungs,
  minimumUm,
  scaleUm,
  height,
  width = DEFAULT_WIDTH,
  words,
  named = false,
}: LadderProps) {
  const hatch = useId();
  const y = scaleLinear()
    .domain([0, scaleUm])
    .range([height - 1, 12]);
  const wide = width - LABEL_ROOM_PX - (named ? NAME_ROOM_PX : 0);
  const buildUm = rungs.reduce((sum, { leftUm }) => sum + leftUm, 0);
  let below = 0;
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      role="img"
      aria-label={words}
      className="ladder"
    >
      <defs>
        <pattern id={hatch} width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(35)">
          <rect width="6" height="6" className="wash" />
          <path d="M0 0V6" className="stroke" />
        </pattern>
      </defs>
      {rungs.map(({ name, leftUm, progress }, i) => {
        const bottom = y(below);
        below += leftUm;
        const top = Math.min(y(below), bottom - THINNEST_PX);
        const through = progress >= 1;
        return (
          <g key={i}>
            <rect x={0.5} y={top} width={wide} height={bottom - top} className="rung" />
            <rect
              x={0.5}
              y={top}
              width={wide * progress}
              height={bottom - top}
              className={through ? 'through' : undefined}
              {...(through ? {} : { fill: `url(#${hatch})` })}
            />
            {!through && <path d={`M${wide * progress + 0.5} ${top}V${bottom}`} className="front" />}
            {named && bottom - top >= NAME_PX && (
              <text x={wide + LABEL_ROOM_PX} y={(top + bottom) / 2 + 4} className="name">
                {name}, {leftUm.toFixed(0)} µm
              </text>
            )}
          </g>
        );
      })}
      {minimumUm !== null && minimumUm <= scaleUm && (
        <path d={`M0 ${y(minimumUm)}H${wide + 8}`} className="minimum" />
      )}
      <text x={wide + 5} y={Math.max(10, y(buildUm) + 4)} className="build">
        {buildUm.toFixed(0)} µm
      </text>
    </svg>
  );
}
