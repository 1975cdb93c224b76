import { Box, Button, Stack, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { useFloor } from '../api/queries.ts';
import { Verdict } from '../devices/Verdict.tsx';
import { FlowOf } from '../flow/FlowOf.tsx';
import { useRoster, type Roster } from '../flow/queries.ts';
import { Columns, EmptyState, Panel, Quiet, Reckoning, Refused, Row } from '../parts/index.ts';
import { dayWords, isoDate } from '../shared/time.ts';
import { useInAddress } from '../shared/useInAddress.ts';
import { usePerform } from '../shared/usePerform.ts';
import { GangStrip } from './GangStrip.tsx';
import { rosterSentence } from './words.ts';

const DAY = /^20\d\d-\d\d-\d\d$/;

/** Who works where today, or on a day soon. */
export default function RosterPage() {
  const { asked } = useInAddress();
  const day = DAY.test(asked('day')) ? asked('day') : '';
  return <FlowOf asked={useRoster(day)}>{(data) => <Day data={data} />}</FlowOf>;
}

function Day({ data }: { data: Roster }) {
  const { work, evenings, nowMs, zone, day, isToday } = data;
  const { ask } = useInAddress();
  const { data: floor } = useFloor();
  const today = isoDate(nowMs, zone);
  const stationName = (code: string): string =>
    floor?.stations.find((one) => one.code === code)?.name ?? code;
  const widest = Math.max(...work.map(({ wantedHours }) => wantedHours), 1);
  return (
    <Columns>
      <Stack>
        <Verdict {...rosterSentence(data)}>
          <Reckoning
            put={[
              ['Hours there are', `${data.hours.toFixed(1)} h each`],
              ['Stations and skills with work', `${work.length}`],
            ]}
            formula="What waits, is in hand, or comes off its hold before the day is over, by the route’s minutes. Hours are given out station by station, first to what paces the house, then to what has most days of work in front of it; no station gives up an hour to one behind it. Nobody is lent as long as as much is covered without, nobody for less than an hour, and no station has more people than places. Those who are learning are not counted."
            source="The racks as they stand now; where somebody usually works, by the log of 20 working days. A largest flow (Ford & Fulkerson 1956)."
          />
        </Verdict>
        <Panel label="Who works where">
          <Row style={{ marginBottom: 10 }}>
            <ToggleButtonGroup
              exclusive
              aria-label="Day"
              value={day}
              onChange={(_, chosen: string | null) => ask('day', chosen === today ? '' : (chosen ?? ''))}
            >
              {data.days.map((one) => (
                <ToggleButton key={one} value={one}>
                  {one === today ? 'Today' : dayWords(one)}
                </ToggleButton>
              ))}
            </ToggleButtonGroup>
          </Row>
          {!isToday && (
            <Quiet block>
              By what stands in front of the stations now: what is done until then comes off it.
            </Quiet>
          )}
          {evenings.map(({ start, end, stations = [] }) => (
            <Typography key={`${start} ${stations.join(' ')}`} sx={{ mb: 1 }}>
              {stations.map(stationName).join(' and ')} {stations.length === 1 ? 'works' : 'work'} overtime
              from {start} to {end}: who stays is not said here.{' '}
              <Link to={`/flow/hours?day=${day}`}>Calendar</Link>
            </Typography>
          ))}
          {work.length === 0 && (
            <EmptyState>
              {isToday
                ? 'Nothing is there to be worked on today.'
                : 'Nothing would be there to be worked on.'}
            </EmptyState>
          )}
          {work.map((task) => (
            <GangStrip
              key={`${task.station} ${task.skill}`}
              task={task}
              widest={widest}
              paces={task.station === data.paces}
            />
          ))}
        </Panel>
      </Stack>
      <Crew data={data} stationName={stationName} />
    </Columns>
  );
}

/** Who is in, who is free for a while, and who is away; told in the morning with one touch. */
function Crew({ data, stationName }: { data: Roster; stationName: (code: string) => string }) {
  const { people, day, isToday } = data;
  const { perform, busy, refused } = usePerform();
  const tell = (person: Roster['people'][number], away: boolean): Promise<unknown> =>
    perform(
      (by, key) =>
        answered(
          server.PUT('/api/setup/people/{code}/absences', {
            params: { path: { code: person.code } },
            body: { by, key, fromDay: day, toDay: day, away },
          }),
        ),
      () => `${person.name} is ${away ? 'away' : 'here'}${isToday ? ' today' : ` on ${dayWords(day)}`}.`,
    );
  const order = people.toSorted((a, b) => Number(b.isAway) - Number(a.isAway));
  return (
    <Panel label="Who is in">
      <Typography variant="h2">Who is in</Typography>
      <Refused words={refused} />
      {order.map((person) => (
        <Row
          key={person.code}
          style={{ justifyContent: 'space-between', flexWrap: 'nowrap', padding: '2px 0' }}
        >
          <Box sx={{ minWidth: 0 }}>
            <Typography component="span" {...(person.isAway ? { color: 'textSecondary' } : {})}>
              {person.name}
            </Typography>
            <Quiet block small>
              {sinceWords(person, stationName)}
            </Quiet>
          </Box>
          <Button
            size="small"
            disabled={busy}
            aria-label={`${person.name} is ${person.isAway ? 'here' : 'away'}`}
            onClick={() => void tell(person, !person.isAway)}
          >
            {person.isAway ? 'Here' : 'Away'}
          </Button>
        </Row>
      ))}
    </Panel>
  );
}

function sinceWords(
  { isAway, home, role, freeHours, learning }: Roster['people'][number],
  stationName: (code: string) => string,
): string {
  if (isAway) return 'away';
  const at = home === null ? role : stationName(home);
  if (freeHours === null || freeHours === 0) return at;
  const learns = learning.length > 0 ? `, is learning ${learning.join(', ')}` : '';
  return `${at}; ${freeHours.toFixed(1)} h free${learns}`;
}
