import { count, daysLate } from '@ample-crane/core';
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Floor } from '../api/queries.ts';
import { RACK_FILTERS } from '../fields/RackFilters.tsx';
import { useOrders } from '../orders/queries.ts';
import { EmptyState, Opening } from '../parts/index.ts';
import { sayDate } from '../shared/time.ts';
import type { InAddress } from '../shared/useInAddress.ts';
import { byOrder, type OrderRow } from './by-order.ts';
import { MarkRow, MarksHead, stagesOf } from './MarkRow.tsx';
import { useAskedRacks } from './useAskedRacks.ts';

/** Of a long book the orders that are due first; the others in one touch. */
const MOST_ROWS = 60;

/** What is on the racks for each order, what is due first, first: a column for each stage. */
export function ByOrder({ floor, address, onAsk }: { floor: Floor; address: InAddress; onAsk: () => void }) {
  const stageOf = stagesOf(floor);
  const { asked, error } = useAskedRacks(address, stageOf);
  const { data: orders, error: noBook } = useOrders();
  const [whole, setWhole] = useState(false);
  if (!asked || !orders) return <Opening error={error ?? noBook} />;
  const chosen = address.asked('order');
  // Who asks for some racks looks for what they are built for; what is not begun has none.
  const isAsked = RACK_FILTERS.some((name) => address.asked(name) !== '');
  const rows = byOrder(orders, asked, stageOf).filter(
    ({ order, racks }) => (racks > 0 || !isAsked) && (chosen === '' || order?.code === chosen),
  );
  const shown = whole ? rows : rows.slice(0, MOST_ROWS);
  return (
    <>
      <MarksHead last="due" onAsk={onAsk} />
      {shown.map((row) => (
        <Row key={row.order?.code ?? ''} {...{ row, address }} zone={floor.zone} />
      ))}
      {shown.length < rows.length && (
        <Box sx={{ padding: '8px 20px' }}>
          <Button onClick={() => setWhole(true)}>Show all {rows.length} rows</Button>
        </Box>
      )}
      {rows.length === 0 && (
        <EmptyState>
          {isAsked ? 'No open rack is like that.' : 'Nothing is ordered, and no rack is open.'}
        </EmptyState>
      )}
    </>
  );
}

function Row({ row, zone, address }: { row: OrderRow; zone: string; address: InAddress }) {
  const { order, racks, pieces, stages } = row;
  const there = racks === 0 ? 'on no rack yet' : `${count(racks, 'rack')}, ${count(pieces, 'piece')}`;
  if (!order)
    return (
      <MarkRow
        {...{ stages, address }}
        name="no order"
        list={null}
        head={
          <>
            <b>no order</b>
            <span>{there}</span>
          </>
        }
      >
        built for stock
      </MarkRow>
    );
  const late = daysLate(order);
  return (
    <MarkRow
      {...{ stages, address }}
      name={order.code}
      list={{ order: order.code }}
      head={
        <>
          <Link to={`/orders/${order.code}`} className="codelink">
            <b>{order.code}</b>
          </Link>
          <span className="customer">{order.customer ?? 'for stock'}</span>
          <span>{there}</span>
        </>
      }
    >
      {sayDate(order.dueMs, zone)}
      <span className="beside">
        {order.pieces - order.shipped} of {order.pieces} to leave
      </span>
      {late !== null && (
        <Typography sx={{ fontSize: 12, color: 'error.main', fontWeight: 700 }}>
          {late.toFixed(1)} days late
        </Typography>
      )}
      {order.unbegun > 0 && <span className="beside">{order.unbegun} not begun</span>}
    </MarkRow>
  );
}
