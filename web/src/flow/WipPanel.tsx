import { MAY_BE, STAGES } from '@ample-crane/core';
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import {
  CartesianGrid,
  Line,
  LineChart,
  ReferenceLine,
  ResponsiveContainer,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { answered, server } from '../api/client.ts';
import { LastChange } from '../changes/LastChange.tsx';
import { knownChange } from '../changes/known-change.ts';
import { useSeenChange } from '../changes/useSeenChange.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { AskNumber, Form, Leave, useDraft } from '../fields/index.ts';
import { Panel, Reckoning, Row } from '../parts/index.ts';
import { numberOf, typedNumber } from '../shared/typed.ts';
import { usePerform } from '../shared/usePerform.ts';
import { COUNT_AXIS, DAY_AXIS, DAY_TIP } from './chart.ts';
import { useCumulative, type Cumulative } from './queries.ts';
import { wipSentence } from './words.ts';

/** The chart is as high as the next hundred: its lines fall on whole numbers. */
const HUNDRED = 100;

/** What is in the house day by day, held against the cap that the wanted lead time sets. */
export function WipPanel({ days }: { days: number }) {
  const { data } = useCumulative(days);
  const [open, setOpen] = useState(false);
  // What comes above it says that it is on its way.
  if (!data) return null;
  const { wip, wantedDays } = data;
  const rows = data.days.map((day, i) => {
    const reached = data.reached[i] ?? [];
    return { day, inHouse: (reached[0] ?? 0) - (reached[STAGES.length] ?? 0) };
  });
  const { sentence, tone } = wipSentence(data);
  return (
    <Panel label="Work in process" stack>
      <Typography variant="h2">Work in process</Typography>
      <Verdict {...{ sentence, tone }}>
        <Reckoning
          put={[
            ['In the house now', `${wip.inHouse}`],
            ['Left a day, by the calendar', wip.leftADay.toFixed(2)],
            ['Lead time that is wanted', wantedDays === null ? 'none' : `${wantedDays} days`],
          ]}
          formula="What paces the house sets what leaves a day. As many as leave a day, times the days each should take, may be in the house: more makes all of them wait longer, and none leave sooner."
          source="Little’s law (1961), as a cap on work in process (Spearman, Woodruff & Hopp 1990); what left in the window."
        />
      </Verdict>
      <figure style={{ margin: 0 }} aria-label={sentence}>
        <ResponsiveContainer width="100%" height={150}>
          <LineChart data={rows} margin={{ top: 8, right: 16, bottom: 4, left: 0 }} accessibilityLayer>
            <CartesianGrid vertical={false} stroke="var(--fibre)" />
            <XAxis {...DAY_AXIS} />
            <YAxis
              {...COUNT_AXIS}
              domain={[0, (top: number) => HUNDRED * Math.ceil(Math.max(top, wip.cap ?? 0, 1) / HUNDRED)]}
            />
            <Tooltip {...DAY_TIP} />
            {wip.cap !== null && (
              <ReferenceLine
                y={wip.cap}
                stroke="var(--oxblood)"
                strokeDasharray="5 4"
                label={{
                  value: `cap ${wip.cap}`,
                  position: 'insideBottomLeft',
                  fill: 'var(--oxblood)',
                  fontSize: 12,
                }}
              />
            )}
            <Line
              dataKey="inHouse"
              name="in the house"
              stroke="var(--ebony)"
              strokeWidth={2}
              dot={false}
              isAnimationActive={false}
            />
          </LineChart>
        </ResponsiveContainer>
        <Typography component="figcaption" variant="inherit" color="textSecondary">
          Instruments, and bodies that become one, at the end of each day.
        </Typography>
      </figure>
      {open ? (
        <WantedForm data={data} onDone={() => setOpen(false)} />
      ) : (
        <Box>
          <Button variant="outlined" onClick={() => setOpen(true)}>
            {wantedDays === null ? 'Say how long one should take' : 'Change the wanted lead time'}
          </Button>
        </Box>
      )}
      <LastChange setting="lead time" />
    </Panel>
  );
}

function WantedForm({ data: { wantedDays }, onDone }: { data: Cumulative; onDone: () => void }) {
  const { perform, busy, refusal } = usePerform();
  const { lastChange, lookAgain } = useSeenChange();
  const draft = useDraft('wanted lead time', { days: wantedDays === null ? '' : String(wantedDays) });
  const save = async (typed: string): Promise<boolean> => {
    const days = typedNumber(typed) === null ? null : numberOf(typed);
    const done = await perform(
      (by, key) =>
        answered(
          server.PUT('/api/setup/lead-time', { body: { by, key, days, ...knownChange(lastChange()) } }),
        ),
      () => (days === null ? 'No lead time is wanted any more.' : `An instrument should take ${days} days.`),
    );
    void lookAgain();
    if (done) onDone();
    return done !== null;
  };
  return (
    <Form
      draft={draft}
      refusal={refusal}
      lay="row"
      label="Wanted lead time"
      onFile={({ days }) => save(days)}
    >
      <AskNumber
        name="days"
        label="From first board to case (empty: none)"
        unit="days"
        optional
        {...MAY_BE.leadDays}
      />
      <Row>
        <Button type="submit" variant="contained" disabled={busy}>
          Use it
        </Button>
        <Leave draft={draft} onLeft={onDone} />
      </Row>
    </Form>
  );
}
