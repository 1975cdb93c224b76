import { Box, Button, Stack, TextField, Typography } from '@mui/material';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { answered, server } from '../api/client.ts';
import { Columns, Page, Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { FlowNav } from '../shared/FlowNav.tsx';
import { usePerson } from '../shared/person.ts';
import { usePerform } from '../shared/usePerform.ts';

/** What leaves the house on paper and into calendars. */
export default function ReportsPage() {
  return (
    <Page title="Flow" tabs={<FlowNav />}>
      <Columns>
        <Stack>
          <Panel label="Morning sheet" stack>
            <Typography variant="h2">Morning sheet</Typography>
            <Typography>
              One page: what wants a decision, what comes free today, which orders cannot be in time, what
              will be short, who is away.
            </Typography>
            <Row>
              <Paper href="/api/reports/morning.pdf" words="On paper" />
              <Paper href="/api/reports/morning.html" words="As one HTML file" />
            </Row>
            <Quiet block>Made when it is opened, from the same numbers as the pages.</Quiet>
          </Panel>
          <Panel label="Weekly review" stack>
            <Typography variant="h2">Weekly review</Typography>
            <Typography>
              One page to look back on: what left and what paced week by week, where lead time went, what was
              lost where, what cannot be in time.
            </Typography>
            <Row>
              <Paper href="/api/reports/weekly.pdf" words="Review on paper" />
              <Paper href="/api/reports/weekly.html" words="Review as one HTML file" />
            </Row>
            <Quiet block>Four weeks, five working days each, up to now.</Quiet>
          </Panel>
        </Stack>
        <Stack>
          <CalendarPanel />
        </Stack>
      </Columns>
    </Page>
  );
}

const Paper = ({ href, words }: { href: string; words: string }) => (
  <Button component="a" href={href} target="_blank" rel="noopener" variant="outlined">
    {words}
  </Button>
);

/** The calendar of whoever is at the screen, under an address that nobody can guess. */
function CalendarPanel() {
  const { by: person } = usePerson();
  const queries = useQueryClient();
  const key = ['calendar-feed', person];
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => answered(server.GET('/api/calendar-feed', { params: { query: { person } } })),
    enabled: person !== '',
  });
  const { perform, busy, refused } = usePerform();
  const after = (): Promise<void> => queries.invalidateQueries({ queryKey: key });
  const make = async (): Promise<void> => {
    await perform(
      (by, filing) => answered(server.POST('/api/calendar-feed', { body: { by, key: filing } })),
      () => 'A new address was made; the one before leads nowhere.',
    );
    await after();
  };
  const revoke = async (): Promise<void> => {
    await perform(
      (by, filing) => answered(server.POST('/api/calendar-feed/revoke', { body: { by, key: filing } })),
      () => 'Revoked: the address leads nowhere from now on.',
    );
    await after();
  };
  const feed = data?.feed ?? null;
  return (
    <Panel label="Calendar" stack>
      <Typography variant="h2">Calendar</Typography>
      <Typography>
        Ends of holds, due days of racks and orders, absences, cutters to change, closed days, overtime: for
        any calendar program that can subscribe to an address.
      </Typography>
      {feed === null ? (
        <Box>
          <Button variant="contained" disabled={busy || person === ''} onClick={() => void make()}>
            Make an address
          </Button>
        </Box>
      ) : (
        <>
          <TextField
            label="Address to subscribe to"
            value={`${location.origin}/api/calendars/${feed.token}.ics`}
            onFocus={(event) => event.target.select()}
            slotProps={{ htmlInput: { readOnly: true } }}
            fullWidth
          />
          <Row>
            <Button disabled={busy} onClick={() => void make()}>
              Make another
            </Button>
            <Button color="error" disabled={busy} onClick={() => void revoke()}>
              Revoke it
            </Button>
          </Row>
        </>
      )}
      <Refused words={refused} />
      <Quiet block>
        Whoever has the address sees all of it, customers’ names too: give it to nobody, and revoke it when it
        got out.
      </Quiet>
    </Panel>
  );
}
