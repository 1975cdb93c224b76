import type { FinishView } from '@ample-crane/core';
import { Box, Button } from '@mui/material';
import { AskWords, Form, useDraft } from '../fields/index.ts';
import { Refused, Row } from '../parts/index.ts';
import type { RackPage } from './queries.ts';
import { useFile } from './useFile.ts';

/** The gate out of a cure: by the latest of clock, panel and mark, or passing the rule by, on a panel or not, with a reason that stays. */
export function EvidenceForm({ page, view, nowMs }: { page: RackPage; view: FinishView; nowMs: number }) {
  const { file, busy, refused } = useFile(page.rack.batch);
  const here = { operation: view.operation, pieces: view.positions };
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
      <Refused words={refused} />
      {!view.ready && <AgainstRule page={page} view={view} nowMs={nowMs} />}
    </Box>
  );
}

function AgainstRule({ page, view, nowMs }: { page: RackPage; view: FinishView; nowMs: number }) {
  const { file, busy, refusal } = useFile(page.rack.batch);
  const draft = useDraft(`end ${page.rack.batch} ${view.operation}`, { because: '' });
  const panel = page.panels.find(({ curedMs }) => curedMs !== null && curedMs <= nowMs);
  const end = (because: string, on: { panel?: string } = {}): Promise<boolean> =>
    file({ type: 'end', operation: view.operation, pieces: view.positions, because: because.trim(), ...on });
  return (
    <Form
      draft={draft}
      refusal={refusal}
      lay="row"
      style={{ marginTop: 8 }}
      onFile={({ because }) => end(because)}
    >
      <AskWords
        name="because"
        label="Pass the rule by, because"
        needed="the reason stays with the rack"
        width={280}
      />
      <Button type="submit" color="error" disabled={busy}>
        End hold now, for this reason
      </Button>
      {panel && (
        <Button
          color="error"
          disabled={busy}
          onClick={() => void draft.submit(({ because }) => end(because, { panel: panel.code }))}
        >
          Go by {panel.code}, for this reason
        </Button>
      )}
    </Form>
  );
}
