import { MAY_BE, type LotState } from '@ample-crane/core';
import { Box, Button, Typography } from '@mui/material';
import { useWatch } from 'react-hook-form';
import { useSetup } from '../api/queries.ts';
import { typedNumbers } from '../shared/typed.ts';
import { AskFrom, AskNumber, asOptions, AskTick, Form, useDraft } from '../fields/index.ts';
import { Row } from '../parts/index.ts';
import { useWoodFiling } from './useWoodFiling.ts';

/** Most blanks out of one board. */
const MOST_BLANKS = 40;

const NOTHING = { board: '', kind: 'B', weights: '', matched: true };

/** Cuts a board that may be cut into blanks that keep their parent; two halves of one board may be kept as a matched pair. */
export function CutForm({ lot }: { lot: LotState }) {
  const { data: setup } = useSetup();
  const { fileLot, busy, refusal } = useWoodFiling();
  const draft = useDraft(`cut of ${lot.code}`, NOTHING, { keep: ['kind', 'matched'] });
  const asked = useWatch({ control: draft.form.control });
  const ready = lot.boards.filter((board) => board.status === 'to-cut');
  const boardOf = (number = '') => ready.find((one) => String(one.number) === number) ?? ready[0];
  const size = sizeOf(setup?.models ?? [], lot.species, asked.kind ?? 'B');
  const chosen = boardOf(asked.board);
  const blanks = typedNumbers(asked.weights ?? '')?.length ?? 0;
  if (!chosen || !setup) return null;
  const cut = ({ board, kind, weights, matched }: typeof NOTHING): unknown => {
    const pieces = (typedNumbers(weights) ?? []).map((weightKg) => ({ kind, ...size, weightKg }));
    return fileLot(lot.code, { type: 'cut', board: boardOf(board)?.number ?? 0, pieces, matched });
  };
  return (
    <Form draft={draft} refusal={refusal} label="Cut a board" style={{ marginTop: 14 }} onFile={cut}>
      <Typography variant="h3">Cut a board into blanks</Typography>
      <Row style={{ marginTop: 8 }}>
        <AskFrom
          name="board"
          label="Board"
          options={asOptions(ready.map(({ number }) => String(number)))}
          placeholder={String(chosen.number)}
          width={110}
        />
        <AskFrom
          name="kind"
          label="For"
          options={setup.kinds
            .filter(({ letter }) => letter !== 'W' && letter !== 'I')
            .map(({ letter, name }) => ({ value: letter, words: `${letter}: ${name}` }))}
          needed="which part"
          width={160}
        />
      </Row>
      <Box style={{ marginTop: 12 }}>
        <AskNumber
          name="weights"
          label="Weight of each blank"
          unit="kg"
          {...MAY_BE.blankKg}
          several
          // A matched pair is two halves.
          mostValues={asked.matched ? 2 : MOST_BLANKS}
          leastValues={asked.matched ? 2 : 1}
          placeholder="1.92 1.95"
          hint={`One weight for each blank, ${size.lengthMm} × ${size.widthMm} × ${size.thicknessMm} mm`}
          width={360}
        />
      </Box>
      <AskTick name="matched" label="Book-matched halves: they stay together" />
      <Box>
        <Button type="submit" disabled={busy}>
          Cut board {chosen.number}
          {blanks > 0 && ` into ${blanks}`}
        </Button>
      </Box>
    </Form>
  );
}

interface Size {
  lengthMm: number;
  widthMm: number;
  thicknessMm: number;
}

/** The blank of the first model that makes this kind of this wood; a body half or a neck where none does. */
function sizeOf(models: readonly { wood: unknown }[], species: string, kind: string): Size {
  for (const { wood } of models) {
    const part = (wood as { parts: Record<string, { species: string; blankMm: Size }> } | null)?.parts[kind];
    if (part?.species === species) return part.blankMm;
  }
  return kind === 'N'
    ? { lengthMm: 700, widthMm: 75, thicknessMm: 24 }
    : { lengthMm: 520, widthMm: 180, thicknessMm: 45 };
}
