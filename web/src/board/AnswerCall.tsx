import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack } from '@mui/material';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import type { Board, Floor } from '../api/queries.ts';
import { AskChoice, AskFrom, AskWords, Form, Leave, useDraft, type Option } from '../fields/index.ts';
import { Quiet } from '../parts/index.ts';
import { putOffTimes } from './put-off-times.ts';
import { useAnswer } from './useAnswer.ts';

type Call = Board['calls'][number];

/** Put off until a time with a reason, or given to a person. */
export default function AnswerCall({
  call,
  people,
  floor,
  nowMs,
  onClose,
}: {
  call: Call;
  people: readonly Option[];
  floor: Pick<Floor, 'zone' | 'shift'>;
  nowMs: number;
  onClose: () => void;
}) {
  const draft = useDraft(`answer to ${call.id}`, { until: '', to: '', reason: '' });
  const { until, to } = useWatch({ control: draft.form.control });
  const [times] = useState(() => putOffTimes(nowMs, floor));
  const { say, busy, refusal } = useAnswer();
  const send = async (said: { until: string; to: string; reason: string }): Promise<boolean> => {
    const words = [said.until && 'put off', said.to && 'given'].filter(Boolean).join(' and ');
    const saying = {
      reason: said.reason.trim(),
      ...(said.until && { until: said.until }),
      ...(said.to && { to: said.to }),
    };
    const done = await say(call, saying, words);
    if (done) onClose();
    return done;
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="answer-call">
      <DialogTitle id="answer-call">{call.title}</DialogTitle>
      <Form draft={draft} refusal={refusal} onFile={send}>
        <DialogContent>
          <Stack sx={{ gap: '12px', paddingTop: '8px' }}>
            <AskChoice name="until" label="Put off until" options={times} none="not put off" />
            <AskFrom name="to" label="Give to" options={people} placeholder="nobody" />
            <AskWords
              name="reason"
              label={until ? 'Why it can wait' : 'A word with it'}
              needed={until ? 'whoever reads it wants to know' : undefined}
            />
            {until !== '' && <Quiet>It comes back then, or when it costs twice what it does now.</Quiet>}
          </Stack>
        </DialogContent>
        <DialogActions>
          <Leave draft={draft} onLeft={onClose} />
          <Button type="submit" variant="contained" disabled={busy || (until === '' && to === '')}>
            {until === '' ? 'Give it' : 'Put it off'}
          </Button>
        </DialogActions>
      </Form>
    </Dialog>
  );
}
