import { Button, Dialog, DialogActions, DialogContent, DialogTitle, Stack } from '@mui/material';
import { useState } from 'react';
import type { Board, Floor } from '../api/queries.ts';
import { Refused } from '../devices/Refused.tsx';
import { Choice, type Option } from '../fields/Choice.tsx';
import { Words } from '../fields/Words.tsx';
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
  const [until, setUntil] = useState('');
  const [to, setTo] = useState('');
  const [reason, setReason] = useState('');
  const [times] = useState(() => putOffTimes(nowMs, floor));
  const { say, busy, refused } = useAnswer();
  const why = reason.trim();
  const send = async (): Promise<void> => {
    const words = [until && 'put off', to && 'given'].filter(Boolean).join(' and ');
    const saying = { reason: why, ...(until && { until }), ...(to && { to }) };
    if (await say(call, saying, words)) onClose();
  };
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="xs" aria-labelledby="answer-call">
      <DialogTitle id="answer-call">{call.title}</DialogTitle>
      <DialogContent>
        <Stack sx={{ gap: '12px', paddingTop: '8px' }}>
          <Choice
            label="Put off until"
            value={until}
            onChange={setUntil}
            options={times}
            none="not put off"
          />
          <Choice label="Give to" value={to} onChange={setTo} options={people} none="nobody" />
          <Words label={until ? 'Why it can wait' : 'A word with it'} value={reason} onChange={setReason} />
          {until !== '' && <Quiet>It comes back then, or when it costs twice what it does now.</Quiet>}
          <Refused words={refused} />
        </Stack>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          disabled={busy || (until === '' && to === '') || (until !== '' && why === '')}
          onClick={() => void send()}
        >
          {until === '' ? 'Give it' : 'Put it off'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
