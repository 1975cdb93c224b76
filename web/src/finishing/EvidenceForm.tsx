import type { FinishView } from '@ample-crane/core';
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { Words } from '../fields/Words.tsx';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Row } from '../parts/index.ts';
import type { RackPage } from './queries.ts';
import { useFile } from './useFile.ts';

/** The gate out of a cure: by the latest of clock, panel and mark, or passing the rule by, on a panel or not, with a reason that stays. */
export function EvidenceForm({ page, view, nowMs }: { page: RackPage; view: FinishView; nowMs: number }) {
  const { file, busy, refused } = useFile(page.rack.batch);
  const [because, setBecause] = useState('');
  const against = (onPanel?: string): Promise<void> =>
    file({
      type: 'end',
      ...here,
      because: because.trim(),
      ...(onPanel === undefined ? {} : { panel: onPanel }),
    }).then((done) => {
      if (done) setBecause(unlessTypedSince(because));
    });
  const here = { operation: view.operation, pieces: view.positions };
  const panel = page.panels.find(({ curedMs }) => curedMs !== null && curedMs <= nowMs);
  return (
    <Box style={{ marginTop: 10 }}>
      <Row>
        {view.ready && (
          <Button variant="contained" disabled={busy} onClick={() => void file({ type: 'end', ...here })}>
            End hold, on to {view.next}
          </Button>
        )}
        <Button disabled={busy} onClick={() => void file({ type: 'mark', ...here, passed: true })}>
          Mark test passed
        </Button>
        <Button disabled={busy} onClick={() => void file({ type: 'mark', ...here, passed: false })}>
          Mark test failed
        </Button>
      </Row>
      {!view.ready && (
        <Form lay="row" style={{ marginTop: 8 }} onFile={against}>
          <Words label="Pass the rule by, because" value={because} onChange={setBecause} width={280} />
          <Button type="submit" color="error" disabled={busy || because.trim() === ''}>
            End hold now, for this reason
          </Button>
          {panel && (
            <Button
              color="error"
              disabled={busy || because.trim() === ''}
              onClick={() => void against(panel.code)}
            >
              Go by {panel.code}, for this reason
            </Button>
          )}
        </Form>
      )}
      <Refused words={refused} />
    </Box>
  );
}
