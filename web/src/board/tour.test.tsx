import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import Tour from './Tour.tsx';
import { TourOffer } from './TourOffer.tsx';

Element.prototype.scrollIntoView = () => undefined;
const around = (ended: () => void, parts = ['rope', 'calls', 'logbar']) =>
  render(
    <>
      {parts.map((part) => (
        <div key={part} className={part}>
          <form />
        </div>
      ))}
      <Tour onEnd={ended} />
    </>,
  );

describe('the walk around the board', () => {
  it('goes from part to part of those that are there, by Enter alone, and ends', async () => {
    const ended = jest.fn();
    around(ended);
    expect(screen.getByRole('dialog', { name: 'The rope' })).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Next: calls' })).toHaveFocus();
    await userEvent.keyboard('{Enter}');
    expect(screen.getByRole('dialog', { name: 'Calls' })).toBeInTheDocument();
    await userEvent.keyboard('{Enter}');
    expect(screen.getByRole('dialog', { name: 'The log' })).toBeInTheDocument();
    expect(screen.queryByRole('button', { name: 'Enough' })).not.toBeInTheDocument();
    expect(ended).not.toHaveBeenCalled();
    await userEvent.keyboard('{Enter}');
    expect(ended).toHaveBeenCalledTimes(1);
  });

  it('is left by Escape, or when it is enough', async () => {
    const ended = jest.fn();
    around(ended);
    fireEvent.keyDown(screen.getByRole('dialog'), { key: 'Escape' });
    await userEvent.click(screen.getByRole('button', { name: 'Enough' }));
    expect(ended).toHaveBeenCalledTimes(2);
  });

  it('shows nothing where nothing is there', () => {
    around(jest.fn(), []);
    expect(screen.queryByRole('dialog')).not.toBeInTheDocument();
  });
});

describe('the offer to be shown around', () => {
  const offer = () =>
    render(
      <MemoryRouter>
        <TourOffer />
      </MemoryRouter>,
    );
  it('is made once in a browser', async () => {
    localStorage.clear();
    const { unmount } = offer();
    await userEvent.click(screen.getByRole('button', { name: 'I know my way' }));
    expect(screen.queryByText(/New here/)).not.toBeInTheDocument();
    unmount();
    offer();
    expect(screen.queryByText(/New here/)).not.toBeInTheDocument();
  });
});
