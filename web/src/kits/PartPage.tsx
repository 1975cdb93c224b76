import { Button, Stack, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { answered, server, type Schemas } from '../api/client.ts';
import { AssemblyNav } from '../assembly/AssemblyNav.tsx';
import { Verdict } from '../devices/Verdict.tsx';
import { AskDay, AskNumber, AskWords, Form, useDraft } from '../fields/index.ts';
import { Columns, EmptyState, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { dueInstant, isoDate, sayClock, sayDate } from '../shared/time.ts';
import { maybeWords, numberOf } from '../shared/typed.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { useKits, usePart, type PartWithLog } from './queries.ts';
import { partSentence } from './words.ts';

type Entry = Schemas['FilePartDto']['entry'];

const ANY_DAYS = 10;
const MOST = 1_000_000;

/** One part: what is there, what comes, who waits for it, and everything that happened to it. */
export default function PartPage() {
  const { code = '' } = useParams();
  const { data: part, error } = usePart(code);
  const { data: kits } = useKits(ANY_DAYS);
  if (!part) return <Opening error={error} instead={<Link to="/kits/parts">See the store</Link>} />;
  const say = (ms: number): string => sayDate(ms, part.zone);
  const shortage = kits?.shortages.find((one) => one.part === part.code);
  const { name, supplier, leadDays, weightG, countedMs, openedMs } = part;
  return (
    <Page
      title={
        <>
          {part.code} <Quiet small>{name}</Quiet>
        </>
      }
      tabs={<AssemblyNav />}
    >
      <Columns>
        <Stack>
          <Verdict {...partSentence(part, shortage, part.nowMs, say)}>
            <Typography color="textSecondary">
              {supplier}, {leadDays} days from order to shelf
              {weightG === null ? '' : `; one weighs ${weightG} g`}
              {countedMs > openedMs ? `; last counted ${say(countedMs)}` : '; never counted'}.
            </Typography>
          </Verdict>
          <Panel label="At the shelf" stack>
            <Typography variant="h2">At the shelf</Typography>
            <Came part={part} />
            <Counted part={part} />
            <PutRight part={part} />
          </Panel>
          <History part={part} />
        </Stack>
        <Stack>
          <Purchases part={part} />
          <Panel label="Order it" stack>
            <Typography variant="h2">Ordered</Typography>
            <OrderIt key={shortage?.toOrder} part={part} toOrder={shortage?.toOrder ?? 0} />
          </Panel>
        </Stack>
      </Columns>
    </Page>
  );
}

/** Files one entry on a part. */
function useFilePart(code: string) {
  const { perform, busy, refusal } = usePerform();
  const file = async (entry: Entry): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/parts/{code}/entries', { params: { path: { code } }, body: { by, key, entry } }),
        ),
      filedWords,
    );
    return done !== null;
  };
  return { file, busy, refusal };
}

function Came({ part: { code, coming } }: { part: PartWithLog }) {
  const { file, busy, refusal } = useFilePart(code);
  const draft = useDraft(`receive ${code}`, { came: '' });
  const [next] = coming;
  return (
    <Form
      draft={draft}
      label="Came in"
      refusal={refusal}
      onFile={({ came }) => file({ type: 'part-receive', quantity: numberOf(came) })}
    >
      <AskNumber
        name="came"
        label="Came in"
        least={1}
        most={MOST}
        whole
        hint={next ? `of ${next.quantity} that are to come` : undefined}
      />
      <Button type="submit" variant="contained" disabled={busy}>
        Take in
      </Button>
    </Form>
  );
}

function Counted({ part: { code, onHand } }: { part: PartWithLog }) {
  const { file, busy, refusal } = useFilePart(code);
  const draft = useDraft(`count ${code}`, { counted: '' });
  return (
    <Form
      draft={draft}
      label="Counted"
      refusal={refusal}
      onFile={({ counted }) => file({ type: 'part-count', quantity: numberOf(counted) })}
    >
      <AskNumber
        name="counted"
        label="Counted"
        least={0}
        most={MOST}
        whole
        hint={`${onHand} should be there`}
      />
      <Button type="submit" variant="outlined" disabled={busy}>
        So many are there
      </Button>
    </Form>
  );
}

function PutRight({ part: { code } }: { part: PartWithLog }) {
  const { file, busy, refusal } = useFilePart(code);
  const draft = useDraft(`adjust ${code}`, { by: '', because: '' });
  return (
    <Form
      draft={draft}
      label="Put right"
      refusal={refusal}
      onFile={({ by, because }) => file({ type: 'part-adjust', quantity: numberOf(by), because })}
    >
      <AskNumber name="by" label="More or fewer" least={-MOST} most={MOST} whole placeholder="-2" />
      <AskWords name="because" label="Why" needed="broken, found, taken" width={220} />
      <Button type="submit" variant="outlined" disabled={busy}>
        Put it right
      </Button>
    </Form>
  );
}

function OrderIt({ part, toOrder }: { part: PartWithLog; toOrder: number }) {
  const { code, zone, nowMs, leadDays } = part;
  const { file, busy, refusal } = useFilePart(code);
  const draft = useDraft(`order ${code}`, {
    quantity: toOrder > 0 ? String(toOrder) : '',
    expectedAt: isoDate(nowMs + leadDays * 24 * 3_600_000, zone),
    reference: '',
  });
  return (
    <Form
      draft={draft}
      label="Ordered"
      lay="stack"
      refusal={refusal}
      onFile={({ quantity, expectedAt, reference }) =>
        file({
          ...{ type: 'part-order', quantity: numberOf(quantity) },
          expectedMs: Date.parse(dueInstant(expectedAt, zone)),
          ...maybeWords('reference', reference),
        })
      }
    >
      <Row>
        <AskNumber name="quantity" label="How many" least={1} most={MOST} whole width={110} />
        <AskDay name="expectedAt" label="Expected" zone={zone} needed="a day" width={170} />
      </Row>
      <AskWords name="reference" label="Their number for it" most={60} />
      <Button type="submit" variant="contained" disabled={busy}>
        It is ordered
      </Button>
    </Form>
  );
}

function Purchases({ part }: { part: PartWithLog }) {
  const { coming, zone, nowMs } = part;
  return (
    <Panel label="On its way" stack>
      <Typography variant="h2">On its way</Typography>
      {coming.length === 0 && <EmptyState>Nothing is on order.</EmptyState>}
      {coming.map(({ number, quantity, expectedMs, orderedMs, reference }) => (
        <section key={number} aria-label={`Purchase ${number}`}>
          <Typography className={expectedMs < nowMs ? 'attention' : undefined}>
            <strong>{quantity}</strong> {expectedMs < nowMs ? 'were expected' : 'expected'}{' '}
            {sayDate(expectedMs, zone)}
            {reference !== null && <Quiet> · {reference}</Quiet>}
          </Typography>
          <Quiet block>ordered {sayDate(orderedMs, zone)}</Quiet>
          <Another part={part} number={number} expectedMs={expectedMs} />
        </section>
      ))}
    </Panel>
  );
}

/** A delivery that comes another day, or not at all. */
function Another({ part, number, expectedMs }: { part: PartWithLog; number: number; expectedMs: number }) {
  const { code, zone } = part;
  const { file, busy, refusal } = useFilePart(code);
  const draft = useDraft(`expect ${code} ${number}`, { day: isoDate(expectedMs, zone), because: '' });
  const say = (day: string, because: string): Promise<boolean> =>
    file({
      ...{ type: 'part-expect', of: number, because },
      expectedMs: day === '' ? null : Date.parse(dueInstant(day, zone)),
    });
  return (
    <Form
      draft={draft}
      label={`Purchase ${number} comes another day`}
      lay="stack"
      style={{ marginTop: 10 }}
      refusal={refusal}
      onFile={({ day, because }) => say(day, because)}
    >
      <Row>
        <AskDay name="day" label="Comes" zone={zone} width={160} />
        <AskWords name="because" label="Why" needed="what they say" width={150} />
      </Row>
      <Row>
        <Button type="submit" variant="outlined" size="small" disabled={busy}>
          Another day
        </Button>
        <Quiet>An empty day: it will not come.</Quiet>
      </Row>
    </Form>
  );
}

function History({ part: { entries, zone } }: { part: PartWithLog }) {
  return (
    <Panel label="Everything that happened">
      <Typography variant="h2">Everything that happened</Typography>
      <Quiet block>What kits took stands with the instruments.</Quiet>
      <Table size="small" aria-label="Entries">
        <TableBody>
          {entries.map(({ seq, atMs, byName, words, voided }) => (
            <TableRow key={seq}>
              <TableCell>{sayClock(atMs, zone)}</TableCell>
              <TableCell sx={voided ? { textDecoration: 'line-through' } : undefined}>{words}</TableCell>
              <TableCell>
                <Quiet>{byName}</Quiet>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Panel>
  );
}
