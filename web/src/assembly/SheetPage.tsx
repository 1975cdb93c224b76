import { Box, Button, Stack, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { fileEntries, type EntryDraft } from '../api/filing.ts';
import { useBatch, usePeople } from '../api/queries.ts';
import { Caution } from '../devices/Caution.tsx';
import { TagPanel } from '../orders/TagPanel.tsx';
import { Columns, Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { sayTime } from '../shared/time.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { AssemblyNav } from './AssemblyNav.tsx';
import { useBench, useSheet, type Sheet } from './queries.ts';
import { SendBack } from './SendBack.tsx';
import { SheetForm } from './SheetForm.tsx';
import { SheetHistory } from './SheetHistory.tsx';
import { SheetParts } from './SheetParts.tsx';

/** The bench sheet of one instrument: what is read, what to turn, and where it goes next. Made for a tablet on a bench. */
export default function SheetPage() {
  const { batch = '', position = '' } = useParams();
  const { data: sheet, error } = useSheet(batch, Number(position));
  if (!sheet)
    return <Opening error={error} instead={<Link to="/stage/assembly">See what is on the benches</Link>} />;
  return (
    <Page
      title={
        <>
          {sheet.piece} <Quiet small>{[sheet.serial, sheet.model].filter(Boolean).join(' · ')}</Quiet>
        </>
      }
      tabs={<AssemblyNav />}
    >
      <Columns>
        <Stack>
          {/* Another instrument, or another bench, is another sheet. */}
          <SheetForm key={`${sheet.piece} ${sheet.operation}`} sheet={sheet} />
          <Tag batch={batch} position={sheet.position} />
          <SheetHistory sheet={sheet} />
          <SheetParts sheet={sheet} />
        </Stack>
        <Stack>
          <Next sheet={sheet} />
          <SendBack key={`${sheet.piece} ${sheet.operation}`} sheet={sheet} />
          <Neighbours sheet={sheet} />
        </Stack>
      </Columns>
    </Page>
  );
}

/** What its tag says here, where it is built for an order. */
function Tag({ batch, position }: { batch: string; position: number }) {
  const { data } = useBatch(batch);
  return data?.state ? <TagPanel state={data.state} route={data.route} only={position} /> : null;
}

/** Where it stands and what can be filed of it besides its sheet. */
function Next({ sheet }: { sheet: Sheet }) {
  const { perform, busy, refused } = usePerform();
  const { batch, position, operation, operationName, standing, mode, sinceMs, nowMs, zone, verdict, by } =
    sheet;
  const { nameOf } = usePeople();
  const file = (entry: EntryDraft): void =>
    void perform((by, key) => fileEntries(batch, by, key, [entry]), filedWords);
  const here = { operation, pieces: [position] };
  const waits = mode === 'attended' && standing === 'waiting';
  return (
    <Panel label="Where it is">
      <Typography variant="h2">{operationName}</Typography>
      <Typography color="textSecondary">
        {STANDS[standing] ?? standing} since {sayTime(sinceMs, zone, nowMs)}
        {sheet.endsMs !== null && `, second look ${sayTime(sheet.endsMs, zone, nowMs)}`}
      </Typography>
      {sheet.eyes > 1 && (
        <Typography>
          Two people look at all of it here:{' '}
          {by.length === 0 ? 'nobody has yet' : by.map(nameOf).join(' and ')}.
        </Typography>
      )}
      <Row style={{ marginTop: 10 }}>
        {waits && (
          <Button variant="contained" disabled={busy} onClick={() => file({ type: 'start', ...here })}>
            Take it in hand
          </Button>
        )}
        {sheet.givesSerial && sheet.serial === null && (
          <Button disabled={busy} onClick={() => file({ type: 'serial', ...here })}>
            Give its serial
          </Button>
        )}
        {!waits && (
          <Button
            variant={verdict === 'pass' ? 'contained' : 'outlined'}
            disabled={busy || verdict === 'wait'}
            onClick={() => file(mode === 'hold' ? { type: 'end', ...here } : { type: 'done', ...here })}
          >
            {mode === 'hold' ? 'Off the shelf' : mode === 'gate' ? 'Passes inspection' : 'Done here'}
          </Button>
        )}
      </Row>
      <Refused words={refused} />
      <Box sx={{ marginTop: '10px' }}>
        <Caution words={sheet.caution} />
      </Box>
      <Typography style={{ marginTop: 8 }}>
        <Link to={`/passport/${batch}/${position}`}>Its passport</Link> ·{' '}
        <Link to={`/batch/${batch}`}>Its rack</Link>
      </Typography>
    </Panel>
  );
}

const STANDS: Record<string, string> = { waiting: 'Waiting', inHand: 'In hand', onHold: 'On the shelf' };

/** The others of its rack at the benches, each a touch away. */
function Neighbours({ sheet }: { sheet: Sheet }) {
  const { data } = useBench();
  const others = (data?.lines ?? [])
    .filter(({ batch }) => batch === sheet.batch)
    .toSorted((a, b) => a.position - b.position);
  if (others.length < 2) return null;
  return (
    <Panel label="Others of its rack">
      <Typography variant="h2">Others of {sheet.batch}</Typography>
      <Row>
        {others.map(({ piece, position, verdict }) => (
          <Button
            key={piece}
            component={Link}
            to={`/assembly/bench/${sheet.batch}/${position}`}
            variant={position === sheet.position ? 'contained' : 'outlined'}
            aria-current={position === sheet.position ? 'page' : undefined}
            aria-label={`${piece}, ${SAID[verdict]}`}
            sx={{ minWidth: 52 }}
          >
            {String(position).padStart(2, '0')} {MARK[verdict]}
          </Button>
        ))}
      </Row>
      <Quiet block small>
        ✓ may go on · ! wrong · … to read or settling
      </Quiet>
    </Panel>
  );
}

const SAID = {
  pass: 'may go on',
  measure: 'to read',
  adjust: 'outside limits',
  back: 'moved',
  wait: 'settling',
};
const MARK = { pass: '✓', measure: '…', adjust: '!', back: '!', wait: '…' };
