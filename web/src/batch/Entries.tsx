import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, Typography } from '@mui/material';
import { useState } from 'react';
import { fileEntries } from '../api/filing.ts';
import type { BatchDetail } from '../api/queries.ts';
import { sayClock } from '../shared/time.ts';
import { usePerform } from '../shared/usePerform.ts';
import { Panel, Quiet, Refused } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment, type Column } from '../tables/column.ts';

type Entry = BatchDetail['entries'][number];

/** The log of a batch, newest first; any entry can be taken back while nothing later needs it. */
export function Entries({ batch }: { batch: BatchDetail }) {
  const [asked, setAsked] = useState<Entry | null>(null);
  const nameOf = (key: string | null): string =>
    batch.route.operations.find((o) => o.key === key)?.name ?? '';
  const columns: Column<Entry>[] = [
    { key: 'seq', head: 'no.', of: ({ seq }) => seq, digits: 0, share: 0.3, least: 44 },
    {
      key: 'words',
      head: 'what',
      of: ({ words, operation, voided }) =>
        [voided ? 'taken back:' : '', words, nameOf(operation) && `· ${nameOf(operation)}`]
          .filter(Boolean)
          .join(' '),
      show: ({ words, operation, voided, atMs, byName }) => (
        <Box>
          <Box component="span" sx={voided ? { textDecoration: 'line-through' } : {}}>
            {words}
            {nameOf(operation) && ` · ${nameOf(operation)}`}
          </Box>
          {voided && <strong> taken back</strong>}
          <Quiet block>
            {sayClock(atMs, batch.zone)} · {byName}
          </Quiet>
        </Box>
      ),
      share: 3,
      least: 170,
    },
    moment({ key: 'at', head: 'when', ms: ({ atMs }) => atMs, zone: batch.zone, hidden: true }),
    { key: 'by', head: 'who', of: ({ byName }) => byName, choice: true, hidden: true },
    {
      key: 'operation',
      head: 'at',
      of: ({ operation }) => nameOf(operation),
      choice: true,
      hidden: true,
    },
    {
      key: 'correct',
      head: '',
      of: () => null,
      show: (entry) =>
        !entry.voided &&
        entry.type !== 'undo' && (
          <Button
            size="small"
            onClick={() => setAsked(entry)}
            aria-label={`Correct entry ${entry.seq}: ${entry.words}`}
          >
            Correct
          </Button>
        ),
      share: 0.6,
      least: 84,
    },
  ];
  return (
    <Panel label="Log of this batch">
      <Typography variant="h2">Log</Typography>
      <DataTable
        name="batch-log"
        label={`Log of ${batch.code}`}
        noun="entry"
        many="entries"
        rows={batch.entries}
        rowKey={({ seq }) => seq}
        columns={columns}
        empty="Nothing is logged yet."
      />
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
