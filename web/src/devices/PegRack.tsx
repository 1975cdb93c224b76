import type { Peg } from '@ample-crane/core';
import { Link } from 'react-router';
import './PegRack.css';

const PEG_WORDS: Record<Peg, string> = {
  todo: 'to do',
  done: 'done',
  scrapped: 'scrapped',
  rework: 'in rework',
  elsewhere: 'elsewhere',
};
/** More pieces than this are a thicker rail with ticks. */
const MOST_PEGS = 24;
const TICK_EVERY = 6;

export interface PegRackProps {
  code: string;
  pegs: readonly Peg[];
  /** What stands right of the code: due, late or progress. */
  tag?: string | null;
  late?: boolean;
  /** In hand: light on dark. */
  inverted?: boolean;
  wide?: boolean;
  /** Spoken with the code: where it stands and what it is. */
  words: string;
  href?: string;
}

/** A batch: a rail with one peg for each piece. */
export function PegRack({
  code,
  pegs,
  tag,
  late = false,
  inverted = false,
  wide = false,
  words,
  href,
}: PegRackProps) {
  const counted = (Object.keys(PEG_WORDS) as Peg[])
    .map((peg) => ({ peg, n: pegs.filter((other) => other === peg).length }))
    .filter(({ n }) => n > 0)
    .map(({ peg, n }) => `${n} ${PEG_WORDS[peg]}`);
  const label = `${code}, ${words}: ${counted.join(', ')}${tag ? `, ${late ? 'late ' : ''}${tag}` : ''}`;
  const className = `rack${inverted ? ' inverted' : ''}${wide ? ' wide' : ''}`;
  const inside = (
    <>
      <span className="head" aria-hidden="true">
        <span>{code}</span>
        {tag && <span className={late ? 'late' : 'quiet-tag'}>{tag}</span>}
      </span>
      <Rail pegs={pegs} inverted={inverted} />
    </>
  );
  return href ? (
    <Link className={className} to={href} aria-label={label} data-rack={code} title={label}>
      {inside}
    </Link>
  ) : (
    <span className={className} role="img" aria-label={label}>
      {inside}
    </span>
  );
}

const WIDTH = 100;

function Rail({ pegs, inverted }: { pegs: readonly Peg[]; inverted: boolean }) {
  const many = pegs.length > MOST_PEGS;
  const step = WIDTH / Math.max(pegs.length, 6);
  return (
    <svg viewBox={`0 0 ${WIDTH} 15`} preserveAspectRatio="none" aria-hidden="true">
      <path
        d={`M0 2.5H${WIDTH}`}
        stroke="currentColor"
        strokeWidth={many ? 4 : 1.6}
        vectorEffect="non-scaling-stroke"
      />
      {many ? (
        <Ticks pegs={pegs} />
      ) : (
        pegs.map((peg, i) => <OnePeg key={i} peg={peg} x={(i + 0.5) * step} inverted={inverted} />)
      )}
    </svg>
  );
}

function OnePeg({ peg, x, inverted }: { peg: Peg; x: number; inverted: boolean }) {
  const light = inverted ? 'var(--peg-done-inverted, #E6D3AD)' : 'currentColor';
  const stroke = { vectorEffect: 'non-scaling-stroke' } as const;
  switch (peg) {
    case 'todo':
      return <path d={`M${x} 3V14`} stroke="currentColor" strokeWidth={1} {...stroke} opacity={0.75} />;
    case 'elsewhere':
      return <path d={`M${x} 3V7`} stroke="currentColor" strokeWidth={1} {...stroke} opacity={0.6} />;
    case 'done':
      return <path d={`M${x} 3V14`} stroke={light} strokeWidth={3.4} {...stroke} />;
    case 'scrapped':
      return (
        <path
          d={`M${x - 1.9} 5L${x + 1.9} 13M${x + 1.9} 5L${x - 1.9} 13`}
          stroke={inverted ? '#F0B0A8' : 'var(--oxblood)'}
          strokeWidth={1.4}
          {...stroke}
        />
      );
    case 'rework':
      return (
        <>
          <path d={`M${x} 3V14`} stroke="currentColor" strokeWidth={1} {...stroke} />
          <ellipse
            cx={x}
            cy={10}
            rx={2.4}
            ry={3.4}
            fill="none"
            stroke={inverted ? '#E6D3AD' : 'var(--shellac)'}
            strokeWidth={1.5}
            {...stroke}
          />
        </>
      );
  }
}

/** A long rail: filled as far as it is done, a tick every six, the number beside it. */
function Ticks({ pegs }: { pegs: readonly Peg[] }) {
  const done = pegs.filter((peg) => peg === 'done').length;
  const x = (n: number): number => (n / pegs.length) * WIDTH;
  const ticks = Array.from({ length: Math.floor(pegs.length / TICK_EVERY) + 1 }, (_, i) => x(i * TICK_EVERY));
  return (
    <>
      <path d={`M0 7H${x(done)}`} stroke="currentColor" strokeWidth={3} vectorEffect="non-scaling-stroke" />
      {ticks.map((at) => (
        <path
          key={at}
          d={`M${at} 3V14`}
          stroke="currentColor"
          strokeWidth={1}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </>
  );
}
