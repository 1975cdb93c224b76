import { colourOf } from '@ample-crane/core';
import { Button, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { typedNumber } from '../shared/typed.ts';
import { AskWords, Form, useDraft } from '../fields/index.ts';
import { Fold, Panel } from '../parts/index.ts';
import type { RackPage } from './queries.ts';
import { useFile } from './useFile.ts';
import { labColour } from './words.ts';
import './ColourPanel.css';

/** Colour of each piece against the target: ΔE2000, and how far the pieces are from each other. */
export function ColourPanel({ page }: { page: RackPage }) {
  const { state, rack } = page;
  const { file, busy, refusal } = useFile(rack.batch);
  const draft = useDraft(`colour of ${rack.batch}`, { labs: '' });
  const target = state.finish?.colour ?? null;
  const { pieces, spread } = colourOf(state);
  if (!target && pieces.length === 0) return null;
  const off = pieces.filter(({ toTarget }) => target && toTarget !== null && toTarget > target.withinDeltaE);
  const here = state.pieces.filter(({ standing }) => standing !== 'scrapped').map(({ position }) => position);
  const add = ({ labs }: { labs: string }): unknown => {
    const typed = readColour(labs);
    const piece = state.pieces.find(({ position }) => position === typed?.position);
    if (!typed || !piece) return false;
    return file({ type: 'colour', operation: piece.operation, pieces: [typed.position], labs: [typed.lab] });
  };
  const wrong = (text: string): string | undefined => {
    const typed = readColour(text);
    if (!typed) return 'the piece and its three values, a space between';
    return here.includes(typed.position) ? undefined : `piece ${typed.position} is not here`;
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
      <Form draft={draft} refusal={refusal} lay="row" onFile={add} style={{ marginTop: 6 }}>
        <AskWords
          name="labs"
          label="Piece, L* a* b*"
          needed="the piece and its three values"
          wrong={wrong}
          placeholder={`${here[0] ?? 1} 58.2 21.0 52.4`}
          width={230}
        />
        <Button type="submit" disabled={busy}>
          Note the colour
        </Button>
      </Form>
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
