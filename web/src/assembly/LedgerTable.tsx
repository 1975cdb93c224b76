import { count } from '@ample-crane/core';
import { Box, Button, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { Link } from 'react-router';
import { Opening, Panel, Quiet, Row } from '../parts/index.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { moment, type Column } from '../tables/column.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { useLedger, type LedgerLine } from './queries.ts';

const SPANS = [
  { value: '7', words: 'A week' },
  { value: '30', words: 'A month' },
  { value: '90', words: 'A quarter' },
  { value: '365', words: 'A year' },
];
const USUAL = '30';

/** The ship ledger: a line for each instrument that left. */
export function LedgerTable() {
  const address = useInAddress();
  const span = SPANS.some(({ value }) => value === address.asked('days')) ? address.asked('days') : USUAL;
  const shipment = address.asked('shipment');
  const { data, error } = useLedger(shipment === '' ? { days: Number(span) } : { filing: shipment });
  const lines = data?.lines ?? [];
  return (
    <Panel label="Ship ledger">
      <Typography variant="h2">Ship ledger</Typography>
      <Row style={{ marginBottom: 10 }}>
        <ToggleButtonGroup
          exclusive
          aria-label="How far back"
          value={span}
          onChange={(_, chosen: string | null) => address.ask('days', chosen ?? USUAL)}
        >
          {SPANS.map(({ value, words }) => (
            <ToggleButton key={value} value={value}>
              {words}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        {data && (
          <span>
            {count(lines.length, 'instrument')} in{' '}
            {count(new Set(lines.map(({ filing }) => filing)).size, 'shipment')}
          </span>
        )}
        {data?.more && <Quiet>the newest of them</Quiet>}
        {shipment !== '' && <Button onClick={() => address.forget(['shipment'])}>All shipments</Button>}
      </Row>
      {data ? (
        <DataTable
          name="ledger"
          label="Ship ledger"
          noun="instrument"
          rows={lines}
          rowKey={({ piece }) => piece}
          columns={columnsOf(data.zone)}
          attention={({ because }) => because !== null}
          empty="Nothing left in that time."
        />
      ) : (
        <Opening error={error} />
      )}
    </Panel>
  );
}

const columnsOf = (zone: string): Column<LedgerLine>[] => [
  moment({ key: 'at', head: 'left', ms: ({ atMs }) => atMs, zone }),
  {
    key: 'serial',
    head: 'serial',
    of: ({ serial }) => serial,
    show: ({ serial, batch, position }) => (
      <Link to={`/passport/${batch}/${position}`} className="condensed codelink">
        {serial ?? 'none'}
      </Link>
    ),
    least: 104,
  },
  { key: 'piece', head: 'instrument', of: ({ piece }) => piece, hidden: true },
  { key: 'model', head: 'model', of: ({ model }) => model, choice: true, share: 0.8 },
  {
    key: 'to',
    head: 'to',
    of: ({ to }) => to,
    show: ({ to, because }) => (
      <Box>
        <bdi>{to}</bdi>
        {because !== null && <strong className="attention"> rule passed by: {because}</strong>}
      </Box>
    ),
    share: 1.6,
    least: 140,
  },
  { key: 'order', head: 'order', of: ({ order }) => order, share: 0.7 },
  { key: 'carrier', head: 'carrier', of: ({ carrier }) => carrier, share: 1.2, hidden: true },
  { key: 'contents', head: 'with it', of: ({ contents }) => contents, share: 1.2, hidden: true },
  { key: 'papers', head: 'papers', of: ({ papers }) => papers, share: 1.2, hidden: true },
  { key: 'by', head: 'packed by', of: ({ by }) => by, choice: true, share: 0.8, hidden: true },
  {
    key: 'list',
    head: '',
    of: () => null,
    show: ({ filing, piece }) => (
      <Button
        component="a"
        href={`/api/shipments/${filing}/packing-list.pdf`}
        target="_blank"
        rel="noopener"
        size="small"
        aria-label={`Packing list of ${piece}`}
      >
        List
      </Button>
    ),
    least: 74,
    share: 0.4,
  },
];
