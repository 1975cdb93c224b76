import { judgeCheck, limitsWords, unitSlip, type Check } from '@ample-crane/core';
import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server } from '../api/client.ts';
import { fileEntries } from '../api/filing.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { typedNumber } from '../shared/typed.ts';
import { Refused, Row } from '../parts/index.ts';
import { PlainForm, useKeptState } from '../fields/index.ts';
import type { LoadView } from './queries.ts';
import './CheckSheet.css';

interface Typed {
  text: string;
  source: 'typed' | 'gauge';
}

const areTyped = (kept: unknown): kept is Record<string, Typed> =>
  typeof kept === 'object' &&
  kept !== null &&
  Object.values(kept).every(
    (one: unknown) =>
      typeof one === 'object' && one !== null && 'text' in one && typeof one.text === 'string',
  );

/** What a typed value means: nothing yet, a number, or what is wrong with it. */
export function valueOf(
  check: Check,
  text: string,
): { value: number | null; problem: string | null; meant: number | null } {
  if (text.trim() === '') return { value: null, problem: null, meant: null };
  const value = typedNumber(text);
  if (value === null) return { value: null, problem: `'${text}' is not a number`, meant: null };
  const slip = unitSlip(check, value);
  if (slip)
    return {
      value: null,
      problem: `read in ${slip.readIn}? That would be ${slip.meant} ${check.unit}`,
      meant: slip.meant,
    };
  return { value, problem: null, meant: null };
}

/** The measurement sheet of one piece of a load: one line a check, typed or taken from the gauge. */
export function CheckSheet({ load, onDone }: { load: LoadView; onDone: () => void }) {
  const { perform, busy, refused } = usePerform();
  const pieces = load.parts.flatMap((part) =>
    part.pieces.map((piece) => ({ batch: part.batch, model: part.model, piece })),
  );
  const [chosen, setChosen] = useState(0);
  const [typed, setTyped] = useKeptState<Record<string, Typed>>(`sheet of ${load.code}`, {}, areTyped);
  const piece = pieces[chosen];
  if (!piece) return null;
  const read = load.checks.map((check) => ({ check, ...valueOf(check, typed[check.key]?.text ?? '') }));
  const values = read.flatMap(({ check, value }) => (value === null ? [] : [{ check, value }]));
  const put = (key: string, text: string, source: Typed['source']): void =>
    setTyped((before) => ({ ...before, [key]: { text, source } }));
  const gauge = async (check: Check): Promise<void> => {
    const kind = piece.batch.split('-')[0] ?? '';
    const told = await perform(() =>
      answered(
        server.POST('/api/checks/{model}/{kind}/{check}/gauge', {
          params: { path: { model: piece.model, kind, check: check.key } },
        }),
      ),
    );
    if (told) put(check.key, String(told.value), 'gauge');
  };
  const file = async (): Promise<void> => {
    const entries = values.map(({ check, value }) => ({
      type: 'check' as const,
      check: check.key,
      values: [value],
      pieces: [piece.piece],
      load: load.code,
      source: typed[check.key]?.source ?? ('typed' as const),
    }));
    const filed = await perform((by, key) => fileEntries(piece.batch, by, key, entries), filedWords);
    if (filed) {
      setTyped({});
      onDone();
    }
  };
  return (
    <PlainForm className="checksheet" onFile={file}>
      <TextField
        select
        label="Piece"
        value={chosen}
        onChange={(event) => setChosen(Number(event.target.value))}
        sx={{ width: 140 }}
      >
        {pieces.map(({ batch, piece: place }, i) => (
          <MenuItem key={`${batch}/${place}`} value={i}>
            {batch}/{String(place).padStart(2, '0')}
          </MenuItem>
        ))}
      </TextField>
      {read.map(({ check, value, problem, meant }) => {
        const judged = value === null ? null : judgeCheck(check, [value]);
        return (
          <Box key={check.key} className="checkline">
            <TextField
              label={`${check.name}${check.firstPiece ? ' *' : ''}`}
              value={typed[check.key]?.text ?? ''}
              onChange={(event) => put(check.key, event.target.value, 'typed')}
              error={problem !== null || judged?.pass === false}
              helperText={
                problem ?? `${limitsWords(check)}${judged ? (judged.pass ? ', inside' : ', outside') : ''}`
              }
              slotProps={{ htmlInput: { inputMode: 'decimal' } }}
            />
            {meant === null ? (
              <Button disabled={busy} onClick={() => void gauge(check)} aria-label={`Gauge: ${check.name}`}>
                Gauge
              </Button>
            ) : (
              <Button onClick={() => put(check.key, String(meant), 'typed')}>Take {meant}</Button>
            )}
          </Box>
        );
      })}
      <Typography color="textSecondary">* the first piece off a new set-up must pass</Typography>
      <Row>
        <Button
          type="submit"
          variant="contained"
          disabled={busy || values.length === 0 || read.some((one) => one.problem !== null)}
        >
          File {values.length === 0 ? 'measurements' : `${values.length} of ${load.checks.length}`}
        </Button>
        <Button onClick={onDone}>Close</Button>
      </Row>
      <Refused words={refused} />
    </PlainForm>
  );
}
