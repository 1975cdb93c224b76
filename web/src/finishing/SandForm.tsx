import { MOST_REMOVED_UM, type FinishView } from '@ample-crane/core';
import { Box, Button } from '@mui/material';
import { AskNumber, Form, useDraft } from '../fields/index.ts';
import { Row } from '../parts/index.ts';
import { maybe } from '../shared/typed.ts';
import { PieceChoice } from './PieceChoice.tsx';
import { SandingWords } from './SandingWords.tsx';
import type { RackPage } from './queries.ts';
import { useChosen } from './useChosen.ts';
import { useFile } from './useFile.ts';

/** What sanding took off, where it was read; what the recipe expects otherwise. */
export function SandForm({ page, view }: { page: RackPage; view: FinishView }) {
  const { file, busy, refusal } = useFile(page.rack.batch);
  const [chosen, setChosen] = useChosen(view.positions);
  const draft = useDraft(`sand ${page.rack.batch} ${view.operation}`, { removalUm: '' });
  const planned = page.state.finish?.sandings.find(({ at }) => at === view.operation);
  return (
    <Form
      label="Sanding"
      draft={draft}
      refusal={refusal}
      style={{ marginTop: 10 }}
      onFile={({ removalUm }) =>
        file({
          type: 'sand',
          operation: view.operation,
          pieces: chosen,
          ...maybe('removalUm', removalUm),
        })
      }
    >
      {view.sanding && <SandingWords sanding={view.sanding} pieces={view.positions.length} />}
      <Box style={{ margin: '6px 0' }}>
        <PieceChoice places={view.positions} chosen={chosen} onChoose={setChosen} label="Pieces sanded" />
      </Box>
      <Row>
        <AskNumber
          name="removalUm"
          label="Taken off"
          unit="µm"
          least={0}
          most={MOST_REMOVED_UM}
          optional
          placeholder={planned ? String(planned.removalUm) : ''}
        />
        <Button type="submit" variant="contained" disabled={busy || chosen.length === 0}>
          Log sanding of {chosen.length}
        </Button>
      </Row>
    </Form>
  );
}
