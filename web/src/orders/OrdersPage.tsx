import { Box } from '@mui/material';
import { Link } from 'react-router';
import { useFloor } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Opening, Page, Panel, Quiet } from '../parts/index.ts';
import { isoDate, sayDate } from '../shared/time.ts';
import type { Column } from '../tables/column.ts';
import { DataTable } from '../tables/DataTable.tsx';
import { OrdersNav } from './OrdersNav.tsx';
import { useOrders, type OrderSummary } from './queries.ts';
import { bookSentence, lateDays, modelsWords } from './words.ts';

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
            attention={(order) => lateDays(order) !== null}
            empty="Nothing is ordered. Place the first order under New order."
          />
        </Box>
      </Panel>
    </Page>
  );
}

/** A column of days in factory time: an order is due on a day, not at an hour. */
function day(column: {
  key: string;
  head: string;
  ms: (order: OrderSummary) => number | null;
  zone: string;
  hidden?: boolean;
}): Column<OrderSummary> {
  const { ms, zone, ...rest } = column;
  const said = (order: OrderSummary, say: (at: number, zone: string) => string): string | null => {
    const at = ms(order);
    return at === null ? null : say(at, zone);
  };
  return {
    ...rest,
    of: (order) => said(order, isoDate),
    show: (order) => said(order, sayDate),
    least: 100,
    share: 0.7,
  };
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
  day({ key: 'due', head: 'due', ms: ({ dueMs }) => dueMs, zone }),
  day({ key: 'earliest', head: 'earliest', ms: ({ earliestMs }) => earliestMs, zone }),
  {
    key: 'late',
    head: 'days late',
    of: (order) => lateDays(order),
    show: (order) => {
      const days = lateDays(order);
      return days === null ? '' : <strong className="attention">{days.toFixed(1)}</strong>;
    },
    digits: 1,
    share: 0.5,
  },
  day({ key: 'placed', head: 'placed', ms: ({ placedMs }) => placedMs, zone, hidden: true }),
];
