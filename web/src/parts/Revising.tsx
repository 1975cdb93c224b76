import { Button, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import { Panel } from './Panel.tsx';
import { Refused } from './Refused.tsx';
import { Row } from './Row.tsx';

/** What is drawn anew and is not so before somebody says it. */
export function Revising(props: {
  /** What saying it does: 'Sell it so'. */
  does: string;
  /** Back to what stands: 'Back to what is sold'. */
  back: string;
  /** Said while it is changed, and while it is not. */
  words: { changed: string; same: string };
  isChanged: boolean;
  busy: boolean;
  refused: string | null;
  onSave: () => void;
  onBack: () => void;
  children?: ReactNode;
}) {
  const { does, back, words, isChanged, busy, refused, onSave, onBack, children } = props;
  return (
    <Panel label={does}>
      <Typography>{isChanged ? words.changed : words.same}</Typography>
      {children}
      <Refused words={refused} />
      <Row style={{ marginTop: 8 }}>
        <Button variant="contained" disabled={busy || !isChanged} onClick={onSave}>
          {does} from now on
        </Button>
        <Button disabled={!isChanged} onClick={onBack}>
          {back}
        </Button>
      </Row>
    </Panel>
  );
}
