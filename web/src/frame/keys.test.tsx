import { fireEvent, screen } from '@testing-library/react';
import { useLocation } from 'react-router';
import { openPage } from '../testing/open-page.tsx';
import { KEYS, useHouseKeys } from './keys.ts';

const actions = { help: jest.fn(), theme: jest.fn(), find: jest.fn() };
function Anywhere() {
  useHouseKeys(actions);
  return (
    <>
      <output>{useLocation().pathname}</output>
      <input aria-label="a field" />
    </>
  );
}
/** Whether the house took the key. */
const taken = (key: string, target: Element | Window = window): boolean =>
  !fireEvent.keyDown(target, { key });

describe('the keys of the house', () => {
  it('are told as they are: each does something', () => {
    openPage(<Anywhere />);
    const single = KEYS.map(({ keys }) => keys).filter((keys) => keys.length === 1);
    expect(single.length).toBeGreaterThan(6);
    for (const key of single) expect([key, taken(key.toLowerCase())]).toEqual([key, true]);
    expect(taken('r')).toBe(false);
    expect([actions.help, actions.theme, actions.find].map(({ mock }) => mock.calls.length)).toEqual([
      1, 1, 1,
    ]);
  });

  it('lead to their pages, but not while somebody types', () => {
    openPage(<Anywhere />, {}, { at: '/here', path: '*' });
    taken('o', screen.getByLabelText('a field'));
    expect(screen.getByRole('status')).toHaveTextContent('/here');
    taken('4');
    expect(screen.getByRole('status')).toHaveTextContent('/stage/finishing');
    taken('o');
    expect(screen.getByRole('status')).toHaveTextContent('/open');
  });
});
