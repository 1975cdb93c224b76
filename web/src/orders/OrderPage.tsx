import { count, pieceAt } from '@ample-crane/core';
import { Box, Button, Stack, Table, TableBody, TableCell, TableRow, Typography } from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { usePeople } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Choice } from '../fields/index.ts';
import { Columns, Opening, Page, Panel, Quiet } from '../parts/index.ts';
import { sayClock, sayDate } from '../shared/time.ts';
import { CancelLine, ChangeLine } from './ChangeLine.tsx';
import { OrdersNav } from './OrdersNav.tsx';
import {
  useMoves,
  useOptionBooks,
  useOrder,
  useWeights,
  type LineMoves,
  type Order,
  type OrderLine,
} from './queries.ts';
import {
  isDoubtful,
  movedWords,
  moveWords,
  orderSentence,
  placeWords,
  termsWords,
  toldMoves,
  weightWords,
} from './words.ts';

/** One order: whether it can be in time, where each piece of it is and what that waits for, and what was changed. */
export default function OrderPage() {
  const { code = '' } = useParams();
  const { data: order, error } = useOrder(code);
  const { data: moves = [] } = useMoves(code);
  if (!order) return <Opening error={error} instead={<Link to="/orders">See the order book</Link>} />;
  const say = (ms: number): string => sayDate(ms, order.zone);
  return (
    <Page
      title={
        <>
          {order.code}{' '}
          <Quiet small>
            <bdi>{order.customer ?? 'for stock'}</bdi>
            {order.reference !== null && ` · their number ${order.reference}`}
          </Quiet>
        </>
      }
      tabs={<OrdersNav />}
    >
      <Columns>
        <Stack>
          <Verdict {...orderSentence(order, say)}>
            <Typography color="textSecondary">
              Placed {say(order.placedMs)}. A lower bound, not a promise: queues are not in it.
            </Typography>
          </Verdict>
          {order.lines.map((line) => (
            <Line key={line.number} order={order} line={line} moves={moves} say={say} />
          ))}
        </Stack>
        <Stack>
          <Panel label="On paper">
            <Typography variant="h2">For the customer</Typography>
            <Button
              component="a"
              href={`/api/orders/${order.code}/status.pdf`}
              target="_blank"
              rel="noopener"
              variant="outlined"
            >
              Where it is, on paper
            </Button>
            <Quiet block>No racks, no people, no reasons: only what is theirs to know.</Quiet>
          </Panel>
          <Changes order={order} />
          {order.lines.some(({ cancelled }) => cancelled === null) && (
            <Panel label="Change it">
              <ChangeLines order={order} />
            </Panel>
          )}
        </Stack>
      </Columns>
    </Page>
  );
}

interface LineProps {
  order: Order;
  line: OrderLine;
  moves: readonly LineMoves[];
  say: (ms: number) => string;
}

function Line({ order, line, moves, say }: LineProps) {
  const { unbegun, places, cancelled, quantity, model, label, note, weightKg, addedMs } = line;
  const { data: weights = [] } = useWeights(order.code, weightKg !== null);
  return (
    <Panel label={`Line ${line.code}`}>
      <Typography variant="h2">
        {quantity} × {model}{' '}
        <Quiet small>
          {line.code}
          {addedMs !== undefined && `, added ${say(addedMs)}`}
        </Quiet>
      </Typography>
      {cancelled !== null && <Typography className="attention">Cancelled: {cancelled}</Typography>}
      {label !== null && (
        <Typography>
          On its label: <bdi>{label}</bdi>
        </Typography>
      )}
      {weightKg && (
        <Box sx={{ margin: '4px 0' }}>
          <Typography>
            Should weigh {weightKg.low.toFixed(2)} to {weightKg.high.toFixed(2)} kg
          </Typography>
          {weights
            .filter((one) => one.line === line.code)
            .map((one) => (
              <Box key={one.piece ?? ''}>
                <Typography className={isDoubtful(one) ? 'attention' : undefined}>
                  {weightWords(one)}
                </Typography>
                <Quiet block>{termsWords(one)}</Quiet>
              </Box>
            ))}
        </Box>
      )}
      {note !== null && <Typography>{note}</Typography>}
      <Box component="dl" sx={{ display: 'flex', flexWrap: 'wrap', gap: '2px 18px', margin: '6px 0 10px' }}>
        {line.options.map(({ option, name, valueName }) => (
          <Box key={option} sx={{ display: 'flex', gap: '6px' }}>
            <Typography component="dt" color="textSecondary">
              {name}
            </Typography>
            <Typography component="dd" sx={{ margin: 0, fontWeight: 600 }}>
              {valueName}
            </Typography>
          </Box>
        ))}
      </Box>
      <Table size="small" aria-label={`Where ${line.code} is`}>
        <TableBody>
          {places.map(({ batch, positions, serials, ...place }) => (
            <TableRow key={`${batch}${place.operation}${place.standing}`}>
              <TableCell className="condensed">
                <Link to={`/batch/${batch}`} className="codelink">
                  {batch}
                </Link>
              </TableCell>
              <TableCell>{count(positions.length, 'piece')}</TableCell>
              <TableCell>
                {placeWords(place, say)}
                {serials.length > 0 && <Quiet block>{serials.join(', ')}</Quiet>}
              </TableCell>
            </TableRow>
          ))}
          {unbegun.map(({ kind, count: wanted }) => (
            <TableRow key={kind}>
              <TableCell className="condensed">{kind}</TableCell>
              <TableCell>{count(wanted, 'piece')}</TableCell>
              <TableCell>
                no rack has {wanted === 1 ? 'it' : 'them'} yet:{' '}
                <Link to={`/orders/racks?order=${order.code}`}>see the rack it would make</Link>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {moves
        .filter((one) => one.line === line.code)
        .map((one) => (
          <WhyMoved key={one.line} moves={one} say={say} />
        ))}
    </Panel>
  );
}

/** Why a line will be ready later than it was thought when it was ordered, by the stays of the piece that decides it. */
function WhyMoved({
  moves: { startMs, endMs, piece, moves },
  say,
}: {
  moves: LineMoves;
  say: (ms: number) => string;
}) {
  const { told, restMs } = toldMoves(moves);
  return (
    <Box component="section" aria-label="What moved its earliest day" sx={{ marginTop: '10px' }}>
      <Typography>
        When it was ordered {say(startMs)} was its earliest day; now {say(endMs)} is:{' '}
        {movedWords(endMs - startMs)}.
        {piece !== null && (
          <>
            {' '}
            <Link to={`/batch/${pieceAt(piece).batch}`} className="codelink">
              {piece}
            </Link>{' '}
            decides it.
          </>
        )}
      </Typography>
      {told.map((move) => (
        <Typography key={`${move.batch}${move.operation}${move.cause}${move.reason}`}>
          <strong>{movedWords(move.movedMs)}</strong> {moveWords(move)}
          <Quiet>
            {' '}
            {move.batch ?? ''} {say(move.fromMs)} to {say(move.toMs)}
          </Quiet>
        </Typography>
      ))}
      {told.length > 0 && told.length < moves.length && (
        <Quiet block>{movedWords(restMs)} all else together</Quiet>
      )}
    </Box>
  );
}

/** One line at a time is changed or cancelled. */
function ChangeLines({ order }: { order: Order }) {
  const { data: books = [] } = useOptionBooks();
  const [number, setNumber] = useState<number | null>(null);
  const open = order.lines.filter(({ cancelled }) => cancelled === null);
  const line = open.find((one) => one.number === number) ?? open[0];
  const book = books.find(({ model }) => model === line?.model);
  if (!line) return null;
  return (
    <>
      <Typography variant="h2">Change it</Typography>
      <Stack>
        {open.length > 1 && (
          <Choice
            label="Line"
            value={String(line.number)}
            options={open.map((one) => ({
              value: String(one.number),
              words: `${one.code}: ${one.quantity} × ${one.model}${one.label === null ? '' : `, ${one.label}`}`,
            }))}
            onChange={(value) => setNumber(Number(value))}
          />
        )}
        {book && <ChangeLine key={line.code} order={order} line={line} book={book} />}
        <Box>
          <CancelLine key={line.code} order={order} line={line} />
        </Box>
      </Stack>
    </>
  );
}

function Changes({ order: { changes, zone } }: { order: Order }) {
  const { nameOf } = usePeople();
  if (changes.length === 0) return null;
  return (
    <Panel label="What was changed">
      <Typography variant="h2">What was changed</Typography>
      {changes.map(({ atMs, by, line, what, because }) => (
        <Typography key={`${atMs}${what}`} sx={{ marginBottom: '6px' }}>
          {line === null ? 'All of it' : `Line ${line}`}: {what}, because {because}
          <Quiet block>
            {nameOf(by)}, {sayClock(atMs, zone)}
          </Quiet>
        </Typography>
      ))}
    </Panel>
  );
}
