import { limitsWords, judgeCheck } from '@ample-crane/core';
import { Box, Button, InputBase, Typography } from '@mui/material';
import { useRef } from 'react';
import { answered, server } from '../api/client.ts';
import { fileEntries } from '../api/filing.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { useBatch } from '../api/queries.ts';
import { PlainForm, useKeptState } from '../fields/index.ts';
import { Quiet, Refused, Row } from '../parts/index.ts';
import { valueOf } from '../machining/CheckSheet.tsx';
import { runningWords } from './pair.ts';
import type { PairingSide } from './queries.ts';
import './MeasureSheet.css';

const areTexts = (kept: unknown): kept is Record<number, string> =>
  typeof kept === 'object' && kept !== null && Object.values(kept).every((one) => typeof one === 'string');

/** One rack's widths, place by place: type, Enter, next. The statistics run along. */
export function MeasureSheet({ side, word }: { side: PairingSide; word: string }) {
  const { perform, busy, refused } = usePerform();
  const { data: batch } = useBatch(side.batch);
  const [texts, setTexts] = useKeptState<Record<number, string>>(`widths of ${side.batch}`, {}, areTexts);
  const fields = useRef(new Map<number, HTMLInputElement>());
  const { check, pieces } = side;
  const read = pieces.map((piece) => ({ ...piece, ...valueOf(check, texts[piece.position] ?? '') }));
  const typed = read.flatMap(({ position, value }) => (value === null ? [] : [{ position, value }]));
  const values = read.flatMap((piece) => piece.value ?? piece.valueMm ?? []);
  const wrong = read.filter((piece) => piece.problem !== null);
  const judged = judgeCheck(check, values);
  const put = (position: number, text: string): void =>
    setTexts((before) => ({ ...before, [position]: text }));
  const next = (position: number): void => {
    const after = pieces.find((piece) => piece.position > position);
    if (after) fields.current.get(after.position)?.focus();
  };
  const gauge = async (): Promise<void> => {
    const piece = pieces.find(({ position, valueMm }) => valueMm === null && !texts[position]) ?? pieces[0];
    if (!piece || !batch?.state) return;
    const { model, kind } = batch.state;
    const told = await perform(() =>
      answered(
        server.POST('/api/checks/{model}/{kind}/{check}/gauge', {
          params: { path: { model, kind, check: check.key } },
        }),
      ),
    );
    if (told) put(piece.position, String(told.value));
  };
  const file = async (): Promise<void> => {
    const filed = await perform(
      (by, key) =>
        fileEntries(side.batch, by, key, [
          {
            type: 'check',
            check: check.key,
            values: typed.map((one) => one.value),
            pieces: typed.map((one) => one.position),
          },
        ]),
      filedWords,
    );
    if (filed) setTexts({});
  };
  return (
    <PlainForm panel label={`Measure ${side.batch}`} onFile={file}>
      <Typography variant="h2">
        {side.batch}: {check.name.toLowerCase()} <Quiet small>limits {limitsWords(check)}</Quiet>
      </Typography>
      <Typography color="textSecondary">
        {runningWords(values)}
        {judged.low + judged.high > 0 && `; ${judged.low + judged.high} outside the limits`}
      </Typography>
      <Box className="widths">
        {read.map((piece) => (
          <Box key={piece.position} className={piece.problem ? 'width wrong' : 'width'}>
            <span>{String(piece.position).padStart(2, '0')}</span>
            <InputBase
              inputRef={(field: HTMLInputElement | null) => {
                if (field) fields.current.set(piece.position, field);
                else fields.current.delete(piece.position);
              }}
              inputProps={{
                inputMode: 'decimal',
                'aria-label': `${word} of ${side.batch}/${String(piece.position).padStart(2, '0')}`,
              }}
              placeholder={piece.valueMm === null ? '–' : piece.valueMm.toFixed(2)}
              value={texts[piece.position] ?? ''}
              onChange={(event) => put(piece.position, event.target.value)}
              onKeyDown={(event) => {
                if (event.key !== 'Enter') return;
                event.preventDefault();
                next(piece.position);
              }}
            />
          </Box>
        ))}
      </Box>
      {wrong[0] && (
        <Typography role="alert" className="attention">
          {String(wrong[0].position).padStart(2, '0')}: {wrong[0].problem}
          {wrong[0].meant !== null && (
            <Button
              onClick={() => put(wrong[0]?.position ?? 0, String(wrong[0]?.meant ?? ''))}
              sx={{ ml: 1 }}
            >
              Take {wrong[0].meant}
            </Button>
          )}
        </Typography>
      )}
      <Row style={{ marginTop: 8 }}>
        <Button type="submit" variant="contained" disabled={busy || typed.length === 0 || wrong.length > 0}>
          File {typed.length} measured
        </Button>
        <Button disabled={busy} onClick={() => void gauge()}>
          Next from the gauge
        </Button>
      </Row>
      <Refused words={refused} />
    </PlainForm>
  );
}
