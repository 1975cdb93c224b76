import {
  ACTION_CHECK,
  checksDue,
  isBench,
  isYesNo,
  limitsWords,
  operationOf,
  operationsInUse,
  type CheckDue,
} from '@ample-crane/core';
import { Box, Button, Typography } from '@mui/material';
import { useWatch } from 'react-hook-form';
import { Link } from 'react-router';
import { fileEntries, type EntryDraft } from '../api/filing.ts';
import type { BatchDetail } from '../api/queries.ts';
import { typedNumbers } from '../shared/typed.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { AskNumber, Form, useDraft } from '../fields/index.ts';
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
          {isBench(operation) && <Sheets batch={batch.code} open={openOf(due)} />}
          {due.map((one) => (
            <DueLine key={one.check.key} batch={batch.code} operation={operation.key} due={one} />
          ))}
        </Box>
      ))}
    </Panel>
  );
}

/** Places at which something is still to be read, in order. */
const openOf = (due: readonly CheckDue[]): number[] =>
  [...new Set(due.flatMap(({ open }) => open))].toSorted((a, b) => a - b);

/** Many values of one piece are quicker read on its sheet. */
function Sheets({ batch, open }: { batch: string; open: readonly number[] }) {
  if (open.length === 0) return null;
  return (
    <Typography color="textSecondary">
      Bench sheets:{' '}
      {open.map((place) => (
        <Link key={place} to={`/assembly/bench/${batch}/${place}`} style={{ marginRight: 8 }}>
          {String(place).padStart(2, '0')}
        </Link>
      ))}
    </Typography>
  );
}

function DueLine({ batch, operation, due }: { batch: string; operation: string; due: CheckDue }) {
  const { check, measured, wanted, open } = due;
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`${check.key} of ${batch} at ${operation}`, { values: '' });
  const values = typedNumbers(useWatch({ control: draft.form.control, name: 'values' })) ?? [];
  const places = open.slice(0, values.length);
  const isShort = measured < wanted;
  const file = async (entry: EntryDraft): Promise<boolean> =>
    (await perform((by, key) => fileEntries(batch, by, key, [entry]), filedWords)) !== null;
  const enter = (typed: { values: string }): Promise<boolean> => {
    const read = typedNumbers(typed.values) ?? [];
    const at = { operation, pieces: open.slice(0, read.length) };
    return file(
      check.key === ACTION_CHECK
        ? { type: 'measure', ...at, valuesMm: read }
        : { type: 'check', ...at, check: check.key, values: read },
    );
  };
  const next = open.slice(0, 3).map((place) => `/${place}`);
  return (
    <Form
      draft={draft}
      refusal={refusal}
      lay="row"
      style={{ marginTop: 6, alignItems: 'center' }}
      onFile={enter}
    >
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
          <AskNumber
            name="values"
            label={check.name}
            unit={check.unit}
            several
            mostValues={open.length}
            placeholder={`${next.join(' ')} …`}
            hint={values.length > 0 ? `for ${places.map((place) => `/${place}`).join(' ')}` : undefined}
            width={260}
          />
          <Button type="submit" disabled={busy}>
            File
          </Button>
        </>
      )}
    </Form>
  );
}
