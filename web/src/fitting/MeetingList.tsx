import type { Meeting } from '@ample-crane/core';
import { Box } from '@mui/material';
import { Link } from 'react-router';
import { Quiet } from '../parts/index.ts';
import { isoMinute, sayTime } from '../shared/time.ts';
import { DataTable } from '../tables/DataTable.tsx';
import type { Column } from '../tables/column.ts';
import type { Meetings } from './queries.ts';

/** The pairs that will meet: when, and who waits for whom how long. */
export function MeetingList({ data, meetings }: { data: Meetings; meetings: readonly Meeting[] }) {
  return (
    <DataTable
      name="meetings"
      label="Pairs that will meet"
      noun="pair"
      rows={meetings}
      rowKey={({ host }) => host}
      columns={columnsOf(data)}
      sortedBy="meet"
      attention={({ misses }) => misses}
      empty="No pair is like that."
    />
  );
}

const columnsOf = ({ zone, nowMs }: Meetings): Column<Meeting>[] => [
  {
    key: 'body',
    head: 'body',
    of: ({ host }) => host,
    show: ({ host }) => <Link to={`/batch/${host}`}>{host}</Link>,
    share: 0.7,
  },
  {
    key: 'neck',
    head: 'neck',
    of: ({ guest }) => guest,
    show: ({ guest }) => <Link to={`/batch/${guest}`}>{guest}</Link>,
    share: 0.7,
  },
  {
    key: 'model',
    head: 'model',
    of: ({ model }) => model,
    show: ({ model, told }) => (
      <Box>
        {model}
        {told && <Quiet> · told so</Quiet>}
      </Box>
    ),
    choice: true,
  },
  {
    key: 'meet',
    head: 'meet',
    of: ({ meetMs }) => isoMinute(meetMs, zone),
    show: ({ meetMs }) => sayTime(meetMs, zone, nowMs),
  },
  {
    key: 'waits',
    head: 'who waits',
    of: ({ waits, host, guest }) => (waits === null ? 'nobody' : waits === 'host' ? host : guest),
    show: ({ waits, host, guest, short }) => (
      <Box>
        {waits === null ? 'nobody' : waits === 'host' ? host : guest}
        {short && <Quiet block>{shortWords(short)}</Quiet>}
      </Box>
    ),
  },
  {
    key: 'hours',
    head: 'waits, h',
    of: ({ waits, waitHours }) => (waits === null ? null : waitHours),
    show: ({ waits, waitHours, misses }) =>
      waits !== null && (
        <Box component="span" sx={{ color: misses ? 'error.main' : undefined }}>
          {waitHours.toFixed(0)}
        </Box>
      ),
    digits: 0,
    share: 0.6,
  },
  {
    key: 'pair',
    head: 'pair',
    of: () => null,
    show: ({ host, guest }) => <Link to={`/fitting/pairing/${host}/${guest}`}>Pair</Link>,
    share: 0.5,
  },
];

const shortWords = ({ side, pieces }: { side: 'host' | 'guest'; pieces: number }): string => {
  const [one, many] = side === 'guest' ? ['neck', 'necks'] : ['body', 'bodies'];
  return `${pieces} ${pieces === 1 ? one : many} short`;
};
