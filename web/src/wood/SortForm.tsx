import {
  FIGURE_GRADES,
  WOOD_COLOURS,
  type FigureGrade,
  type LotState,
  type WoodColour,
} from '@ample-crane/core';
import { Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { typedNumber } from '../shared/typed.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Panel, Row } from '../parts/index.ts';
import { useWoodFiling } from './useWoodFiling.ts';

const KEEP = 'as it is';

/** One board or blank at a time: what it weighs, how it is figured, or that it is lost. */
export function SortForm({ lot }: { lot: LotState }) {
  const { fileLot, busy, refused } = useWoodFiling();
  const [what, setWhat] = useState('');
  const [weight, setWeight] = useState('');
  const [grade, setGrade] = useState<FigureGrade | typeof KEEP>(KEEP);
  const [colour, setColour] = useState<WoodColour | typeof KEEP>(KEEP);
  const [reason, setReason] = useState('');
  const board = lot.boards.find(
    ({ number, status }) => String(number) === what.trim() && (status === 'stacked' || status === 'to-cut'),
  );
  const blank = lot.blanks.find(
    ({ id, status }) => status === 'stock' && (id === what.trim() || id.endsWith(`/${what.trim()}`)),
  );
  const kg = typedNumber(weight);
  const clear = (): void => {
    setWhat(unlessTypedSince(what));
    setWeight(unlessTypedSince(weight));
    setGrade(KEEP);
    setColour(KEEP);
    setReason(unlessTypedSince(reason));
  };
  const sort = async (): Promise<void> => {
    const looks = { ...(grade === KEEP ? {} : { grade }), ...(colour === KEEP ? {} : { colour }) };
    const filed = board
      ? await fileLot(lot.code, {
          type: 'sort',
          sorted: [{ board: board.number, ...(kg === null ? {} : { weightKg: kg }), ...looks }],
        })
      : blank && kg !== null && (await fileLot(lot.code, { type: 'weigh', blank: blank.id, weightKg: kg }));
    if (filed) clear();
  };
  const scrap = async (): Promise<void> => {
    const lost = { boards: board ? [board.number] : [], blanks: !board && blank ? [blank.id] : [] };
    if (await fileLot(lot.code, { type: 'lot-scrap', ...lost, reason: reason.trim() })) clear();
  };
  const found = board ? `board ${board.number}` : blank ? `blank ${blank.id}` : null;
  const said = what.trim() === '' ? 'A board’s number, or a blank’s: 12.1' : (found ?? 'not here any more');
  return (
    <Panel label="Sort">
      <Typography variant="h2">Weigh, sort or scrap one</Typography>
      <Row style={{ marginTop: 8 }}>
        <TextField
          label="Board or blank"
          value={what}
          onChange={(event) => setWhat(event.target.value)}
          sx={{ width: 130 }}
        />
        <TextField
          label="kg"
          value={weight}
          onChange={(event) => setWeight(event.target.value)}
          sx={{ width: 80 }}
          slotProps={{ htmlInput: { inputMode: 'decimal' } }}
        />
        <TextField
          select
          label="Figure"
          value={grade}
          onChange={(event) => setGrade(event.target.value as FigureGrade)}
          sx={{ width: 130 }}
          disabled={!board}
        >
          {[KEEP, ...FIGURE_GRADES].map((option) => (
            <MenuItem key={option} value={option}>
              {option}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Colour"
          value={colour}
          onChange={(event) => setColour(event.target.value as WoodColour)}
          sx={{ width: 110 }}
          disabled={!board}
        >
          {[KEEP, ...WOOD_COLOURS].map((option) => (
            <MenuItem key={option} value={option}>
              {option}
            </MenuItem>
          ))}
        </TextField>
        <Button
          disabled={
            busy || (board ? kg === null && grade === KEEP && colour === KEEP : !blank || kg === null)
          }
          onClick={() => void sort()}
        >
          Note it
        </Button>
      </Row>
      <Typography color="textSecondary" role="status">
        {said}
      </Typography>
      <Row style={{ marginTop: 6 }}>
        <TextField
          label="Reason it is lost"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          sx={{ flex: 1 }}
        />
        <Button disabled={busy || found === null || reason.trim() === ''} onClick={() => void scrap()}>
          Scrap it
        </Button>
      </Row>
      <Refused words={refused} />
    </Panel>
  );
}
