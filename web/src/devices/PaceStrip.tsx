import type { ReactNode } from 'react';
import './PaceStrip.css';

type Span = readonly [from: number, to: number];
const spanOf = (one: readonly number[]): Span => [one[0] ?? 0, one[1] ?? 0];
const [WIDTH, HEIGHT] = [240, 26];

/** Drawn to the breadth there is. */
const Drawn = ({ name, words, children }: { name: string; words: string; children: ReactNode }) => (
  <svg
    className={name}
    viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
    preserveAspectRatio="none"
    role="img"
    aria-label={words}
  >
    {children}
  </svg>
);

/** A window from left to right: thin where it could take no more, thick where it paced the house. Shares of the window. */
export function PaceStrip({
  full,
  paced,
  words,
}: {
  full: readonly (readonly number[])[];
  paced: readonly (readonly number[])[];
  words: string;
}) {
  const bar = (className: string, height: number) => (one: readonly number[], i: number) => {
    const [from, to] = spanOf(one);
    return (
      <rect
        key={`${className}${i}`}
        className={className}
        x={from * WIDTH}
        width={Math.max(0.8, (to - from) * WIDTH)}
        y={(HEIGHT - height) / 2}
        height={height}
      />
    );
  };
  return (
    <Drawn name="pacestrip" words={words}>
      {full.map(bar('full', 6))}
      {paced.map(bar('paced', 22))}
    </Drawn>
  );
}

/** How work waited through the window, day by day: higher is more. */
export function QueueLine({ queue, most, words }: { queue: readonly number[]; most: number; words: string }) {
  const step = WIDTH / Math.max(1, queue.length - 1);
  const y = (value: number): number => HEIGHT - 2 - (most > 0 ? (value / most) * (HEIGHT - 4) : 0);
  return (
    <Drawn name="queueline" words={words}>
      <polyline points={queue.map((value, i) => `${i * step},${y(value)}`).join(' ')} />
    </Drawn>
  );
}

/** Work offered against the hours there are: the mark is all of them. Both drawn to `most`. */
export function LoadBar({
  share,
  most,
  tight,
  words,
}: {
  share: number;
  most: number;
  tight: boolean;
  words: string;
}) {
  const x = (value: number): number => (value / Math.max(1.05, most)) * WIDTH;
  return (
    <Drawn name="loadbar" words={words}>
      <rect className={tight ? 'load tight' : 'load'} x="0" y="6" height="14" width={x(share)} />
      <line x1={x(1)} x2={x(1)} y1="1" y2={HEIGHT - 1} />
    </Drawn>
  );
}
