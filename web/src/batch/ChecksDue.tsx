import {
  ACTION_CHECK,
  checksDue,
  isYesNo,
  limitsWords,
  operationOf,
  operationsInUse,
  type CheckDue,
} from '@ample-crane/core';
import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { fileEntries, type EntryDraft } from '../api/filing.ts';
import type { BatchDetail } from '../api/queries.ts';
import { typedNumbers } from '../shared/typed.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { Panel, Quiet } from '../parts/index.ts';

/** What must be measured before the pieces that are here are through: a line a check, its values place by place. */
export function ChecksDue({ batch }: { batch: BatchDetail }) {
  const { state, route } = batch;
  if (!state) return null;
  const places = operationsInUse(state, route).flatMap((key) => {
    const operation = operationOf(route, key);
    const pieces = state.pieces.filter(
      (piece) =>
        piece.operation === key &&
        !piece.load &&
        (piece.standing === 'inHand' || (operation.mode === 'gate' && piece.standing === 'waiting')),
    );
    const due = pieces.length > 0 ? checksDue(state, { operation, pieces }) : [];
    return due.length > 0 ? [{ operation, due }] : [];
  });
  if (places.length === 0) return null;
  return (
    <Panel label="To be measured">
      <Typography variant="h2">To be measured</Typography>
      {places.map(({ operation, due }) => (
        <Box key={operation.key} style={{ marginTop: 8 }}>
          <Typography variant="h3">{operation.name}</Typography>
          {due.map((one) => (
            <DueLine key={one.check.key} batch={batch.code} operation={operation.key} due={one} />
          ))}
        </Box>
      ))}
    </Panel>
  );
}

function DueLine({ batch, operation, due }: { batch: string; operation: string; due: CheckDue }) {
  const { check, measured, wanted, open } = due;
  const { perform, busy, refused } = usePerform();
  const [text, setText] = useState('');
  const values = typedNumbers(text);
  const places = open.slice(0, values?.length ?? 0);
  const isShort = measured < wanted;
  const file = async (entry: EntryDraft): Promise<void> => {
    const filed = await perform((by, key) => fileEntries(batch, by, key, [entry]), filedWords);
    if (filed) setText(unlessTypedSince(text));
  };
  const enter = (): void => {
    if (!values) return;
    const at = { operation, pieces: places };
    void file(
      check.key === ACTION_CHECK
        ? { type: 'measure', ...at, valuesMm: values }
        : { type: 'check', ...at, check: check.key, values },
    );
  };
  const next = open.slice(0, 3).map((place) => `/${place}`);
  const problem =
    text.trim() === ''
      ? null
      : !values
        ? 'numbers, a space between'
        : values.length > open.length
          ? `${values.length} values for ${open.length} pieces`
          : null;
  return (
    <Form lay="row" style={{ marginTop: 6, alignItems: 'center' }} onFile={enter}>
      <span style={{ flex: '1 1 200px' }}>
        <strong className={isShort ? 'attention' : undefined}>{check.name}</strong>
        <br />
        <Quiet>
          {limitsWords(check)} · {measured} of {wanted}
        </Quiet>
      </span>
      {open.length > 0 && isYesNo(check) && (
        <>
          <Button
            variant="contained"
            disabled={busy}
            onClick={() =>
              void file({
                type: 'check',
                operation,
                check: check.key,
                pieces: open,
                values: open.map(() => 1),
              })
            }
          >
            Yes, all {open.length}
          </Button>
          <Button
            disabled={busy}
            aria-label={`${check.name}: not ${next[0] ?? ''}`}
            onClick={() =>
              void file({ type: 'check', operation, check: check.key, pieces: open.slice(0, 1), values: [0] })
            }
          >
            Not {next[0]}
          </Button>
        </>
      )}
      {open.length > 0 && !isYesNo(check) && (
        <>
          <TextField
            label={`${check.name}, ${check.unit}`}
            placeholder={`${next.join(' ')} …`}
            value={text}
            onChange={(event) => setText(event.target.value)}
            error={problem !== null}
            helperText={
              problem ?? (values ? `for ${places.map((place) => `/${place}`).join(' ')}` : undefined)
            }
            sx={{ width: 260 }}
            slotProps={{ htmlInput: { inputMode: 'decimal' }, inputLabel: { shrink: true } }}
          />
          <Button type="submit" disabled={busy || !values || problem !== null}>
            File
          </Button>
        </>
      )}
      <Refused words={refused} />
    </Form>
  );
}
