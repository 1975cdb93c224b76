import type { FactoryCalendar, Overtime } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { Fragment } from 'react';
import { Link } from 'react-router';
import { answered, server } from '../api/client.ts';
import { useRackList } from '../api/queries.ts';
import { useSeenChange } from '../changes/useSeenChange.ts';
import { AskDay, AskSeveral, AskWords, Form, useDraft } from '../fields/index.ts';
import { Panel, Quiet, Refused, Row } from '../parts/index.ts';
import { usePerform } from '../shared/usePerform.ts';
import { knownChange } from '../changes/known-change.ts';
import { asClock, dayOfWork, overtimeKey, whoWorks } from './weeks.ts';
import { dayWords, isoDate } from '../shared/time.ts';

interface StationName {
  code: string;
  name: string;
}

/** One day: closed or worked, what is worked beside the shifts, and by whom. */
export function DayPanel({
  day,
  calendar,
  stations,
}: {
  day: string;
  calendar: FactoryCalendar;
  stations: readonly StationName[];
}) {
  const { perform, busy, refused } = usePerform();
  const { lastChange, lookAgain } = useSeenChange();
  const { isClosed, hours, extras } = dayOfWork(calendar, day);
  const nameOf = (code: string): string => stations.find((one) => one.code === code)?.name ?? code;
  const turn = async (closed: boolean, toDay: string): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.PUT('/api/setup/calendar/closed', {
            body: { by, key, fromDay: day, toDay, closed, ...knownChange(lastChange()) },
          }),
        ),
      () =>
        `${dayWords(day)}${toDay === day ? '' : ` to ${dayWords(toDay)}`}: ${closed ? 'closed' : 'worked again'}. Every day that was told is told anew.`,
    );
    await lookAgain();
    return done !== null;
  };
  const work = async (extra: Overtime, worked: boolean): Promise<boolean> => {
    const done = await perform(
      (by, key) =>
        answered(
          server.PUT('/api/setup/calendar/overtime', {
            body: { by, key, ...extra, worked, ...knownChange(lastChange()) },
          }),
        ),
      () =>
        `${dayWords(day)}, ${extra.start} to ${extra.end}: ${whoWorks(extra, nameOf)} ${worked ? 'works' : 'does not work'}.`,
    );
    await lookAgain();
    return done !== null;
  };
  return (
    <Panel label={dayWords(day)} stack>
      <Typography variant="h2">{dayWords(day)}</Typography>
      <Typography>
        {isClosed ? 'Closed' : hours > 0 ? `Worked for ${hours.toFixed(1)} h` : 'No shift starts on it'}
        {isClosed && hours > 0 && `, but for ${hours.toFixed(1)} h of overtime`}.
      </Typography>
      {extras.map((extra) => (
        <Row key={overtimeKey(extra)} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <Typography>
            {extra.start} to {extra.end} <Quiet>{whoWorks(extra, nameOf)}</Quiet>
          </Typography>
          <Button
            size="small"
            disabled={busy}
            aria-label={`Not worked after all: ${extra.start} to ${extra.end}, ${whoWorks(extra, nameOf)}`}
            onClick={() => void work(extra, false)}
          >
            Not worked
          </Button>
        </Row>
      ))}
      <Refused words={refused} />
      <DueOn day={day} zone={calendar.zone} isWorked={hours > 0} />
      <TurnForm
        key={String(isClosed)}
        {...{ day, isClosed, busy }}
        zone={calendar.zone}
        onTurn={(toDay) => turn(!isClosed, toDay)}
      />
      <OvertimeForm day={day} stations={stations} busy={busy} onWork={(extra) => work(extra, true)} />
    </Panel>
  );
}

/** What is due on a day: on a closed one nothing leaves. */
function DueOn({ day, zone, isWorked }: { day: string; zone: string; isWorked: boolean }) {
  const { data: racks = [] } = useRackList();
  const due = racks.filter(({ dueMs }) => isoDate(dueMs, zone) === day);
  if (due.length === 0) return null;
  return (
    <Typography>
      Due on it:{' '}
      {due.map(({ batch, pieces }, i) => (
        <Fragment key={batch}>
          {i > 0 && ', '}
          <Link to={`/batch/${batch}`}>{batch}</Link> ({pieces})
        </Fragment>
      ))}
      {!isWorked && '. Nobody is here to let them go: they must leave before it, or are late'}.
    </Typography>
  );
}

/** Closes a day or works on it, up to another if one is given. */
function TurnForm(props: {
  day: string;
  zone: string;
  isClosed: boolean;
  busy: boolean;
  onTurn: (toDay: string) => Promise<boolean>;
}) {
  const { day, zone, isClosed, busy, onTurn } = props;
  const draft = useDraft(`${isClosed ? 'open' : 'close'} ${day}`, { toDay: '' });
  return (
    <Form
      draft={draft}
      label={`${isClosed ? 'Work on' : 'Close'} ${dayWords(day)}`}
      lay="row"
      onFile={({ toDay }) => onTurn(toDay === '' ? day : toDay)}
    >
      <AskDay
        name="toDay"
        label={`${isClosed ? 'Worked' : 'Closed'} to (the last day)`}
        zone={zone}
        width={220}
        wrong={(to) => (to < day ? `not before ${dayWords(day)}` : undefined)}
      />
      <Button type="submit" variant="outlined" disabled={busy}>
        {isClosed ? 'Work on it' : 'Close it'}
      </Button>
    </Form>
  );
}

const BEGIN_OVERTIME = { start: '', end: '', stations: [] as string[] };
const clockFault = (text: string): string | undefined =>
  asClock(text) === null ? 'a time of day, such as 15:00' : undefined;

function OvertimeForm(props: {
  day: string;
  stations: readonly StationName[];
  busy: boolean;
  onWork: (extra: Overtime) => Promise<boolean>;
}) {
  const { day, stations, busy, onWork } = props;
  const draft = useDraft(`overtime ${day}`, BEGIN_OVERTIME);
  const file = ({ start, end, stations: chosen }: typeof BEGIN_OVERTIME): Promise<boolean> =>
    onWork({
      ...{ date: day, start: asClock(start) ?? start, end: asClock(end) ?? end },
      ...(chosen.length > 0 ? { stations: chosen } : {}),
    });
  return (
    <Form draft={draft} label={`Overtime on ${dayWords(day)}`} lay="stack" onFile={file}>
      <Row>
        <AskWords name="start" label="Overtime from" needed="from when" wrong={clockFault} width={130} />
        <AskWords name="end" label="to" needed="until when" wrong={clockFault} width={130} />
      </Row>
      <AskSeveral
        name="stations"
        label="Only at (none ticked: the whole house)"
        options={stations.map(({ code, name }) => ({ value: code, words: name }))}
      />
      <Button type="submit" variant="outlined" disabled={busy}>
        Work overtime
      </Button>
    </Form>
  );
}
