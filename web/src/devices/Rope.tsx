import { count } from '@ample-crane/core';
import { Tooltip } from '@mui/material';
import { area, curveMonotoneX } from 'd3-shape';
import { Link } from 'react-router';
import './Rope.css';

export interface RopeSection {
  key: string;
  name: string;
  href: string;
  racks: number;
  pieces: number;
  onHold: number;
  /** What goes on there, in a few words. */
  words: string;
  /** The constraint sits here: its words. */
  tight: string | null;
  /** The sign the mark rests on; null: no mark. */
  sign: string | null;
  /** The page belongs to this stage. */
  here?: boolean;
}

const WIDTH = 1000;
const THICKEST = 44;
const THICKEST_SLIM = 22;
const THINNEST = 5;

/** The five stages as one rope: as thick as the work there, hatched where it is on hold, marked where it is tight. */
export function Rope({ sections, slim = false }: { sections: readonly RopeSection[]; slim?: boolean }) {
  const height = slim ? 24 : 50;
  const most = Math.max(1, ...sections.map((section) => section.pieces));
  const thickest = slim ? THICKEST_SLIM : THICKEST;
  /** By the square root; the library of scales alone would be a twentieth of what the first page loads. */
  const thickness = (pieces: number): number => THINNEST + (thickest - THINNEST) * Math.sqrt(pieces / most);
  const span = WIDTH / Math.max(1, sections.length);
  // Four points a section: the rope keeps its thickness inside and changes it at the seams.
  const points = sections.flatMap((section, i) => {
    const half = thickness(section.pieces) / 2;
    return [0.1, 0.4, 0.7, 0.9].map((at) => ({ x: (i + at) * span, half }));
  });
  const first = points[0];
  const last = points.at(-1);
  const whole =
    first && last ? [{ ...first, x: 14 }, ...points, { ...last, x: WIDTH - 14, half: THINNEST / 2 }] : [];
  const outline = area<{ x: number; half: number }>()
    .x((point) => point.x)
    .y0((point) => height / 2 - point.half)
    .y1((point) => height / 2 + point.half)
    .curve(curveMonotoneX)(whole);
  return (
    <nav className={`rope${slim ? ' slim' : ''}`} aria-label="Stages">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        style={{ height }}
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <defs>
          <pattern
            id="rope-hatch"
            width="5"
            height="5"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <path d="M0 0V5" stroke="var(--slate)" strokeWidth="1.6" />
          </pattern>
        </defs>
        <path
          d={outline ?? ''}
          fill="var(--maple)"
          stroke="var(--shellac)"
          vectorEffect="non-scaling-stroke"
        />
        {sections.map((section, i) => {
          const half = thickness(section.pieces) / 2 - 1.5;
          const length = section.pieces > 0 ? (0.72 * span * section.onHold) / section.pieces : 0;
          return (
            <rect
              key={section.key}
              x={(i + 0.12) * span}
              y={height / 2 - half}
              width={length}
              height={Math.max(0, 2 * half)}
              fill="url(#rope-hatch)"
            />
          );
        })}
        {sections.map((section, i) =>
          section.tight ? (
            <path key={section.key} d={`M${(i + 0.62) * span - 7} 0h14l-7 9z`} fill="var(--oxblood)" />
          ) : null,
        )}
      </svg>
      <ol>
        {sections.map((section) => (
          <li key={section.key}>
            <Tooltip title={<Told section={section} most={most} />} describeChild>
              <Link to={section.href} aria-current={section.here ? 'page' : undefined}>
                <span className="top">
                  <span className="name">{section.name}</span>
                  <span className="count">
                    {section.racks} {section.racks === 1 ? 'rack' : 'racks'}
                    <span className="pieces">
                      {' '}
                      · {section.pieces}
                      <span className="visually-hidden"> pieces, {section.onHold} on hold</span>
                    </span>
                  </span>
                </span>
                <span className="words">
                  {section.tight ? <span className="tight">{section.tight}</span> : section.words}
                </span>
              </Link>
            </Tooltip>
          </li>
        ))}
      </ol>
    </nav>
  );
}

/** Pieces of a stage whose rope is half as thick as that of the most; the thinnest is never nothing. */
const halfAsMany = (most: number): number =>
  Math.round(most * ((THICKEST / 2 - THINNEST) / (THICKEST - THINNEST)) ** 2);

/** The numbers of a stage, what its thickness says, and why it is marked. */
function Told({ section, most }: { section: RopeSection; most: number }) {
  const { name, racks, pieces, words, sign } = section;
  return (
    <>
      <strong>
        {name}: {count(pieces, 'piece')} on {count(racks, 'rack')}
      </strong>
      <div>{words}; hatched what is on hold.</div>
      <div>
        At its thickest the rope is {count(most, 'piece')}, half as thick {halfAsMany(most)}.
      </div>
      {sign !== null && <div>{sign}</div>}
    </>
  );
}
