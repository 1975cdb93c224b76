import { count } from '@ample-crane/core';
import { Box, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { sayClock } from '../shared/time.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, Page, Panel } from '../parts/index.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { moment } from '../tables/column.ts';

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(1)} MB`;

/** The backups of the database: when the last one was taken, how large it is, and whether the next is overdue. */
export default function BackupsPage() {
  const { data: floor } = useFloor();
  const { data } = useQuery({
    queryKey: ['backups'],
    queryFn: () => answered(server.GET('/api/backups')),
  });
  if (!data || !floor) return <Opening />;
  const { zone } = floor;
  return (
    <Page title="Backups">
      <Box style={{ padding: '6px 16px 16px' }}>
        <Verdict
          tone={data.on && !data.overdue && data.trouble === null ? 'good' : 'bad'}
          sentence={sentence(data, zone)}
        >
          {data.trouble !== null && <Typography>{data.trouble}</Typography>}
          <Typography color="textSecondary">
            One is taken every night and kept for {count(data.keepDays, 'day')}; by hand: npm run backup. Keep
            copies on another machine, and try restoring one: npm run restore -- FILE.
          </Typography>
        </Verdict>
        {data.backups.length > 0 && (
          <Panel label="Kept backups">
            <Typography variant="h2">Kept, newest first</Typography>
            <DataTable
              name="backups"
              label="Kept backups"
              noun="backup"
              rows={data.backups}
              rowKey={({ name }) => name}
              columns={[
                moment<Schemas['BackupsDto']['backups'][number]>({
                  key: 'taken',
                  head: 'taken',
                  ms: ({ atMs }) => atMs,
                  zone,
                }),
                {
                  key: 'size',
                  head: 'size, MB',
                  of: ({ bytes }) => bytes / 1e6,
                  show: ({ bytes }) => megabytes(bytes),
                  digits: 1,
                  sum: true,
                },
                { key: 'file', head: 'file', of: ({ name }) => name, share: 2 },
              ]}
              empty=""
            />
          </Panel>
        )}
      </Box>
    </Page>
  );
}

function sentence({ on, backups, overdue }: Schemas['BackupsDto'], zone: string): string {
  const [newest] = backups;
  if (!on) return 'No backups are taken: the server was started without a folder for them (BACKUP_FOLDER).';
  if (!newest)
    return overdue
      ? 'There is no backup, and one is overdue.'
      : 'No backup yet: the first is taken within minutes of a start.';
  return `The last backup is of ${sayClock(newest.atMs, zone)}, ${megabytes(newest.bytes)}${overdue ? ': the next is overdue.' : '.'}`;
}
