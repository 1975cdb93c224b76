import { checkOptions } from '@ample-crane/core';
import {
  Button,
  Checkbox,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { answered, server } from '../api/client.ts';
import { AskChoice, AskWords, Form, useDraft } from '../fields/index.ts';
import { PlainList, Row } from '../parts/index.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { useTouches, type OptionBook, type Order, type OrderLine } from './queries.ts';
import { touchWords } from './words.ts';

const BEGIN = { option: '', value: '', because: '' };

/** Another value of one option of a line: which rules speak against it, what it touches on the racks, and why it is changed. */
export function ChangeLine({ order, line, book }: { order: Order; line: OrderLine; book: OptionBook }) {
  const { perform, busy, refusal } = usePerform();
  const [knowing, setKnowing] = useState(false);
  const draft = useDraft(`change ${line.code}`, BEGIN);
  const { option = '', value = '' } = useWatch({ control: draft.form.control });
  const chosen = book.options.find(({ key }) => key === option);
  const now = line.choices[option];
  const isOther = chosen?.values.some(({ code }) => code === value) === true && value !== now;
  const problems = isOther ? checkOptions({ ...line.choices, [option]: value }, book) : [];
  const asked = isOther && problems.length === 0 ? { line: line.number, option, value } : null;
  const { data: touches = [] } = useTouches(order.code, asked);
  const isLate = touches.some(({ done }) => done.length > 0);
  const file = async ({ because }: typeof BEGIN): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/orders/{code}/entries', {
            params: { path: { code: order.code } },
            body: {
              ...{ by, key },
              entry: {
                ...{ type: 'order-change', line: line.number, choices: { [option]: value }, because },
                ...(isLate && knowing ? { knowing: true } : {}),
              },
            },
          }),
        ),
      filedWords,
    );
    if (done) setKnowing(false);
    return done !== null;
  };
  return (
    <Form draft={draft} label={`Change ${line.code}`} lay="stack" refusal={refusal} onFile={file}>
      <Row>
        <AskChoice
          name="option"
          label={`Option of ${line.code}`}
          options={book.options.map(({ key, name }) => ({ value: key, words: name }))}
          needed="which option"
          width={170}
        />
        <AskChoice
          name="value"
          label="What it is to be"
          options={(chosen?.values ?? []).map(({ code, name }) => ({
            value: code,
            words: code === now ? `${name} (as it is)` : name,
          }))}
          needed="what it is to be"
          width={190}
        />
      </Row>
      {problems.map(({ sentence }) => (
        <Typography key={sentence} className="attention" role="alert">
          {sentence}
        </Typography>
      ))}
      {touches.length > 0 && (
        <PlainList>
          {touches.map((touch) => (
            <li
              key={`${touch.batch}${touch.option}`}
              className={touch.done.length > 0 ? 'attention' : undefined}
            >
              {touchWords(touch)}
            </li>
          ))}
        </PlainList>
      )}
      <AskWords name="because" label="Why" needed="why it is changed" />
      {isLate && (
        <FormControlLabel
          control={<Checkbox checked={knowing} onChange={(_, on) => setKnowing(on)} />}
          label="It is built in already, and is to be changed all the same"
        />
      )}
      <Button
        type="submit"
        variant="outlined"
        disabled={busy || !isOther || problems.length > 0 || (isLate && !knowing)}
      >
        Change {line.code}
      </Button>
    </Form>
  );
}

/** A line that is not wanted any more: asked for once more, with a reason. Its pieces go back to stock. */
export function CancelLine({ order, line }: { order: Order; line: OrderLine }) {
  const [open, setOpen] = useState(false);
  const { perform, busy, refusal } = usePerform();
  const draft = useDraft(`cancel ${line.code}`, { because: '' });
  const file = async ({ because }: { because: string }): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/orders/{code}/entries', {
            params: { path: { code: order.code } },
            body: { by, key, entry: { type: 'order-cancel', line: line.number, because } },
          }),
        ),
      filedWords,
    );
    if (done) setOpen(false);
    return done !== null;
  };
  return (
    <>
      <Button color="error" size="small" onClick={() => setOpen(true)}>
        Cancel {line.code}
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        fullWidth
        maxWidth="xs"
        aria-labelledby={`cancel-${line.number}`}
      >
        <DialogTitle id={`cancel-${line.number}`}>Cancel {line.code}</DialogTitle>
        <Form draft={draft} label={`Cancel ${line.code}`} refusal={refusal} onFile={file}>
          <DialogContent>
            <Typography sx={{ marginBottom: '10px' }}>
              {line.quantity} × {line.model} are not built for this order any more; what is on racks is built
              for stock.
            </Typography>
            <AskWords name="because" label="Why" needed="why it is cancelled" />
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setOpen(false)}>Keep it</Button>
            <Button type="submit" color="error" variant="contained" disabled={busy}>
              Cancel the line
            </Button>
          </DialogActions>
        </Form>
      </Dialog>
    </>
  );
}
