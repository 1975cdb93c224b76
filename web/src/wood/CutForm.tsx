import type { LotState } from '@ample-crane/core';
import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { useSetup } from '../api/queries.ts';
import { Refused } from '../devices/Refused.tsx';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Form } from '../fields/Form.tsx';
import { Row } from '../parts/index.ts';
import { useWoodFiling } from './useWoodFiling.ts';

/** Cuts a board that may be cut into blanks that keep their parent; two halves of one board may be kept as a matched pair. */
export function CutForm({ lot }: { lot: LotState }) {
  const { data: setup } = useSetup();
  const { fileLot, busy, refused } = useWoodFiling();
  const ready = lot.boards.filter((board) => board.status === 'to-cut');
  const [board, setBoard] = useState('');
  const [kind, setKind] = useState('B');
  const [weights, setWeights] = useState('');
  const [matched, setMatched] = useState(true);
  const chosen = ready.find(({ number }) => String(number) === board) ?? ready[0];
  const size = sizeOf(setup?.models ?? [], lot.species, kind);
  const kg = weights
    .split(/[\s;]+/)
    .filter(Boolean)
    .map((text) => Number(text.replace(',', '.')));
  const good = kg.length > 0 && kg.every((value) => value > 0) && (!matched || kg.length === 2);
  if (!chosen || !setup) return null;
  const cut = async (): Promise<void> => {
    const pieces = kg.map((weightKg) => ({ kind, ...size, weightKg }));
    const filed = await fileLot(lot.code, { type: 'cut', board: chosen.number, pieces, matched });
    if (filed) {
      setWeights(unlessTypedSince(weights));
      setBoard(unlessTypedSince(board));
    }
  };
  return (
    <Form label="Cut a board" style={{ marginTop: 14 }} onFile={cut}>
      <Typography variant="h3">Cut a board into blanks</Typography>
      <Row style={{ marginTop: 8 }}>
        <TextField
          select
          label="Board"
          value={String(chosen.number)}
          onChange={(event) => setBoard(event.target.value)}
          sx={{ width: 90 }}
        >
          {ready.map(({ number }) => (
            <MenuItem key={number} value={String(number)}>
              {number}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="For"
          value={kind}
          onChange={(event) => setKind(event.target.value)}
          sx={{ width: 130 }}
        >
          {(setup?.kinds ?? [])
            .filter(({ letter }) => letter !== 'W' && letter !== 'I')
            .map(({ letter, name }) => (
              <MenuItem key={letter} value={letter}>
                {letter}: {name}
              </MenuItem>
            ))}
        </TextField>
      </Row>
      <TextField
        label="Weight of each blank, kg"
        value={weights}
        onChange={(event) => setWeights(event.target.value)}
        placeholder="1.92 1.95"
        helperText={`One weight for each blank, ${size.lengthMm} × ${size.widthMm} × ${size.thicknessMm} mm`}
        fullWidth
        sx={{ mt: 1.5 }}
      />
      <FormControlLabel
        control={<Checkbox checked={matched} onChange={(event) => setMatched(event.target.checked)} />}
        label="Book-matched halves: they stay together"
      />
      <Box>
        <Button type="submit" disabled={busy || !good}>
          Cut board {chosen.number}
          {kg.length > 0 && ` into ${kg.length}`}
        </Button>
      </Box>
      <Refused words={refused} />
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
