import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { AskWords, Form, useDraft } from '../fields/index.ts';
import { Columns, EmptyState, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { maybeWords } from '../shared/typed.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { AssemblyNav } from './AssemblyNav.tsx';
import { LedgerTable } from './LedgerTable.tsx';
import { useLeaving, type Leaving } from './queries.ts';
import { leavingSentence } from './words.ts';

/** What may leave, and what left: to whom, for which order, with what. */
export default function ShippingPage() {
  const { data, error } = useLeaving();
  if (!data) return <Opening error={error} />;
  return (
    <Page title="Shipping" tabs={<AssemblyNav />}>
      <Columns>
        <LedgerTable />
        {/* Where the two stand below each other, what is to be done comes before what was. */}
        <Box sx={{ '@media (max-width: 900px)': { order: -1 } }}>
          <Panel label="To leave">
            <Verdict {...leavingSentence(data)} />
            {data.length === 0 ? (
              <EmptyState>What passes its final inspection comes here.</EmptyState>
            ) : (
              <ShipForm leaving={data} />
            )}
          </Panel>
        </Box>
      </Columns>
    </Page>
  );
}

const BEGIN = { to: '', order: '', carrier: '', contents: '', because: '' };

function ShipForm({ leaving }: { leaving: readonly Leaving[] }) {
  const { perform, busy, refusal } = usePerform();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const draft = useDraft('shipment', BEGIN);
  const chosen = leaving.filter(({ piece }) => ticked.has(piece));
  const against = chosen.filter((one) => one.against !== null);
  const papers = [...new Set(chosen.flatMap((one) => one.papers ?? []))];
  const racks = [...new Set(leaving.map(({ batch }) => batch))];
  const orders = ordersOf(chosen);
  const [only = ''] = orders.length === 1 ? orders : [];
  const turn = (pieces: readonly string[], on: boolean): void =>
    setTicked((before) => {
      const next = new Set(before);
      for (const piece of pieces) {
        if (on) next.add(piece);
        else next.delete(piece);
      }
      return next;
    });
  const ship = async ({ to, order, carrier, contents, because }: typeof BEGIN): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/shipments', {
            body: {
              ...{ by, key, pieces: chosen.map(({ piece }) => piece), to: to.trim() },
              ...maybeWords('order', order || only),
              ...maybeWords('carrier', carrier),
              ...maybeWords('contents', contents),
              ...maybeWords('because', because),
            },
          }),
        ),
      filedWords,
    );
    if (done) setTicked(new Set());
    return done !== null;
  };
  return (
    <Form
      draft={draft}
      label="Ship instruments"
      lay="stack"
      refusal={refusal}
      style={{ marginTop: 10 }}
      onFile={ship}
    >
      {racks.map((batch) => (
        <Rack
          key={batch}
          batch={batch}
          lines={leaving.filter((one) => one.batch === batch)}
          ticked={ticked}
          onTurn={turn}
        />
      ))}
      <AskWords name="to" label="To whom" needed="who gets them" />
      <Row>
        <AskWords
          name="order"
          label="Order"
          most={60}
          width={160}
          hint={only === '' ? undefined : `${only}, unless you say another`}
        />
        <AskWords name="carrier" label="Carrier’s number" most={60} width={180} />
      </Row>
      <AskWords name="contents" label="What goes with each" placeholder="case, keys, papers" />
      {papers.length > 0 && (
        <Typography>
          Papers that go with them: <strong>{papers.join(', ')}</strong>
        </Typography>
      )}
      {orders.length > 1 && (
        <Typography className="attention">
          They are built for {orders.join(' and ')}: ship them apart, or say which order it is.
        </Typography>
      )}
      {against.length > 0 && (
        <>
          <Typography className="attention">
            {against[0]?.against}
            {against.length > 1 && ` (and ${against.length - 1} more)`}
          </Typography>
          <AskWords name="because" label="Why they leave all the same" needed="a reason, or take them out" />
        </>
      )}
      <Button type="submit" variant="contained" disabled={busy || chosen.length === 0}>
        Ship {chosen.length}
      </Button>
    </Form>
  );
}

/** Codes of the orders some instruments are built for. */
const ordersOf = (lines: readonly Leaving[]): string[] => [
  ...new Set(lines.flatMap(({ line }) => (line === null ? [] : (line.split('/')[0] ?? [])))),
];

function Rack(props: {
  batch: string;
  lines: readonly Leaving[];
  ticked: ReadonlySet<string>;
  onTurn: (pieces: readonly string[], on: boolean) => void;
}) {
  const { batch, lines, ticked, onTurn } = props;
  const free = lines.filter(({ against }) => against === null).map(({ piece }) => piece);
  const all = free.length > 0 && free.every((piece) => ticked.has(piece));
  return (
    <Box>
      <FormControlLabel
        control={
          <Checkbox
            checked={all}
            indeterminate={!all && lines.some(({ piece }) => ticked.has(piece))}
            disabled={free.length === 0}
            onChange={(_, on) => onTurn(on ? free : lines.map(({ piece }) => piece), on)}
          />
        }
        label={
          <>
            <strong>{batch}</strong> {lines[0]?.model}, {lines.length} here{' '}
            {ordersOf(lines).length > 0 && <Quiet>for {ordersOf(lines).join(', ')}</Quiet>}
          </>
        }
      />
      <Row style={{ paddingLeft: 26, gap: 0 }}>
        {lines.map(({ piece, position, serial, against }) => (
          <FormControlLabel
            key={piece}
            control={
              <Checkbox size="small" checked={ticked.has(piece)} onChange={(_, on) => onTurn([piece], on)} />
            }
            label={
              <span>
                <Link to={`/passport/${batch}/${position}`}>{String(position).padStart(2, '0')}</Link>{' '}
                <Quiet>{serial ?? 'no serial'}</Quiet>
                {against !== null && <strong className="attention"> !</strong>}
              </span>
            }
          />
        ))}
      </Row>
    </Box>
  );
}
