import { Box, Typography } from '@mui/material';
import { count } from '@ample-crane/core';
import { useFloor, useSetup } from '../api/queries.ts';
import { sayClock } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, Page, Panel } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment } from '../tables/column.ts';
import { useChanges } from './queries.ts';
import { afterWords, beforeWords, changeTitle, type Change } from './words.ts';

/** Who changed what everything is judged by: gate, rooms, run rules, species, machines, stations; with before and after. */
export default function ChangesPage() {
  const { data: floor } = useFloor();
  const { data: changes } = useChanges();
  if (!changes || !floor) return <Opening />;
  const { zone } = floor;
  const [newest] = changes;
  return (
    <Page title="Changed settings">
      <Box style={{ padding: '6px 16px 16px' }}>
        <Verdict
          tone="good"
          sentence={
            newest
              ? `${count(changes.length, 'change')}; the last on ${sayClock(newest.atMs, zone)}.`
              : 'Nothing was changed since the works were set up.'
          }
        >
          <Typography color="textSecondary">
            How dry lumber must be, the air of rooms, run rules, species, machines, stations and weights that
            count: who changed them, and how they stood before. Routes, recipes and programs keep their own
            revisions.
          </Typography>
        </Verdict>
        {changes.length > 0 && <Changes changes={changes} zone={zone} />}
      </Box>
    </Page>
  );
}

function Changes({ changes, zone }: { changes: readonly Change[]; zone: string }) {
  const { data: setup } = useSetup();
  const nameOf = (by: string): string => setup?.people.find(({ code }) => code === by)?.name ?? by;
  return (
    <Panel label="Changes">
      <Typography variant="h2">Newest first</Typography>
      <DataTable
        name="changes"
        label="Changes"
        noun="change"
        rows={changes}
        rowKey={({ id }) => id}
        columns={[
          moment<Change>({ key: 'at', head: 'when', ms: ({ atMs }) => atMs, zone }),
          { key: 'by', head: 'who', of: ({ by }) => nameOf(by), choice: true },
          { key: 'what', head: 'what', of: changeTitle, share: 1.5 },
          { key: 'before', head: 'before', of: (change) => beforeWords(change) ?? 'not there', share: 2 },
          { key: 'since', head: 'since', of: (change) => afterWords(change) ?? 'taken out', share: 2 },
        ]}
        empty=""
      />
    </Panel>
  );
}
