import type { FactoryCalendar } from '@ample-crane/core';
import { screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import { CALENDAR, floorOf, rackLineOf, SETUP } from '../testing/tarrow.ts';
import HoursPage from './HoursPage.tsx';
import { asClock, dayOfWork, mondayOf, readBreaks, weekdayWords, weeksOfWork } from './weeks.ts';
import { hoursSentence } from './words.ts';

const calendar: FactoryCalendar = {
  ...CALENDAR,
  zone: 'UTC',
  shifts: [
    {
      ...{ name: 'A', start: '06:00', end: '15:30', weekdays: [1, 2, 3, 4, 5] },
      breaks: [{ start: '11:00', end: '11:30' }],
    },
  ],
  closedDays: ['2026-11-26'],
  overtime: [
    { date: '2026-11-28', start: '06:00', end: '10:00' },
    { date: '2026-11-25', start: '16:00', end: '19:00', stations: ['body-mill'] },
  ],
};

afterEach(() => jest.restoreAllMocks());

describe('the weeks', () => {
  it('have the hours of the house: four days of nine and four on Saturday, none of a single station', () => {
    const [week, next] = weeksOfWork(calendar, mondayOf('2026-11-24'), 2);
    expect(week).toMatchObject({ monday: '2026-11-23', number: 48, hours: 40 });
    expect(next).toMatchObject({ monday: '2026-11-30', hours: 45 });
    expect(hoursSentence(weeksOfWork(calendar, '2026-11-23', 2))).toEqual({
      tone: 'wait',
      sentence:
        'The house works 40.0 h this week and 45.0 h next: more on Wed 25 Nov, closed Thu 26 Nov, more on Sat 28 Nov.',
    });
  });

  it('draw a day from midnight to midnight: a shift with its break, and the evening of a station beside it', () => {
    const hours = (day: string) =>
      dayOfWork(calendar, day).tape.map(({ from, to, kind }) => [from * 24, to * 24, kind]);
    expect(hours('2026-11-25')).toEqual([
      [16, 19, 'stations'],
      [6, 11, 'shift'],
      [11.5, 15.5, 'shift'],
    ]);
    expect(hours('2026-11-26')).toEqual([]);
    expect(hours('2026-11-28')).toEqual([[6, 10, 'house']]);
  });

  it('read what is typed: a time of day, breaks, days of the week', () => {
    expect(['6', '0600', '6:05', '24:00', 'six', ''].map(asClock)).toEqual([
      ...['06:00', '06:00', '06:05', null, null, null],
    ]);
    expect(readBreaks('9:30-9:45, 12:00–12:30')).toEqual([
      { start: '09:30', end: '09:45' },
      { start: '12:00', end: '12:30' },
    ]);
    expect([readBreaks(''), readBreaks('lunch'), readBreaks('9:30')]).toEqual([[], null, null]);
    expect([weekdayWords([5, 1, 2, 3, 4]), weekdayWords([6, 7])]).toEqual(['Mon to Fri', 'Sat, Sun']);
  });
});

describe('when we work', () => {
  const open = (answers: Record<string, object> = {}) =>
    openPage(<HoursPage />, {
      'GET /api/setup': { ...SETUP, calendar },
      'GET /api/floor': { ...floorOf([]), zone: 'UTC' },
      'GET /api/setup/changes': [],
      'GET /api/racks': [
        rackLineOf('B-7', { dueMs: Date.UTC(2026, 10, 26, 15), pieces: 12 }),
        rackLineOf('N-7', { dueMs: Date.UTC(2026, 10, 27, 15), pieces: 3 }),
      ],
      'PUT /api/setup/calendar/closed': { calendar },
      'PUT /api/setup/calendar/overtime': { calendar },
      'PUT /api/setup/calendar/shifts': { calendar },
      ...answers,
    });

  it('closes a day, works on one that was closed, and takes an evening back', async () => {
    const { sent } = open();
    await userEvent.click(await screen.findByRole('button', { name: /^Fri 27 Nov: 9\.0 h/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Close it' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      fromDay: '2026-11-27',
      toDay: '2026-11-27',
      closed: true,
      lastChange: 0,
    });
    await userEvent.click(screen.getByRole('button', { name: /^Thu 26 Nov: closed/ }));
    await userEvent.click(screen.getByRole('button', { name: 'Work on it' }));
    await waitFor(() => expect(sent).toHaveLength(2));
    expect(sent[1]?.body).toMatchObject({ fromDay: '2026-11-26', closed: false });
    await userEvent.click(
      screen.getByRole('button', { name: /^Wed 25 Nov: .*overtime 16:00 to 19:00 for Body mill/ }),
    );
    await userEvent.click(screen.getByRole('button', { name: /^Not worked after all: 16:00 to 19:00/ }));
    await waitFor(() => expect(sent).toHaveLength(3));
    expect(sent[2]?.body).toMatchObject({ date: '2026-11-25', stations: ['body-mill'], worked: false });
  });

  it('says what is due on a day, and that nothing leaves while it is closed; days in a row are worked again together', async () => {
    const { sent } = open();
    await userEvent.click(await screen.findByRole('button', { name: /^Fri 27 Nov: 9\.0 h/ }));
    expect(await screen.findByText(/^Due on it:/)).toHaveTextContent('Due on it: N-7 (3).');
    await userEvent.click(screen.getByRole('button', { name: /^Thu 26 Nov: closed/ }));
    expect(screen.getByText(/^Due on it:/)).toHaveTextContent(
      'Due on it: B-7 (12). Nobody is here to let them go: they must leave before it, or are late.',
    );
    expect(screen.getByRole('link', { name: 'B-7' })).toHaveAttribute('href', '/batch/B-7');
    const form = within(screen.getByRole('form', { name: 'Work on Thu 26 Nov' }));
    await userEvent.click(form.getByRole('spinbutton', { name: 'Day' }));
    await userEvent.keyboard('27112026');
    await userEvent.click(form.getByRole('button', { name: 'Work on it' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({ fromDay: '2026-11-26', toDay: '2026-11-27', closed: false });
  });

  it('works an evening at one station; what is no time of day is said, and nothing is filed', async () => {
    const { sent } = open();
    const form = within(await screen.findByRole('form', { name: 'Overtime on Tue 24 Nov' }));
    await userEvent.type(form.getByRole('textbox', { name: 'Overtime from' }), 'late');
    await userEvent.type(form.getByRole('textbox', { name: 'to' }), '18:30');
    await userEvent.click(form.getByRole('button', { name: 'Work overtime' }));
    expect(await form.findByText('a time of day, such as 15:00')).toBeInTheDocument();
    expect(sent).toHaveLength(0);
    await userEvent.clear(form.getByRole('textbox', { name: 'Overtime from' }));
    await userEvent.type(form.getByRole('textbox', { name: 'Overtime from' }), '1530');
    await userEvent.click(form.getByRole('checkbox', { name: 'Body mill' }));
    await userEvent.click(form.getByRole('button', { name: 'Work overtime' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      ...{ date: '2026-11-24', start: '15:30', end: '18:30', stations: ['body-mill'], worked: true },
    });
  });

  it('adds a shift from a day on, beside those there are; what the server refuses is said where it was typed', async () => {
    const { sent } = open({
      'PUT /api/setup/calendar/shifts': { refused: 'two shifts are called A', code: 'bad-value' },
    });
    await userEvent.click(await screen.findByRole('button', { name: 'Another shift' }));
    const form = within(screen.getByRole('form', { name: 'Another shift' }));
    await userEvent.type(form.getByRole('textbox', { name: 'Name of the shift' }), 'A');
    await userEvent.type(form.getByRole('textbox', { name: 'Begins at' }), '15:30');
    await userEvent.type(form.getByRole('textbox', { name: 'Ends at' }), '23:30');
    await userEvent.type(form.getByRole('textbox', { name: 'Breaks' }), '19:00-19:30');
    await userEvent.click(form.getByRole('button', { name: 'Add' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]?.body).toMatchObject({
      fromDay: '2026-11-24',
      shifts: [
        { name: 'A', start: '06:00' },
        { name: 'A', start: '15:30', end: '23:30', breaks: [{ start: '19:00', end: '19:30' }] },
      ],
    });
    expect(await form.findByText('two shifts are called A')).toBeInTheDocument();
    expect(form.getByRole('textbox', { name: 'Begins at' })).toHaveValue('15:30');
  });
});
