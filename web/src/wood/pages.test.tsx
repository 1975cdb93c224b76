import type { LotState } from '@ample-crane/core';
import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { openPage } from '../testing/open-page.tsx';
import { batch, floorOf, HOUR, NOW, piece, rowsOf, SETUP } from '../testing/tarrow.ts';
import { CutForm } from './CutForm.tsx';
import { GateForm } from './GateForm.tsx';
import MetersPage from './MetersPage.tsx';
import type { Meter, Room, StockBlankView } from './queries.ts';
import ReceivePage from './ReceivePage.tsx';
import RoomsPage from './RoomsPage.tsx';
import StockPage from './StockPage.tsx';

afterEach(() => jest.restoreAllMocks());

const room = (extra: Partial<Room> = {}): Room => ({
  ...{ room: 'Wood room', holdsWood: true, band: { lowPct: 6.5, highPct: 7.5 }, emcPct: 7.1, drift: null },
  air: { atMs: NOW, temperatureC: 21, relativeHumidityPct: 37 },
  ...{ wantedRhPct: 36, lastMs: NOW - HOUR, health: { state: 'well', words: '' }, trouble: null },
  ...extra,
});
const boothRoom = room({ room: 'Booth 3', holdsWood: false });
const around = {
  'GET /api/setup': SETUP,
  'GET /api/floor': floorOf([]),
  'GET /api/climate/rooms': [room(), boothRoom],
  'GET /api/changes': [],
};
const filed = {
  sentence: 'W-80: 10 boards received.',
  entries: [{ batch: 'W-80', seq: 1 }],
  repeated: false,
};
const type = (label: string, value: string): void => {
  fireEvent.change(screen.getByLabelText(label), { target: { value } });
};
const press = (name: string | RegExp): void => {
  fireEvent.click(screen.getByRole('button', { name }));
};

describe('lumber that is received', () => {
  const open = async (answers: Record<string, object> = {}) => {
    const opened = openPage(<ReceivePage />, { ...around, 'POST /api/lots': filed, ...answers });
    await screen.findByLabelText('Boards alike');
    return opened;
  };

  it('is so many boards alike: their feet are reckoned while it is typed, their tags are told', async () => {
    const { sent } = await open();
    press('Receive');
    expect(await screen.findByText('a number')).toBeInTheDocument();
    expect(screen.getByLabelText('Boards alike')).toHaveFocus();
    type('Boards alike', '10');
    type('Supplier’s reference', 'Sack 12');
    // 1.063 in × 7.087 in × 7.874 ft / 12 are 4.943 board feet.
    expect(screen.getByRole('status')).toHaveTextContent('10 boards, 49.4 board feet');
    press('Receive');
    expect(
      await screen.findByText(/W-80 is received\. Tag its boards W-80\/1 to W-80\/10\./),
    ).toBeInTheDocument();
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        ...{ by: 'ostrander', species: 'white ash', thicknessMm: 27, room: 'Wood room', supplier: 'Sack 12' },
        ...{ dryness: 'kiln-dried', endsSealed: true, boardFeet: 49.4 },
      }),
    );
    expect(sent[0]?.body.boards).toHaveLength(10);
    expect(sent[0]?.body).not.toHaveProperty('papers');
    // The next lot begins with an empty form.
    expect(screen.getByLabelText('Boards alike')).toHaveValue('');
  });

  it('is a line for each board, with weight, figure and colour; a bad line is named', async () => {
    const { sent } = await open();
    const lines = 'Or one line for each board: length width (mm), weight (kg), figure, colour';
    type(lines, '2400 180 9,6\n2350 wide');
    press('Receive');
    expect(await screen.findByText("line 2: '2350 wide' is no length and width, in mm")).toBeInTheDocument();
    expect(sent).toEqual([]);
    type(lines, '2400 180 9,6\n2350 195');
    press('Receive');
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]?.body.boards).toEqual([
        { lengthMm: 2400, widthMm: 180, weightKg: 9.6 },
        { lengthMm: 2350, widthMm: 195 },
      ]),
    );
  });

  it('is told as it is typed: how much it is, what it weighs, and whether its room dries it far enough', async () => {
    const gate = { gate: { school: 'fixed', lowPct: 6, highPct: 7 }, window: { lowPct: 6, highPct: 7 } };
    await open({ 'GET /api/wood/gate': gate });
    const coming = within(screen.getByRole('region', { name: 'What comes in' }));
    expect(
      await coming.findByText(
        'The air of Wood room takes wood to 7.1 %, wetter than the gate of 6.0–7.0 %: before it is cut it must go to a drier room.',
      ),
    ).toBeInTheDocument();
    // 2 × 2400 × 200 × 27 mm are 0.02592 m³; 17.1 kg in it are 660 kg a cubic metre.
    type(
      'Or one line for each board: length width (mm), weight (kg), figure, colour',
      '2400 200 8,5\n2400 200 8,6',
    );
    expect(coming.getByText('0.03 m³, 17 kg: 660 kg a cubic metre.')).toBeInTheDocument();
  });

  it('is stacked in rooms that hold wood only, and asks for papers where a species needs them', async () => {
    await open();
    fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Stacked in' }));
    const rooms = within(await screen.findByRole('listbox')).getAllByRole('option');
    expect(rooms.map((option) => option.textContent)).toEqual(['Wood room']);
    fireEvent.click(rooms[0] as HTMLElement);
    fireEvent.mouseDown(screen.getByRole('combobox', { name: 'Species' }));
    fireEvent.click(await screen.findByRole('option', { name: 'red cedrela' }));
    expect(await screen.findByLabelText('Papers (this species needs them)')).toBeInTheDocument();
  });

  it('stays typed when it is refused', async () => {
    await open({ 'POST /api/lots': { code: 'bad-value', refused: 'red cedrela needs papers' } });
    type('Boards alike', '4');
    press('Receive');
    expect(await screen.findByText('red cedrela needs papers')).toBeInTheDocument();
    expect(screen.getByLabelText('Boards alike')).toHaveValue('4');
  });
});

describe('the gate', () => {
  const fixed = { gate: { school: 'fixed', lowPct: 6, highPct: 8.5 }, window: { lowPct: 6, highPct: 8.5 } };

  it('says how dry is dry enough, and takes the other school with its air', async () => {
    const { sent } = openPage(<GateForm />, {
      ...around,
      'GET /api/wood/gate': fixed,
      'PUT /api/wood/gate': fixed,
    });
    expect(
      await screen.findByText(/Lumber passes at 6\.0–8\.5 %: a window this factory trusts\./),
    ).toBeInTheDocument();
    press('Change');
    fireEvent.mouseDown(screen.getByRole('combobox', { name: 'School' }));
    fireEvent.click(await screen.findByRole('option', { name: 'The air it is going to, ± a tolerance' }));
    type('Humidity, %', '44,5');
    press('Use this gate');
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]?.body.gate).toEqual({
        school: 'destination',
        air: { temperatureC: 21, relativeHumidityPct: 44.5 },
        tolerancePct: 1,
      }),
    );
    expect(await screen.findByRole('button', { name: 'Change' })).toBeInTheDocument();
  });

  it('stays open with what was typed when it is refused', async () => {
    const answers = { 'PUT /api/wood/gate': { code: 'bad-value', refused: 'the window must rise' } };
    openPage(<GateForm />, { ...around, 'GET /api/wood/gate': fixed, ...answers });
    fireEvent.click(await screen.findByRole('button', { name: 'Change' }));
    type('From, %', '9');
    press('Use this gate');
    expect(await screen.findByText('the window must rise')).toBeInTheDocument();
    expect(screen.getByLabelText('From, %')).toHaveValue('9');
  });
});

describe('a gate that two people fill in', () => {
  const gate = { gate: { school: 'fixed', lowPct: 6, highPct: 8.5 }, window: { lowPct: 6, highPct: 8.5 } };
  const change = (id: string) => ({
    ...{ id, atMs: 0, by: 'venn', setting: 'wood gate', name: '' },
    ...{ before: null, after: gate.gate },
  });

  it('tells the second what the first did, keeps what is typed, and is filed when they press again', async () => {
    const changes = [change('4')];
    const { sent } = openPage(<GateForm />, {
      ...around,
      'GET /api/wood/gate': gate,
      'GET /api/setup/changes': () => changes,
      'PUT /api/wood/gate': ({ lastChange }) =>
        lastChange === 5 ? gate : { code: 'taken', refused: 'T. Venn changed it meanwhile' },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Change' }));
    type('From, %', '6.5');
    changes.unshift(change('5'));
    press('Use this gate');
    expect(await screen.findByText('T. Venn changed it meanwhile')).toBeInTheDocument();
    expect(screen.getByLabelText('From, %')).toHaveValue('6.5');
    press('Use this gate');
    expect(await screen.findByRole('button', { name: 'Change' })).toBeInTheDocument();
    expect(sent.map(({ body }) => body.lastChange)).toEqual([4, 5]);
  });
});

describe('rooms', () => {
  const course = { hoursASpan: 1, spans: [] };
  const open = (rooms: Room[], answers: Record<string, object> = {}) =>
    openPage(
      <RoomsPage />,
      { ...around, 'GET /api/climate/rooms': rooms, 'GET /api/climate/rooms/Wood room': course, ...answers },
      { at: '/wood/rooms', path: '/wood/rooms/:room?' },
    );

  it('stand against the EMC they should hold; the wood room first, a drift in one sentence', async () => {
    open([boothRoom, room({ emcPct: 8.4, drift: { damp: true, emcPct: 8.4, hours: 6 } as Room['drift'] })]);
    expect(
      await screen.findByText('Wood room is too damp: EMC 8.4 % for 6 h, should be 6.5–7.5 %.'),
    ).toBeInTheDocument();
    const all = within(screen.getByRole('region', { name: 'All rooms' }));
    expect(all.getByRole('link', { name: /Wood room/ })).toHaveAttribute('aria-current', 'page');
    expect(all.getByRole('link', { name: /Booth 3/ })).toHaveAttribute('href', '/wood/rooms/Booth%203');
  });

  it('tell what a sensor sent that cannot be kept, and what had to be dropped', async () => {
    const trouble = {
      nonsense: 3,
      nonsenseSaid: 'no number',
      nonsenseMs: NOW,
      dropped: 40,
      clockOffMs: null,
      clockMs: null,
    };
    open([room({ trouble })]);
    expect(
      await screen.findByText(/It sent 3 messages that cannot be kept, the last: no number\./),
    ).toHaveTextContent('40 readings had to be dropped');
  });

  it('take air typed from a wall gauge, with either decimal sign, as of now', async () => {
    const { sent } = open([room()], { 'POST /api/climate': { kept: 1 } });
    await screen.findByLabelText('Air, °C');
    type('Air, °C', '20,5');
    type('Humidity, % RH', '141');
    press('Note it as now');
    expect(await screen.findByText('0 to 100 % RH')).toBeInTheDocument();
    expect(sent).toEqual([]);
    type('Humidity, % RH', '41');
    press('Note it as now');
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]?.body.readings).toEqual([
        { room: 'Wood room', at: new Date(NOW).toISOString(), temperatureC: 20.5, relativeHumidityPct: 41 },
      ]),
    );
    await waitFor(() => expect(screen.getByLabelText('Air, °C')).toHaveValue(''));
  });
});

describe('meters', () => {
  const samples = [8, 9, 10, 11].map((readingPct) => ({
    ...{
      readingPct,
      woodTemperatureC: 21,
      wetG: 108,
      dryG: 100,
      ovenDryPct: readingPct + 0.5,
      atMs: NOW,
      by: 'venn',
    },
  }));
  const fit = {
    a: 0.5,
    b: 1,
    count: 4,
    residualSdPct: 0.1,
    fromPct: 8,
    toPct: 11,
    residualsPct: [0, 0, 0, 0],
  };
  const meter = (line: object | null, extra: object = {}): Meter =>
    ({
      ...{ code: 'pin-1', name: 'pins', kind: 'pin', note: '' },
      calibrations: [{ species: 'white ash', samples, fit, line, stale: false, ...extra }],
    }) as unknown as Meter;
  const line = { a: 0.5, b: 1, samples: 4, residualSdPct: 0.1, atMs: NOW, by: 'venn' };
  const open = (meters: Meter[], answers: Record<string, object> = {}) =>
    openPage(<MetersPage />, { ...around, 'GET /api/meters': meters, ...answers });

  it('correct what they show by a line; a new fit is offered only where it differs', async () => {
    open([meter(line)]);
    expect(
      await screen.findByText(/white ash on pin-1: moisture = 1\.00 × reading \+ 0\.50, from 4 samples of/),
    ).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: 'Use it' })).not.toBeInTheDocument();
  });

  it('put a fitted line into use in one touch, and say that old readings follow', async () => {
    const { sent } = open([meter({ ...line, a: 0.2 })], { 'POST /api/meters/pin-1/line': { code: 'pin-1' } });
    expect(await screen.findByText(/corrected anew, old ones too/)).toBeInTheDocument();
    press('Use it');
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        path: '/api/meters/pin-1/line',
        body: { by: 'ostrander', species: 'white ash' },
      }),
    );
  });

  it('take an oven-dry sample: the moisture is reckoned while it is typed', async () => {
    const { sent } = open([meter(null)], { 'POST /api/meters/pin-1/samples': { code: 'pin-1' } });
    expect(
      await screen.findByText(/has no line for white ash.*Put the fitted line into use\./),
    ).toBeInTheDocument();
    type('Reading, %', '9.4');
    type('Wet, g', '54,9');
    type('Dry, g', '50');
    const form = within(screen.getByRole('form', { name: 'Oven-dry sample' }));
    // 4.9 g of water in 50 g of wood.
    expect(form.getByRole('status')).toHaveTextContent('Oven-dry moisture 9.80 %');
    press('Note the sample');
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({ species: 'white ash', readingPct: 9.4, wetG: 54.9, dryG: 50 }),
    );
    await waitFor(() => expect(screen.getByLabelText('Reading, %')).toHaveValue(''));
    expect(screen.getByLabelText('Wood, °C')).toHaveValue('21');
  });
});

describe('stock', () => {
  const blank = (id: string, extra: Partial<StockBlankView> = {}): StockBlankView => ({
    ...{
      id,
      lot: 'W-74',
      board: 1,
      kind: 'B',
      species: 'white ash',
      lengthMm: 520,
      widthMm: 180,
      thicknessMm: 45,
    },
    ...{ weightKg: 2.1, grade: 'plain', matchedWith: null, moisturePct: 7.1 },
    ...extra,
  });
  const blanks = [
    blank('W-74/1a', { matchedWith: 'W-74/1b' }),
    blank('W-74/1b', { matchedWith: 'W-74/1a', weightKg: 2.35 }),
    blank('W-74/2a', { kind: 'N', moisturePct: null, weightKg: 0.9 }),
  ];
  const resting = batch('B-230', [piece(1, { operation: 'rest', standing: 'onHold' })], {
    holds: [
      {
        ...{
          operation: 'rest',
          operationName: 'Body rest',
          rule: 'moisture',
          word: 'dry',
          rejected: false,
          sinceMs: NOW,
          positions: [1],
        },
        ...{ over: false, sentence: '', progress: 0, endMs: null, lowMs: null, highMs: null },
        ...{ curedHours: null, neededHours: null },
      },
    ],
  });

  it('is summed up, and names the racks that want some', async () => {
    openPage(<StockPage />, {
      ...around,
      'GET /api/stock/blanks': blanks,
      'GET /api/lots': [],
      'GET /api/stages/wood': rowsOf([resting]),
    });
    expect(
      await screen.findByText('3 blanks, 0.90 to 2.35 kg, 1 matched pair among them.'),
    ).toBeInTheDocument();
    expect(screen.getByRole('row', { name: /W-74\/2a.*never read/ })).toBeInTheDocument();
    expect(screen.getByRole('link', { name: 'B-230, Bowline, 1 piece' })).toHaveAttribute(
      'href',
      '/wood/choose/B-230',
    );
    const row = (name: RegExp): HTMLElement | null => screen.queryByRole('row', { name });
    expect(row(/W-74\/2a/)).toBeInTheDocument();
    expect(screen.queryByLabelText(/Look for/)).not.toBeInTheDocument();
  });
});

describe('a board that is cut', () => {
  const lot = {
    ...{ code: 'W-74', species: 'white ash', thicknessMm: 45, blanks: [] },
    boards: [
      { number: 1, status: 'stacked', lengthMm: 2400, widthMm: 180 },
      { number: 2, status: 'to-cut', lengthMm: 2400, widthMm: 180 },
    ],
  } as unknown as LotState;

  it('gives one blank for each weight; matched halves are two', async () => {
    const { sent } = openPage(<CutForm lot={lot} />, { ...around, 'POST /api/lots/W-74/entries': filed });
    await screen.findByRole('form', { name: 'Cut a board' });
    type('Weight of each blank, kg', '2,1');
    // A pair of one is none.
    press(/Cut board 2/);
    expect(await screen.findByText('1 of the 2 values that are wanted')).toBeInTheDocument();
    expect(sent).toEqual([]);
    type('Weight of each blank, kg', '2,1 2.05');
    press('Cut board 2 into 2');
    await waitFor(() => expect(sent).toHaveLength(1));
    const size = { kind: 'B', lengthMm: 520, widthMm: 180, thicknessMm: 45 };
    await waitFor(() =>
      expect(sent[0]?.body).toMatchObject({
        entry: {
          ...{ type: 'cut', board: 2, matched: true },
          pieces: [
            { ...size, weightKg: 2.1 },
            { ...size, weightKg: 2.05 },
          ],
        },
      }),
    );
    await waitFor(() => expect(screen.getByLabelText('Weight of each blank, kg')).toHaveValue(''));
  });

  it('is none where no board may be cut yet', async () => {
    const dry = { ...lot, boards: lot.boards.filter(({ status }) => status === 'stacked') };
    openPage(<CutForm lot={dry} />, around);
    await waitFor(() => expect(globalThis.fetch).toHaveBeenCalled());
    expect(screen.queryByRole('form')).not.toBeInTheDocument();
  });
});
