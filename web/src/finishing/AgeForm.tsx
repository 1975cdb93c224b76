import { ageingView, operationOf, type FinishView } from '@ample-crane/core';
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Choice } from '../fields/Choice.tsx';
import { AskWords, Form, useDraft } from '../fields/index.ts';
import { Words } from '../fields/Words.tsx';
import { Refused, Row } from '../parts/index.ts';
import type { RackPage } from './queries.ts';
import { useFile } from './useFile.ts';

/** Into the freezer, out of it, and enough: the turns are counted. */
export function AgeForm({ page, view }: { page: RackPage; view: FinishView }) {
  const { file, busy, refused } = useFile(page.rack.batch);
  const [bed, setBed] = useState(page.freezers[0]?.code ?? '');
  const [because, setBecause] = useState('');
  const operation = operationOf(page.route, view.operation);
  if (operation.mode !== 'hold' || operation.rule.rule !== 'ageing') return null;
  const since = page.state.pieces.find(({ position }) => position === view.positions[0])?.sinceMs ?? 0;
  const { cycles, phase } = ageingView({
    ageing: page.state.ageing ?? [],
    positions: view.positions,
    sinceMs: since,
    atMs: page.nowMs,
  });
  const here = { operation: view.operation, pieces: view.positions };
  const reason = because.trim() ? { because: because.trim() } : {};
  return (
    <Box style={{ marginTop: 10 }}>
      <Typography>
        Level wanted: <strong>{operation.rule.level}</strong>. {cycles} of at most {operation.rule.cycles}{' '}
        turns, {operation.rule.coldHours} h cold and {operation.rule.warmHours} h warm each.
      </Typography>
      <Row style={{ marginTop: 6 }}>
        {phase === 'cold' ? (
          <Button
            variant="contained"
            disabled={busy}
            onClick={() => void file({ type: 'age', ...here, to: 'warm', ...reason })}
          >
            Out to warm
          </Button>
        ) : (
          <>
            <Choice
              label="Freezer"
              value={bed}
              onChange={setBed}
              options={page.freezers.map(({ code, name, places }) => ({
                value: code,
                words: `${name}, ${places} places`,
              }))}
              width={150}
            />
            <Button
              variant={cycles === 0 ? 'contained' : 'outlined'}
              disabled={busy}
              onClick={() => void file({ type: 'age', ...here, to: 'cold', ...(bed ? { bed } : {}) })}
            >
              Into the cold
            </Button>
          </>
        )}
        <Words label="Reason, if early" value={because} onChange={setBecause} width={170} />
      </Row>
      {phase === 'warm' && cycles > 0 && <AgedEnough page={page} view={view} />}
      <Refused words={refused} />
    </Box>
  );
}

function AgedEnough({ page, view }: { page: RackPage; view: FinishView }) {
  const { file, busy, refusal } = useFile(page.rack.batch);
  const draft = useDraft(`aged ${page.rack.batch} ${view.operation}`, { seen: '' });
  const stop = ({ seen }: { seen: string }): Promise<boolean> =>
    file({ type: 'end', operation: view.operation, pieces: view.positions, seen: seen.trim() });
  return (
    <Form draft={draft} refusal={refusal} lay="row" style={{ marginTop: 8 }} onFile={stop}>
      <AskWords name="seen" label="Enough: what is to be seen" needed="what was looked at" width={250} />
      <Button type="submit" variant="contained" disabled={busy}>
        Stop here and go on
      </Button>
    </Form>
  );
}
