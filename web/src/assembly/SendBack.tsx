import { Button, Typography } from '@mui/material';
import { useState } from 'react';
import { fileEntries } from '../api/filing.ts';
import { useBatch } from '../api/queries.ts';
import { AskChoice, AskWords, Form, Leave, useDraft } from '../fields/index.ts';
import { Panel, Row } from '../parts/index.ts';
import { maybeWords } from '../shared/typed.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import type { Sheet } from './queries.ts';

/** Back to an operation, with what is wrong and what brought it about. */
export function SendBack({ sheet }: { sheet: Sheet }) {
  // What moved on the shelf goes back: nobody has to look for it.
  const [open, setOpen] = useState(sheet.verdict === 'back');
  if (sheet.reworkTo === null) return null;
  return (
    <Panel label="Send it back">
      <Typography variant="h2">Send it back</Typography>
      {open ? (
        <SendBackForm sheet={sheet} onDone={() => setOpen(false)} />
      ) : (
        <Button onClick={() => setOpen(true)}>Something is wrong with it</Button>
      )}
    </Panel>
  );
}

function SendBackForm({ sheet, onDone }: { sheet: Sheet; onDone: () => void }) {
  const { batch, position, operation, piece } = sheet;
  const { data } = useBatch(batch);
  const { perform, busy, refusal } = usePerform();
  const begin = {
    reason: sheet.verdict === 'back' ? 'moved while it settled' : '',
    to: sheet.reworkTo ?? '',
    cause: '',
  };
  const draft = useDraft(`send back ${piece}`, begin);
  const operations = data?.route.operations ?? [];
  const upTo = operations.findIndex(({ key }) => key === operation);
  const targets = operations.slice(0, upTo + 1).filter(({ mode }) => mode !== 'hold' && mode !== 'join');
  const file = async ({ reason, to, cause }: typeof begin): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        fileEntries(batch, by, key, [
          {
            type: 'rework',
            operation,
            pieces: [position],
            reason: reason.trim(),
            to,
            ...maybeWords('cause', cause),
          },
        ]),
      filedWords,
    );
    if (done) onDone();
    return done !== null;
  };
  return (
    <Form draft={draft} label="Send it back" lay="stack" refusal={refusal} onFile={file}>
      <AskWords name="reason" label="What is wrong" needed="what is wrong with it" />
      <AskChoice
        name="to"
        label="Back to"
        options={targets.map(({ key, name }) => ({ value: key, words: name }))}
        needed="to where"
      />
      <AskWords name="cause" label="What brought it about" />
      <Row>
        <Button type="submit" variant="contained" disabled={busy}>
          Send {piece} back
        </Button>
        <Leave draft={draft} onLeft={onDone} />
      </Row>
    </Form>
  );
}
