import { shiftsOn, type FactoryCalendar, type Shift } from '@ample-crane/core';
import { Button, Typography } from '@mui/material';
import { useState } from 'react';
import { answered, server, type ServerProblem } from '../api/client.ts';
import { LastChange } from '../changes/LastChange.tsx';
import { useSeenChange } from '../changes/useSeenChange.ts';
import { AskDay, AskSeveral, AskWords, Form, Leave, useDraft } from '../fields/index.ts';
import { EmptyState, Panel, Quiet, Row } from '../parts/index.ts';
import { usePerform } from '../shared/usePerform.ts';
import { knownChange } from '../changes/known-change.ts';
import { asClock, readBreaks, shiftWords, weekdayWords, WEEKDAY_OPTIONS } from './weeks.ts';
import { dayWords } from '../shared/time.ts';

/** What is being changed: a shift there is, or another one. */
type Changing = Shift | 'another' | null;

/** The shifts of the house, today's and those that are planned; they are changed from a day on. */
export function ShiftsPanel({ calendar, today }: { calendar: FactoryCalendar; today: string }) {
  const { perform, busy, refusal } = usePerform();
  const { lastChange, lookAgain } = useSeenChange();
  const [changing, setChanging] = useState<Changing>(null);
  const now = shiftsOn(calendar, today);
  const later = calendar.shifts.filter(({ fromDay = '' }) => fromDay > today);
  const file = async (shifts: Shift[], fromDay: string): Promise<boolean> => {
    const body = shifts.map(({ name, start, end, weekdays, breaks }) => ({
      ...{ name, start, end, weekdays, breaks },
    }));
    const done = await perform(
      (by, key) =>
        answered(
          server.PUT('/api/setup/calendar/shifts', {
            body: { by, key, fromDay, shifts: body, ...knownChange(lastChange()) },
          }),
        ),
      () =>
        `From ${dayWords(fromDay)} on: ${shifts.map(({ name }) => `shift ${name}`).join(', ') || 'no shift'}.`,
    );
    await lookAgain();
    if (done !== null) setChanging(null);
    return done !== null;
  };
  return (
    <Panel label="Shifts" stack>
      <Typography variant="h2">Shifts</Typography>
      {now.length === 0 && <EmptyState>No shift is worked.</EmptyState>}
      {now.map((shift) => (
        <Row key={shift.name} style={{ justifyContent: 'space-between', flexWrap: 'nowrap' }}>
          <ShiftLine shift={shift} />
          <Button size="small" aria-label={`Change shift ${shift.name}`} onClick={() => setChanging(shift)}>
            Change
          </Button>
        </Row>
      ))}
      {later.map((shift) => (
        <ShiftLine key={`${shift.name} ${shift.fromDay}`} shift={shift} from={shift.fromDay} />
      ))}
      {changing === null ? (
        <Row>
          <Button size="small" variant="outlined" onClick={() => setChanging('another')}>
            Another shift
          </Button>
        </Row>
      ) : (
        <ShiftForm
          key={changing === 'another' ? '' : changing.name}
          {...{ calendar, today, changing, busy, refusal }}
          onFile={file}
          onLeave={() => setChanging(null)}
        />
      )}
      <LastChange setting="calendar" name="shifts" />
    </Panel>
  );
}

function ShiftLine({ shift, from }: { shift: Shift; from?: string | undefined }) {
  const { name, weekdays, untilDay } = shift;
  return (
    <Typography>
      <strong>{name}</strong> {weekdayWords(weekdays)}, {shiftWords(shift)}
      {from !== undefined && <Quiet> from {dayWords(from)}</Quiet>}
      {untilDay !== undefined && <Quiet> until {dayWords(untilDay)}</Quiet>}
    </Typography>
  );
}

interface ShiftDraft {
  name: string;
  start: string;
  end: string;
  weekdays: string[];
  breaks: string;
  fromDay: string;
}

const draftOf = (shift: Shift | null, today: string): ShiftDraft => ({
  ...{ name: shift?.name ?? '', start: shift?.start ?? '', end: shift?.end ?? '' },
  weekdays: (shift?.weekdays ?? [1, 2, 3, 4, 5]).map(String),
  breaks: (shift?.breaks ?? []).map(({ start, end }) => `${start}–${end}`).join(', '),
  fromDay: today,
});

const clockFault = (text: string): string | undefined =>
  asClock(text) === null ? 'a time of day, such as 06:00' : undefined;
const breaksFault = (text: string): string | undefined =>
  readBreaks(text) === null ? 'from and to, such as 10:00–10:30, 12:00–12:30' : undefined;

function ShiftForm(props: {
  calendar: FactoryCalendar;
  today: string;
  changing: Shift | 'another';
  busy: boolean;
  refusal: ServerProblem | null;
  onFile: (shifts: Shift[], fromDay: string) => Promise<boolean>;
  onLeave: () => void;
}) {
  const { calendar, today, changing, busy, refusal, onFile, onLeave } = props;
  const shift = changing === 'another' ? null : changing;
  const draft = useDraft(`shift ${shift?.name ?? ''}`, draftOf(shift, today));
  const othersOn = (fromDay: string): Shift[] =>
    shiftsOn(calendar, fromDay).filter(({ name }) => name !== shift?.name);
  const file = ({ name, start, end, weekdays, breaks, fromDay }: ShiftDraft): Promise<boolean> => {
    const changed: Shift = {
      ...{ name: name.trim(), start: asClock(start) ?? start, end: asClock(end) ?? end },
      ...{ weekdays: weekdays.map(Number), breaks: readBreaks(breaks) ?? [] },
    };
    return onFile([...othersOn(fromDay), changed], fromDay);
  };
  const end = (): void => {
    const { fromDay } = draft.form.getValues();
    void onFile(othersOn(fromDay === '' ? today : fromDay), fromDay === '' ? today : fromDay);
  };
  const what = shift ? `shift ${shift.name}` : 'another shift';
  return (
    <Form
      draft={draft}
      label={shift ? `Change ${what}` : 'Another shift'}
      lay="stack"
      refusal={refusal}
      onFile={file}
    >
      <AskWords name="name" label="Name of the shift" needed="what it is called" most={40} />
      <Row>
        <AskWords name="start" label="Begins at" needed="when it begins" wrong={clockFault} width={130} />
        <AskWords
          name="end"
          label="Ends at"
          needed="when it ends"
          wrong={clockFault}
          width={130}
          hint="earlier than it begins: on the next day"
        />
      </Row>
      <AskSeveral name="weekdays" label="Begins on" options={WEEKDAY_OPTIONS} needed="one day at least" />
      <AskWords name="breaks" label="Breaks" wrong={breaksFault} placeholder="10:00–10:30, 12:00–12:30" />
      <AskDay name="fromDay" label="From which day on" zone={calendar.zone} needed="from which day on" />
      <Quiet small>The days before stay as they were worked.</Quiet>
      <Row>
        <Button type="submit" variant="contained" disabled={busy}>
          {shift ? 'Change' : 'Add'}
        </Button>
        {shift && (
          <Button disabled={busy} onClick={end}>
            End it from then on
          </Button>
        )}
        <Leave draft={draft} onLeft={onLeave} />
      </Row>
    </Form>
  );
}
