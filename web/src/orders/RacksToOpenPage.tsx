import { count } from '@ample-crane/core';
import { Box, Button, Checkbox, FormControlLabel, Typography } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { Choice } from '../fields/index.ts';
import { Columns, EmptyState, Opening, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { sayDate } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { BacklogPanel } from './BacklogPanel.tsx';
import { OrdersNav } from './OrdersNav.tsx';
import { useOptionBooks, usePlannedRacks, type PlannedRack } from './queries.ts';

const SIZES = ['4', '6', '8', '10', '12', '14', '16', '24'];
const SPANS = ['0', '7', '14', '28', '60'];

/** What is ordered and not begun, put together into racks that make sense to run together; and opened in one go. */
export default function RacksToOpenPage() {
  const address = useInAddress();
  const largest = SIZES.includes(address.asked('largest')) ? address.asked('largest') : '12';
  const days = SPANS.includes(address.asked('days')) ? address.asked('days') : '14';
  const order = address.asked('order');
  const { data: racks, error } = usePlannedRacks({ largest: Number(largest), withinDays: Number(days) });
  const { data: floor } = useFloor();
  const { data: books = [] } = useOptionBooks();
  const { perform, busy, refused } = usePerform();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  if (!racks || !floor) return <Opening error={error} />;
  const shown = racks.filter(
    ({ lines }) => order === '' || lines.some(({ line }) => line.startsWith(`${order}/`)),
  );
  const chosen = shown.filter((rack) => ticked.has(nameOf(rack)));
  const pieces = racks.reduce((sum, { quantity }) => sum + quantity, 0);
  const open = async (): Promise<void> => {
    const done = await perform(
      (by, key) => answered(server.POST('/api/orders/racks', { body: { by, key, racks: chosen } })),
      filedWords,
    );
    if (done) setTicked(new Set());
  };
  const turn = (name: string, on: boolean): void =>
    setTicked((before) => {
      const next = new Set(before);
      if (on) next.add(name);
      else next.delete(name);
      return next;
    });
  return (
    <Page title="Racks to open" tabs={<OrdersNav />}>
      <Columns>
        <Panel label="Racks out of orders" stack>
          <Verdict
            tone={racks.length === 0 ? 'good' : 'wait'}
            sentence={
              racks.length === 0
                ? 'All that is ordered is on a rack.'
                : `${count(pieces, 'instrument')} ordered and not begun make ${count(racks.length, 'rack')}: alike in model and in what must be shared, due within ${count(Number(days), 'day')}.`
            }
          />
          <Row>
            <Choice
              label="Pieces in a rack"
              value={largest}
              options={SIZES.map((value) => ({ value, words: `${value} at most` }))}
              onChange={(value) => address.ask('largest', value)}
              width={150}
            />
            <Choice
              label="Due within"
              value={days}
              options={SPANS.map((value) => ({ value, words: count(Number(value), 'day') }))}
              onChange={(value) => address.ask('days', value)}
              width={130}
            />
            {order !== '' && <Button onClick={() => address.forget(['order'])}>Racks of all orders</Button>}
            <Button variant="contained" disabled={busy || chosen.length === 0} onClick={() => void open()}>
              Open {count(chosen.length, 'rack')}
            </Button>
          </Row>
          <Refused words={refused} />
          {shown.length === 0 && (
            <EmptyState>{order === '' ? 'Nothing waits.' : `Nothing of ${order} waits.`}</EmptyState>
          )}
          {shown.map((rack) => {
            const name = nameOf(rack);
            const options = books.find(({ model }) => model === rack.model)?.options ?? [];
            return (
              <Box key={name} sx={{ borderTop: '1px solid var(--line)', paddingTop: '6px' }}>
                <FormControlLabel
                  control={<Checkbox checked={ticked.has(name)} onChange={(_, on) => turn(name, on)} />}
                  label={
                    <>
                      <strong>
                        {rack.quantity} × {rack.model}
                      </strong>{' '}
                      {rack.kinds.join(' + ')}, {familyWords(rack, options)}
                      {rack.kinds.length === 1 && <Quiet> the other part is there</Quiet>}
                    </>
                  }
                />
                <Typography color="textSecondary" sx={{ paddingLeft: '30px' }}>
                  due {sayDate(rack.dueMs, floor.zone)}:{' '}
                  {rack.lines.map(({ line, count: n }, i) => (
                    <span key={line}>
                      {i > 0 && ', '}
                      {n} for <Link to={`/orders/${line.split('/')[0] ?? ''}`}>{line}</Link>
                    </span>
                  ))}
                </Typography>
              </Box>
            );
          })}
        </Panel>
        <BacklogPanel />
      </Columns>
    </Page>
  );
}

/** The same rack while nothing of it changes. */
const nameOf = ({ model, kinds, family, lines }: PlannedRack): string =>
  JSON.stringify([model, kinds, family, lines.map(({ line, count: n }) => [line, n])]);

function familyWords(
  { family }: PlannedRack,
  options: readonly { key: string; values: readonly { code: string; name: string }[] }[],
): string {
  const words = Object.entries(family).map(([key, code]) => {
    const values = options.find((option) => option.key === key)?.values;
    return values?.find((value) => value.code === code)?.name ?? code;
  });
  return words.join(', ');
}
