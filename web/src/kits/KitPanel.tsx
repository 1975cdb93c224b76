import {
  awaitKit,
  binOf,
  binStanding,
  kitOperation,
  pieceCode,
  type BatchState,
  type Route,
} from '@ample-crane/core';
import { Typography } from '@mui/material';
import { Panel, Quiet } from '../parts/index.ts';
import { Bins } from './Bins.tsx';
import type { BinAhead } from './queries.ts';

/** The bins of a rack's instruments, where its route wants kits. */
export function KitPanel({ state, route }: { state: BatchState; route: Route }) {
  const operation = kitOperation(route);
  const pieces = awaitKit(state, route);
  if (!operation || pieces.length === 0) return null;
  const bins = pieces.map((piece): BinAhead => {
    const { position } = piece;
    const standing = binStanding(state, piece);
    return {
      piece: pieceCode(state.code, position),
      position,
      bin: binOf(state, position)?.bin ?? null,
      standing,
    };
  });
  return (
    <Panel label="Kits" stack>
      <Typography variant="h2">
        Kits <Quiet small>picked and whole before {operation.name}</Quiet>
      </Typography>
      <Bins batch={state.code} bins={bins} />
    </Panel>
  );
}
