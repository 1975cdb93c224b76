import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { openPage } from '../testing/open-page.tsx';
import KeyHelp from './KeyHelp.tsx';
import { KEYS, LINES } from './keys.ts';

describe('the help', () => {
  it('has every key and line, and leaves those in which all words are found', async () => {
    openPage(<KeyHelp onClose={() => undefined} />);
    expect(screen.getAllByRole('row')).toHaveLength(KEYS.length + LINES.length);
    const wanted = screen.getByRole('textbox');
    expect(wanted).toHaveFocus();
    await userEvent.type(wanted, 'Scrap tear');
    expect(screen.getAllByRole('row').map(({ textContent }) => textContent)).toEqual([
      'B-217 6 done 1 scrap tear-outsix went on, one is lost',
    ]);
    await userEvent.type(wanted, ' xyz');
    expect(screen.queryByRole('row')).not.toBeInTheDocument();
    expect(screen.getByRole('status')).toHaveTextContent('Nothing is called that');
  });
});
