import {
  binOf,
  hasLeft,
  kitOperation,
  pickedOtherwise,
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
  const at = route.operations.findIndex(({ kit }) => kit);
  const before = new Set(route.operations.slice(0, at + 1).map(({ key }) => key));
  const pieces = state.pieces.filter((piece) => !hasLeft(piece) && before.has(piece.operation));
  if (!operation || pieces.length === 0) return null;
  const bins = pieces.map((piece): BinAhead => {
    const bin = binOf(state, piece.position);
    const whole = bin && bin.missing.length === 0 ? 'whole' : 'short';
    const standing = !bin ? 'none' : pickedOtherwise(state, piece, bin) ? 'otherwise' : whole;
    const { position } = piece;
    return { piece: pieceCode(state.code, position), position, bin: bin?.bin ?? null, standing };
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
