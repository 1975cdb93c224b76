import type { BlankSize, BoardPlan } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { useState, type ReactNode } from 'react';
import { Panel } from '../parts/index.ts';
import type { Planned } from './cutting.ts';

const BOARDS_DRAWN = 6;
const HATCHES = ['var(--maple)', 'var(--hatch)', 'var(--fibre)', 'var(--shellac)'];

/** The list is drawn when it is asked for: most plans are only looked at. */
export function CutListOffer({ name, children }: { name: string; children: ReactNode }) {
  const [shown, setShown] = useState(false);
  return shown ? (
    children
  ) : (
    <Button onClick={() => setShown(true)} aria-label={`Make it the cut list: ${name}`} sx={{ mt: 1 }}>
      Make it the cut list
    </Button>
  );
}

/** What one way of cutting gives, drawn board by board. */
export function CuttingWay({
  name,
  result,
  sizes,
  best,
  children,
}: {
  name: string;
  result: Planned;
  sizes: BlankSize[];
  best: boolean;
  children: ReactNode;
}) {
  if ('problem' in result)
    return (
      <Panel label={name}>
        <Typography variant="h2">{name}</Typography>
        <Typography style={{ color: 'var(--oxblood)' }}>{result.problem}.</Typography>
      </Panel>
    );
  const colour = (blank: string): string =>
    HATCHES[sizes.findIndex((size) => size.name === blank) % HATCHES.length] ?? 'var(--maple)';
  return (
    <Panel label={name}>
      <Typography variant="h2">
        {name}{' '}
        {best && (
          <span style={{ color: 'var(--verdigris)', fontWeight: 700, fontSize: 14 }}>leaves less over</span>
        )}
      </Typography>
      <Typography style={{ fontWeight: 700 }}>
        {sizes
          .map(
            (size) =>
              `${result.expected[size.name] ?? 0} good of ${result.counts[size.name] ?? 0} ${size.name}`,
          )
          .join(', ')}
        ; {result.usedPct.toFixed(0)} % of the face used, {result.leftoverBoardFeet.toFixed(1)} board feet
        left over.
      </Typography>
      {result.boards.slice(0, BOARDS_DRAWN).map((board, i) => (
        <BoardDrawing key={i} plan={board} colour={colour} />
      ))}
      {result.boards.length > BOARDS_DRAWN && (
        <Typography color="textSecondary">
          and {result.boards.length - BOARDS_DRAWN} boards more, cut the same way.
        </Typography>
      )}
      {children}
    </Panel>
  );
}

const LONGEST_DRAWN_MM = 3000;

/** One board to scale, its blanks on it; what is bare is left over. */
function BoardDrawing({
  plan: { board, placed },
  colour,
}: {
  plan: BoardPlan;
  colour: (name: string) => string;
}) {
  const width = Math.max(LONGEST_DRAWN_MM, board.lengthMm);
  return (
    <svg
      viewBox={`-4 -4 ${width + 8} ${board.widthMm + 8}`}
      style={{ display: 'block', width: '100%', marginTop: 6 }}
      role="img"
      aria-label={`Board of ${board.lengthMm} × ${board.widthMm} mm: ${placed.length} blanks`}
    >
      <rect
        width={board.lengthMm}
        height={board.widthMm}
        fill="var(--bone)"
        stroke="var(--ebony)"
        strokeWidth={3}
      />
      {placed.map((blank, i) => (
        <g key={i}>
          <rect
            x={blank.xMm}
            y={blank.yMm}
            width={blank.lengthMm}
            height={blank.widthMm}
            fill={colour(blank.name)}
            stroke="var(--ebony)"
            strokeWidth={2}
          />
          {blank.widthMm > 55 && (
            <text x={blank.xMm + 12} y={blank.yMm + blank.widthMm / 2 + 14} fontSize={40} fill="var(--ebony)">
              {blank.name}
              {blank.layers > 1 && ` × ${blank.layers}`}
            </text>
          )}
        </g>
      ))}
    </svg>
  );
}
