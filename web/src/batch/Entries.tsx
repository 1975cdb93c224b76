import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  Table,
  TableBody,
  TableCell,
  TableRow,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { fileEntries } from '../api/filing.ts';
import type { BatchDetail } from '../api/queries.ts';
import { sayClock } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Refused } from '../devices/Refused.tsx';
import { Panel } from '../parts/Panel.tsx';
import { Quiet } from '../parts/Quiet.tsx';

const SHOWN_AT_FIRST = 8;

type Entry = BatchDetail['entries'][number];

/** The log of a batch, newest first; any entry can be taken back while nothing later needs it. */
export function Entries({ batch }: { batch: BatchDetail }) {
  const [all, setAll] = useState(false);
  const [asked, setAsked] = useState<Entry | null>(null);
  const shown = all ? batch.entries : batch.entries.slice(0, SHOWN_AT_FIRST);
  const nameOf = (key: string | null): string =>
    batch.route.operations.find((o) => o.key === key)?.name ?? '';
  return (
    <Panel label="Log of this batch">
      <Typography variant="h2">Log</Typography>
      <Table>
        <TableBody>
          {shown.map((entry) => (
            <TableRow key={entry.seq}>
              <TableCell className="quiet" align="right">
                {entry.seq}
              </TableCell>
              <TableCell>
                <span style={entry.voided ? { textDecoration: 'line-through' } : undefined}>
                  {entry.words}
                  {nameOf(entry.operation) && ` · ${nameOf(entry.operation)}`}
                </span>
                {entry.voided && <strong> taken back</strong>}
                <Quiet block>
                  {sayClock(entry.atMs, batch.zone)} · {entry.byName}
                </Quiet>
              </TableCell>
              <TableCell>
                {!entry.voided && entry.type !== 'undo' && (
                  <button
                    type="button"
                    className="plainbutton"
                    onClick={() => setAsked(entry)}
                    aria-label={`Correct entry ${entry.seq}: ${entry.words}`}
                  >
                    Correct
                  </button>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {batch.entries.length > SHOWN_AT_FIRST && (
        <Button onClick={() => setAll(!all)} sx={{ mt: 1 }}>
          {all ? 'Newest only' : `All ${batch.entries.length} entries`}
        </Button>
      )}
      <Correction batch={batch} entry={asked} onClose={() => setAsked(null)} />
    </Panel>
  );
}

function Correction({
  batch,
  entry,
  onClose,
}: {
  batch: BatchDetail;
  entry: Entry | null;
  onClose: () => void;
}) {
  const { perform, busy, refused } = usePerform();
  const takeBack = async (seq: number): Promise<void> => {
    const done = await perform(
      (by, key) => fileEntries(batch.code, by, key, [{ type: 'undo', seq }]),
      ({ sentence }) => `${sentence}. Now file what was true.`,
    );
    if (done) onClose();
  };
  return (
    <Dialog open={entry !== null} onClose={onClose} aria-labelledby="correction">
      <DialogTitle id="correction">Take back entry {entry?.seq}?</DialogTitle>
      <DialogContent>
        <Typography>
          {batch.code}: {entry?.words}. It stays in the log, struck through, with a correction after it. What
          was filed together with it is taken back too.
        </Typography>
        <Refused words={refused} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Leave it</Button>
        <Button
          variant="contained"
          autoFocus
          disabled={busy}
          onClick={() => entry && void takeBack(entry.seq)}
        >
          Take it back
        </Button>
      </DialogActions>
    </Dialog>
  );
}
