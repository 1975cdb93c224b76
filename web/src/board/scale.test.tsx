import { dayStarts, FREE_DAYS, rowToScale } from '@ample-crane/core';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import type { Board, Floor, Rack } from '../api/queries.ts';
import { openPage } from '../testing/open-page.tsx';
import { batch, floorOf, HOUR, NOW, piece, rowsOf } from '../testing/tarrow.ts';
import { BoardPage } from './BoardPage.tsx';

afterEach(() => jest.restoreAllMocks());

const DAYS = dayStarts(NOW, 'UTC', FREE_DAYS);
/** A rack that rests until so many hours from now; over where that is past. */
function resting(code: string, hours: number | null): Rack {
  const endMs = hours === null ? null : NOW + hours * HOUR;
  const hold: Rack['holds'][number] = {
    ...{ operation: 'rest', operationName: 'Body rest', rule: 'elapsed', word: 'rest', sinceMs: NOW - HOUR },
    ...{
      positions: [1],
      over: hours !== null && hours < 0,
      sentence: 'it rests',
      rejected: false,
      progress: 0.5,
    },
    ...{ endMs, lowMs: null, highMs: null, curedHours: null, neededHours: null },
  };
  return batch(code, [piece(1, { operation: 'rest', standing: 'onHold' })], { holds: [hold] });
}
const inHand = (code: string, dueMs: number): Rack => {
  const rack = batch(code, [piece(1, { standing: 'inHand', station: 'body-mill' })]);
  return { ...rack, state: { ...rack.state, dueMs } };
};

/** As the server tells it: the first three of each row, and the whole row counted. */
function boardOf(racks: readonly Rack[]): Board {
  const rows = rowsOf(racks).map((row) => ({
    ...row,
    waiting: row.waiting.slice(0, 3),
    moreWaiting: Math.max(0, row.waiting.length - 3),
    ...{ moreInHand: 0, moreHolds: 0, used: true },
    scale: rowToScale(row, DAYS),
  }));
  return { racks: racks.length, drawn: racks.length, days: DAYS, rows, calls: [], putOff: [] };
}
const many = (n: number, make: (i: number) => Rack): Rack[] => Array.from({ length: n }, (_, i) => make(i));

const FILED = { sentence: 'hold ended', entries: [], repeated: false, filedMs: 0 };
function open(
  racks: readonly Rack[],
  stations: Partial<Floor['stations'][number]> = {},
  line: object | Promise<object> = FILED,
) {
  const floor = floorOf(racks);
  return openPage(<BoardPage />, {
    'GET /api/board': boardOf(racks),
    'GET /api/floor': { ...floor, stations: floor.stations.map((one) => ({ ...one, ...stations })) },
    'POST /api/log/line': line,
  });
}
const station = async (name: string) => within(await screen.findByRole('group', { name }));

describe('the board of a works with more racks than can be drawn', () => {
  const waiting = many(44, (i) => batch(`B-${300 + i}`, [piece(1), piece(2)]));

  it('names the next two that wait, counts the others, and has the work as a bar that says what it stands for', async () => {
    open([...waiting, ...many(20, (i) => inHand(`B-${100 + i}`, NOW + HOUR))], {
      days: 7.5,
      hoursWaiting: 67.5,
    });
    const mill = await station('Body mill');
    expect(mill.getAllByRole('link', { name: /2 waiting at Body mill/ })).toHaveLength(2);
    expect(mill.getByRole('link', { name: '42 more waiting at Body mill' })).toHaveTextContent('+42');
    expect(mill.getByRole('img', { name: '7.5 days of work in front of Body mill' })).toBeInTheDocument();
    expect(screen.getByText('waiting; a full bar is 7.5 days of work')).toBeInTheDocument();
  });

  it('has what is in hand by place: late ones told, free ones drawn, too many to draw counted', async () => {
    const late = many(3, (i) => inHand(`B-${100 + i}`, NOW - HOUR));
    const inTime = many(29, (i) => inHand(`B-${200 + i}`, NOW + HOUR));
    open([...waiting, ...late, ...inTime], { parallel: 4 });
    const places = (await station('Body mill')).getByRole('link', {
      name: '32 in hand at Body mill, 3 late, 4 places',
    });
    expect(places.querySelectorAll('rect')).toHaveLength(27);
    expect(places.querySelectorAll('rect[fill="var(--oxblood)"]')).toHaveLength(3);
    expect(places).toHaveTextContent('+5');
    const free = (await station('Neck fit')).getByRole('link', {
      name: '0 in hand at Neck fit, 0 late, 4 places',
    });
    expect(free.querySelectorAll('rect[fill="none"]')).toHaveLength(4);
  });

  it('counts by the day what comes off hold, and ends in one touch what may leave', async () => {
    const racks = [
      ...waiting,
      ...many(10, (i) => resting(`B-${400 + i}`, 1)),
      ...many(7, (i) => resting(`B-${420 + i}`, 24)),
      ...many(2, (i) => resting(`B-${430 + i}`, 24 * 30)),
      resting('B-440', null),
      resting('B-450', -2),
      resting('B-451', -1),
    ];
    const { sent } = open(racks);
    const wood = await station('Wood room');
    expect(wood.getByRole('img', { name: 'Racks that come off hold: 10 today, 7 Wed' })).toBeInTheDocument();
    expect(
      wood.getByRole('link', { name: '2 more on hold at Wood room, ending later; of 1 nobody can say' }),
    ).toHaveTextContent('+3');
    fireEvent.click(wood.getByRole('button', { name: '2 may leave Wood room: end their holds' }));
    await waitFor(() => expect(sent.map(({ body }) => body.line)).toEqual(['B-450 end', 'B-451 end']));
  });

  it('draws sixty one by one, and sixty-one to scale', async () => {
    open(waiting.concat(many(16, (i) => inHand(`B-${100 + i}`, NOW))));
    expect(await screen.findByText('on hold until')).toBeInTheDocument();
    expect((await station('Body mill')).queryByRole('link', { name: /places$/ })).not.toBeInTheDocument();
  });

  it('says how many may have left while they leave, and stops before the next', async () => {
    let answer: (filed: object) => void = () => undefined;
    const first = new Promise<object>((resolve) => (answer = resolve));
    const { sent } = open([...waiting, ...many(20, (i) => resting(`B-${450 + i}`, -1))], {}, first);
    const wood = await station('Wood room');
    fireEvent.click(wood.getByRole('button', { name: '20 may leave Wood room: end their holds' }));
    expect(await wood.findByRole('button', { name: '0 of 20' })).toBeDisabled();
    fireEvent.click(wood.getByRole('button', { name: 'Stop: the others stay at Wood room' }));
    answer(FILED);
    expect(await wood.findByRole('button', { name: /^20 may leave/ })).toBeEnabled();
    expect(sent.map(({ body }) => body.line)).toEqual(['B-450 end']);
  });
});
