import { Box, Button, Stack, Typography } from '@mui/material';
import { Link, useNavigate } from 'react-router';
import { answered, server } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { AssemblyNav } from '../assembly/AssemblyNav.tsx';
import { AskNumber, AskWords, Form, useDraft } from '../fields/index.ts';
import { Columns, Opening, Page, Panel, Quiet, Row } from '../parts/index.ts';
import { numberOf } from '../shared/typed.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { day, type Column } from '../tables/column.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { useKits, useParts, type Part, type Shortage } from './queries.ts';
import { StoreSheet } from './StoreSheet.tsx';

/** The whole plan is looked at, however far ahead it lies. */
const ANY_DAYS = 10;

/** Every part that is kept: how many are there, how many come, and which will be missing. */
export default function StorePage() {
  const { data: parts, error } = useParts();
  const { data: kits } = useKits(ANY_DAYS);
  const { data: floor } = useFloor();
  if (!parts || !floor) return <Opening error={error} />;
  const short = new Map((kits?.shortages ?? []).map((one) => [one.part, one]));
  return (
    <Page title="Store of parts" tabs={<AssemblyNav />}>
      <Columns>
        <Panel label="Parts">
          <DataTable
            name="parts"
            label="Parts"
            noun="part"
            rows={parts}
            rowKey={({ code }) => code}
            columns={columnsOf(floor.zone, short)}
            attention={({ code }) => short.has(code)}
            empty="No part is kept yet. Write down the first one beside."
          />
          <Box sx={{ marginTop: '8px' }}>
            <Button component="a" href="/api/parts.csv" download size="small">
              Stock as CSV
            </Button>
          </Box>
        </Panel>
        <Stack sx={{ gap: 2 }}>
          <NewPart />
          <StoreSheet parts={parts} />
        </Stack>
      </Columns>
    </Page>
  );
}

const columnsOf = (zone: string, short: ReadonlyMap<string, Shortage>): Column<Part>[] => [
  {
    key: 'code',
    head: 'part',
    of: ({ code }) => code,
    show: ({ code }) => (
      <Link to={`/kits/parts/${code}`} className="condensed codelink">
        {code}
      </Link>
    ),
    least: 76,
    share: 0.4,
  },
  { key: 'name', head: 'what', of: ({ name }) => name, share: 2, least: 180 },
  { key: 'supplier', head: 'supplier', of: ({ supplier }) => supplier, choice: true, share: 1, least: 130 },
  { key: 'unit', head: 'by the', of: ({ unit }) => unit, hidden: true },
  { key: 'onHand', head: 'there', of: ({ onHand }) => onHand, digits: 0, share: 0.5, least: 64 },
  { key: 'onOrder', head: 'on order', of: ({ onOrder }) => onOrder, digits: 0, share: 0.5, least: 76 },
  day({
    key: 'comes',
    head: 'next comes',
    ms: ({ coming }) => coming[0]?.expectedMs ?? null,
    zone,
    share: 0.7,
  }),
  {
    key: 'short',
    head: 'will be missing',
    of: ({ code }) => short.get(code)?.short ?? null,
    show: ({ code }) => {
      const missing = short.get(code)?.short;
      return missing === undefined ? '' : <strong className="attention">{missing}</strong>;
    },
    digits: 0,
    share: 0.6,
  },
  { key: 'lead', head: 'lead time, days', of: ({ leadDays }) => leadDays, digits: 0, hidden: true },
  { key: 'weight', head: 'one weighs, g', of: ({ weightG }) => weightG, digits: 0, hidden: true },
  day({ key: 'counted', head: 'counted', ms: ({ countedMs }) => countedMs, zone, share: 0.7, hidden: true }),
];

const BEGIN = { name: '', unit: 'piece', supplier: '', leadDays: '', weightG: '' };

function NewPart() {
  const { perform, busy, refusal } = usePerform();
  const navigate = useNavigate();
  const draft = useDraft('new part', BEGIN, { keep: ['supplier'] });
  const file = async ({ name, unit, supplier, leadDays, weightG }: typeof BEGIN): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.POST('/api/parts', {
            body: {
              ...{ by, key },
              part: {
                ...{ type: 'part', name: name.trim(), unit: unit.trim(), supplier: supplier.trim() },
                leadDays: numberOf(leadDays),
                ...(weightG === '' ? {} : { weightG: numberOf(weightG) }),
              },
            },
          }),
        ),
      filedWords,
    );
    const [entry] = done?.entries ?? [];
    if (entry) void navigate(`/kits/parts/${entry.batch}`);
    return done !== null;
  };
  return (
    <Panel label="Another part">
      <Typography variant="h2">Another part</Typography>
      <Form draft={draft} label="Another part" lay="stack" refusal={refusal} onFile={file}>
        <AskWords name="name" label="What it is" most={80} needed="what it is called" />
        <Row>
          <AskWords name="unit" label="By the" most={20} needed="piece, set, pair" width={110} />
          <AskNumber
            name="weightG"
            label="One weighs"
            unit="g"
            least={0.1}
            most={20_000}
            optional
            width={130}
          />
        </Row>
        <Row>
          <AskWords name="supplier" label="From whom" most={80} needed="who sells it" width={200} />
          <AskNumber name="leadDays" label="Lead time, days" least={0} most={730} whole width={140} />
        </Row>
        <Quiet block>It gets its code when it is filed; then count what is there.</Quiet>
        <Button type="submit" variant="contained" disabled={busy}>
          Keep this part
        </Button>
      </Form>
    </Panel>
  );
}
