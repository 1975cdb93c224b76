import type { Meeting, Swap } from '@ample-crane/core';
import { Box, Button, Checkbox, FormControlLabel, Stack, Typography } from '@mui/material';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { sayTime } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { filedWords, usePerform } from '../shared/usePerform.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { AskFrom, asOptions, Choice, Form, useDraft } from '../fields/index.ts';
import { Columns, Opening, Page, Panel, Refused, Row } from '../parts/index.ts';
import { FittingNav } from './FittingNav.tsx';
import { MeetingAxis } from './MeetingAxis.tsx';
import { MeetingList } from './MeetingList.tsx';
import { useMeetings, type Meetings } from './queries.ts';

/** Bodies and necks that will join: who waits for whom, how long, and which change of partners helps. */
export default function MeetingPage() {
  const { data, error } = useMeetings();
  const { asked, ask } = useInAddress();
  if (!data) return <Opening error={error} />;
  const { meetings, swaps, alone } = data.forecast;
  const models = [...new Set([...meetings.map(({ model }) => model), asked('model')])].filter(Boolean);
  const shown = meetings.filter(
    ({ model, misses }) =>
      (asked('model') === '' || model === asked('model')) && (asked('misses') === '' || misses),
  );
  return (
    <Page title="Meeting" tabs={<FittingNav />}>
      <Columns>
        <Stack>
          <Verdict
            tone={swaps.length > 0 ? 'wait' : 'hold'}
            sentence={
              shown.length === 0 && meetings.length > 0 ? 'No pair is like that.' : verdictWords(shown, swaps)
            }
          />
          <Panel label="Time axis">
            <Row style={{ marginBottom: 8 }}>
              <Choice
                label="Model"
                value={asked('model')}
                onChange={(model) => ask('model', model)}
                options={asOptions(models.toSorted())}
                none="all models"
                width={150}
              />
              <FormControlLabel
                control={
                  <Checkbox
                    checked={asked('misses') !== ''}
                    onChange={(_, on) => ask('misses', on ? 'yes' : '')}
                  />
                }
                label="only those that miss each other"
              />
            </Row>
            <Typography color="textSecondary">
              Bodies above the line, necks below it; hatched is waiting, the pale whisker the range of the
              later side.
            </Typography>
            <MeetingAxis data={data} meetings={shown} />
          </Panel>
          <Panel label="Pairs">
            <MeetingList data={data} meetings={shown} />
          </Panel>
        </Stack>
        <Stack>
          <Panel label="Change partners">
            <Typography variant="h2">Change partners</Typography>
            {swaps.length === 0 && (
              <Typography color="textSecondary">
                No change of partners within a model saves a day of waiting.
              </Typography>
            )}
            {swaps.map((swap) => (
              <SwapCard key={swap.meets.map((one) => one.host).join()} swap={swap} data={data} />
            ))}
          </Panel>
          <Panel label="Alone">
            <Typography variant="h2">Without a partner</Typography>
            {alone.length === 0 && <Typography color="textSecondary">Every batch has one.</Typography>}
            {alone.map((batch) => {
              const side = data.sides.find((one) => one.batch === batch);
              return (
                <Typography key={batch}>
                  <Link to={`/batch/${batch}`}>{batch}</Link> {side?.model}, {side?.pieces} left
                </Typography>
              );
            })}
          </Panel>
          <TellForm data={data} />
        </Stack>
      </Columns>
    </Page>
  );
}

function verdictWords(meetings: readonly Meeting[], swaps: readonly Swap[]): string {
  const misses = meetings.filter((meeting) => meeting.misses);
  if (meetings.length === 0) return 'No pair of bodies and necks is on its way to each other.';
  const help =
    swaps.length > 0
      ? `${swaps.length} change${swaps.length === 1 ? '' : 's'} of partners would save ${Math.round(Math.max(...swaps.map((swap) => swap.savesPieceHours)))} piece-hours${swaps.length > 1 ? ' at best' : ''}`
      : 'no change of partners helps';
  if (meetings.length === 1)
    return misses.length === 0
      ? 'The one pair meets within a day.'
      : `The one pair misses each other by more than a day; ${help}.`;
  return misses.length === 0
    ? `All ${meetings.length} pairs meet within a day.`
    : `${misses.length} of ${meetings.length} pairs miss each other by more than a day; ${help}.`;
}

function SwapCard({ swap, data }: { swap: Swap; data: Meetings }) {
  const { perform, busy, refused } = usePerform();
  const { zone, nowMs } = data;
  const take = (): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.POST('/api/meetings', {
            body: { key, by, meets: swap.meets.map(({ host, guest }) => ({ host, guest })) },
          }),
        ),
      filedWords,
    );
  return (
    <Box component="article" className="cycle">
      <Typography>
        {swap.meets.map((one) => (
          <span key={one.host} style={{ display: 'block' }}>
            <strong>
              {one.host} with {one.guest}
            </strong>
            , {sayTime(one.meetMs, zone, nowMs)}
          </span>
        ))}
      </Typography>
      <Typography color="textSecondary">
        Saves {Math.round(swap.savesPieceHours)} piece-hours of waiting
        {swap.laterPieceHours < -1 &&
          `, and bodies meet ${Math.round(-swap.laterPieceHours)} piece-hours sooner in sum`}
        .
      </Typography>
      <Button variant="contained" disabled={busy} onClick={() => void take()}>
        Change partners
      </Button>
      <Refused words={refused} />
    </Box>
  );
}

/** Saying by hand who meets whom. */
function TellForm({ data }: { data: Meetings }) {
  const { perform, busy, refusal } = usePerform();
  const hosts = data.sides.filter((side) => side.role === 'host');
  const guests = data.sides.filter((side) => side.role === 'guest');
  const draft = useDraft('who meets whom', { host: '', guest: '' });
  const tell = ({ host, guest }: { host: string; guest: string }): Promise<unknown> =>
    perform(
      (by, key) => answered(server.POST('/api/meetings', { body: { key, by, meets: [{ host, guest }] } })),
      filedWords,
    );
  if (hosts.length === 0) return null;
  const optionsOf = (sides: Meetings['sides']) =>
    sides.map(({ batch, model, pieces }) => ({ value: batch, words: `${batch}, ${model}, ${pieces}` }));
  return (
    <Form draft={draft} refusal={refusal} panel label="Say who meets whom" onFile={tell}>
      <Typography variant="h2">Say who meets whom</Typography>
      <Row style={{ marginTop: 6 }}>
        <AskFrom name="host" label="Body" options={optionsOf(hosts)} needed="which bodies" width={190} />
        <AskFrom name="guest" label="Neck" options={optionsOf(guests)} needed="which necks" width={190} />
        <Button type="submit" disabled={busy}>
          Let them meet
        </Button>
      </Row>
    </Form>
  );
}
