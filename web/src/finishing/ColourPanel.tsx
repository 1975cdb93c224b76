import { colourOf } from '@ample-crane/core';
import { Button, Table, TableBody, TableCell, TableRow, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { typedNumber } from '../shared/typed.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { Fold, Panel } from '../parts/index.ts';
import type { RackPage } from './queries.ts';
import { useFile } from './useFile.ts';
import { labColour } from './words.ts';
import './ColourPanel.css';

/** Colour of each piece against the target: ΔE2000, and how far the pieces are from each other. */
export function ColourPanel({ page }: { page: RackPage }) {
  const { state, rack } = page;
  const { file, busy, refused } = useFile(rack.batch);
  const [text, setText] = useState('');
  const target = state.finish?.colour ?? null;
  const { pieces, spread } = colourOf(state);
  if (!target && pieces.length === 0) return null;
  const off = pieces.filter(({ toTarget }) => target && toTarget !== null && toTarget > target.withinDeltaE);
  const typed = readColour(text);
  const here = state.pieces.filter(({ standing }) => standing !== 'scrapped').map(({ position }) => position);
  const add = async (): Promise<void> => {
    if (!typed) return;
    const piece = state.pieces.find(({ position }) => position === typed.position);
    if (
      await file({
        type: 'colour',
        operation: piece?.operation ?? '',
        pieces: [typed.position],
        labs: [typed.lab],
      })
    )
      setText(unlessTypedSince(text));
  };
  return (
    <Panel label="Colour">
      <Typography variant="h2">Colour</Typography>
      <Typography>
        {target && (
          <>
            <span className="swatch" style={{ background: labColour(target.lab) }} /> {target.name}, L*{' '}
            {target.lab.l} a* {target.lab.a} b* {target.lab.b}, within ΔE {target.withinDeltaE}.{' '}
          </>
        )}
        {pieces.length === 0
          ? 'Nothing is read yet.'
          : `${pieces.length} read, ${off.length === 0 ? 'all within' : `${off.length} off: ${off.map(({ position }) => `/${String(position).padStart(2, '0')}`).join(' ')}`}${spread === null ? '' : `; piece to piece up to ΔE ${spread.toFixed(1)}`}.`}
      </Typography>
      {pieces.length > 0 && (
        <Fold name="Piece by piece">
          <Table>
            <TableBody>
              {pieces.map(({ position, lab, toTarget }) => (
                <TableRow key={position}>
                  <TableCell>
                    <span className="swatch" style={{ background: labColour(lab) }} /> /
                    {String(position).padStart(2, '0')}
                  </TableCell>
                  <TableCell align="right">
                    {lab.l} {lab.a} {lab.b}
                  </TableCell>
                  <TableCell align="right">{toTarget === null ? '' : `ΔE ${toTarget.toFixed(2)}`}</TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Fold>
      )}
      <Form lay="row" onFile={add} style={{ marginTop: 6 }}>
        <TextField
          label="Piece, L* a* b*"
          placeholder={`${here[0] ?? 1} 58.2 21.0 52.4`}
          value={text}
          onChange={(event) => setText(event.target.value)}
          sx={{ width: 190 }}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <Button type="submit" disabled={busy || !typed}>
          Note the colour
        </Button>
      </Form>
      <Refused words={refused} />
    </Panel>
  );
}

/** '3 58,2 21 52.4' → piece 3 with its colour; null for anything else. */
function readColour(text: string): { position: number; lab: { l: number; a: number; b: number } } | null {
  const values = text
    .trim()
    .split(/[\s;]+/)
    .map(typedNumber);
  const [position, l, a, b] = values;
  if (values.length !== 4 || !position || l === null || a === null || b === null) return null;
  if (l === undefined || a === undefined || b === undefined) return null;
  return { position, lab: { l, a, b } };
}
