import type { FinishView } from '@ample-crane/core';
import { Box, Button } from '@mui/material';
import { useState } from 'react';
import { typedNumber } from '../shared/typed.ts';
import { unlessTypedSince } from '../shared/unless-typed-since.ts';
import { Refused } from '../devices/Refused.tsx';
import { Form } from '../fields/Form.tsx';
import { Typed } from '../fields/Typed.tsx';
import { Row } from '../parts/index.ts';
import { PieceChoice } from './PieceChoice.tsx';
import { SandingWords } from './SandingWords.tsx';
import type { RackPage } from './queries.ts';
import { useChosen } from './useChosen.ts';
import { useFile } from './useFile.ts';

/** What sanding took off, where it was read; what the recipe expects otherwise. */
export function SandForm({ page, view }: { page: RackPage; view: FinishView }) {
  const { file, busy, refused } = useFile(page.rack.batch);
  const [chosen, setChosen] = useChosen(view.positions);
  const [off, setOff] = useState('');
  const removalUm = off.trim() === '' ? undefined : typedNumber(off);
  const planned = page.state.finish?.sandings.find(({ at }) => at === view.operation);
  return (
    <Form
      label="Sanding"
      style={{ marginTop: 10 }}
      onFile={() =>
        file({
          type: 'sand',
          operation: view.operation,
          pieces: chosen,
          ...(removalUm === undefined || removalUm === null ? {} : { removalUm }),
        }).then((done) => done && setOff(unlessTypedSince(off)))
      }
    >
      {view.sanding && <SandingWords sanding={view.sanding} pieces={view.positions.length} />}
      <Box style={{ margin: '6px 0' }}>
        <PieceChoice places={view.positions} chosen={chosen} onChoose={setChosen} label="Pieces sanded" />
      </Box>
      <Row>
        <Typed
          label="Taken off, µm"
          text={off}
          onChange={setOff}
          placeholder={planned ? String(planned.removalUm) : ''}
          width={130}
        />
        <Button
          type="submit"
          variant="contained"
          disabled={busy || removalUm === null || chosen.length === 0}
        >
          Log sanding of {chosen.length}
        </Button>
      </Row>
      <Refused words={refused} />
    </Form>
  );
}
