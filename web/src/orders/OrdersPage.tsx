import { daysLate } from '@ample-crane/core';
import { Box } from '@mui/material';
import { Link } from 'react-router';
import { useFloor } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, Page, Panel, Quiet } from '../parts/index.ts';
import { day, type Column } from '../tables/column.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { OrdersNav } from './OrdersNav.tsx';
import { useOrders, type OrderSummary } from './queries.ts';
import { bookSentence, modelsWords } from './words.ts';

/** Every order of which something is still to leave: what is begun, and whether it can be in time. */
export default function OrdersPage() {
  const { data: orders, error } = useOrders();
  const { data: floor } = useFloor();
  if (!orders || !floor) return <Opening error={error} />;
  return (
    <Page title="Order book" tabs={<OrdersNav />}>
      <Panel label="Open orders">
        <Verdict {...bookSentence(orders)} />
        <Box sx={{ marginTop: '10px' }}>
          <DataTable
            name="orders"
            label="Open orders"
            noun="order"
            rows={orders}
            rowKey={({ code }) => code}
            columns={columnsOf(floor.zone)}
            attention={(order) => daysLate(order) !== null}
            empty="Nothing is ordered. Place the first order under New order."
          />
        </Box>
      </Panel>
    </Page>
  );
}

const columnsOf = (zone: string): Column<OrderSummary>[] => [
  {
    key: 'code',
    head: 'order',
    of: ({ code }) => code,
    show: ({ code }) => (
      <Link to={`/orders/${code}`} className="condensed codelink">
        {code}
      </Link>
    ),
    least: 84,
    share: 0.5,
  },
  {
    key: 'customer',
    head: 'for',
    of: ({ customer }) => customer ?? 'stock',
    show: ({ customer }) => (customer === null ? <Quiet>stock</Quiet> : <bdi>{customer}</bdi>),
    share: 1.6,
    least: 150,
  },
  { key: 'reference', head: 'their number', of: ({ reference }) => reference, hidden: true },
  { key: 'models', head: 'what', of: ({ models }) => modelsWords(models), share: 1.5, least: 130 },
  { key: 'pieces', head: 'ordered', of: ({ pieces }) => pieces, digits: 0, sum: true, share: 0.5 },
  {
    key: 'shipped',
    head: 'left',
    of: ({ shipped }) => shipped,
    digits: 0,
    sum: true,
    share: 0.5,
    hidden: true,
  },
  {
    key: 'unbegun',
    head: 'not begun',
    of: ({ unbegun }) => unbegun,
    digits: 0,
    sum: true,
    share: 0.6,
  },
  day({ key: 'due', share: 0.7, head: 'due', ms: ({ dueMs }) => dueMs, zone }),
  day({ key: 'earliest', share: 0.7, head: 'earliest', ms: ({ earliestMs }) => earliestMs, zone }),
  {
    key: 'late',
    head: 'days late',
    of: (order) => daysLate(order),
    show: (order) => {
      const days = daysLate(order);
      return days === null ? '' : <strong className="attention">{days.toFixed(1)}</strong>;
    },
    digits: 1,
    share: 0.5,
  },
  day({ key: 'placed', share: 0.7, head: 'placed', ms: ({ placedMs }) => placedMs, zone, hidden: true }),
];
