import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useLocation } from 'react-router';
import { openPage } from '../testing/open-page.tsx';
import { Find } from './Find.tsx';

const floor = {
  racks: [
    ...['B-200', 'B-20', 'N-120'].map((code) => ({ code, model: 'Bowline', seq: 3, routeId: 'r' })),
    { code: 'I-7', model: 'Halyard', seq: 9, routeId: 'r' },
  ],
  lots: ['W-72'],
};
/** Answers as the server does. */
const found = (_sent: object, query: URLSearchParams) => {
  const said = (query.get('said') ?? '').toUpperCase();
  const instrument = {
    serial: 'BW2632008U',
    piece: 'I-4/08',
    batch: 'I-4',
    position: 8,
    model: 'Bowline',
    standing: 'shipped',
  };
  const shipment = { filing: 'key-of-7', atMs: 0, to: 'Lantern Street Music', order: 'P-2296', pieces: 11 };
  return {
    instruments: instrument.serial.startsWith(said) ? [instrument] : [],
    shipments: /^P-22|LANTERN/.test(said) ? [shipment] : [],
    parts: [],
    orders: /^O-26|ODILE/.test(said) ? [{ code: 'O-2641', customer: 'Odile Farrow', reference: 'H77' }] : [],
  };
};
function Here({ onClose }: { onClose: () => void }) {
  const { pathname } = useLocation();
  return (
    <>
      <output>{pathname}</output>
      <Find floor={floor} onClose={onClose} />
    </>
  );
}
function open() {
  const closed = jest.fn();
  openPage(<Here onClose={closed} />, { 'GET /api/find': found }, { at: '/flow', path: '*' });
  return { field: screen.getByRole('combobox', { name: /^Code, model, serial/ }), closed };
}
const offered = (): (string | null)[] => screen.queryAllByRole('option').map((option) => option.textContent);
const at = (): string | null => screen.getByRole('status', { hidden: true }).textContent;

describe('finding a rack from anywhere', () => {
  it('offers by a piece of the code or the model, and goes there', async () => {
    const { field, closed } = open();
    await userEvent.type(field, 'haly');
    expect(offered()).toEqual(['I-7 · Halyard']);
    await userEvent.keyboard('{Enter}');
    expect(at()).toBe('/batch/I-7');
    expect(closed).toHaveBeenCalledTimes(1);
  });

  it('takes what is called exactly so before what only begins so', async () => {
    const { field } = open();
    await userEvent.type(field, 'b-20');
    expect(offered()).toEqual(['B-20 · Bowline', 'B-200 · Bowline']);
    await userEvent.keyboard('{Enter}');
    expect(at()).toBe('/batch/B-20');
  });

  it('knows lots, and takes a scan of a rack that is not open any more to its page', async () => {
    const { field } = open();
    await userEvent.type(field, 'w-72{Enter}');
    expect(at()).toBe('/wood/lots/W-72');
    await userEvent.clear(field);
    await userEvent.type(field, ' i-003{Enter}');
    await waitFor(() => expect(at()).toBe('/batch/I-003'));
  });

  it('takes the tag of a piece to its passport, and that of a board to its lot', async () => {
    const { field } = open();
    await userEvent.type(field, 'i-007/03{Enter}');
    expect(at()).toBe('/passport/I-007/3');
    await userEvent.clear(field);
    await userEvent.type(field, 'W-72/12{Enter}');
    expect(at()).toBe('/wood/lots/W-72');
  });

  it('finds an instrument that left long ago by its serial, also when a scan ends before the server has answered', async () => {
    const { field } = open();
    await userEvent.type(field, 'bw2632008u{Enter}');
    await waitFor(() => expect(at()).toBe('/passport/I-4/8'));
  });

  it('finds what was shipped by its order, or by whom it went to', async () => {
    const { field } = open();
    await userEvent.type(field, 'lantern');
    expect(await screen.findByRole('option')).toHaveTextContent(
      'P-2296 · Lantern Street Music · 11 instruments left',
    );
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(at()).toBe('/assembly/shipping'));
  });

  it('finds an order by its code, or by whom it is for', async () => {
    const { field } = open();
    await userEvent.type(field, 'odile');
    expect(await screen.findByRole('option')).toHaveTextContent('O-2641 · Odile Farrow · H77');
    await userEvent.keyboard('{Enter}');
    await waitFor(() => expect(at()).toBe('/orders/O-2641'));
  });

  it('does nothing with nothing', async () => {
    const { field, closed } = open();
    await userEvent.type(field, '   {Enter}');
    expect([at(), closed.mock.calls]).toEqual(['/flow', []]);
  });
});
