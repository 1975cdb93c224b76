import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { Ordered, OrderedItem } from './Ordered.tsx';

function Coats({ told }: { told: (keys: string[]) => void }) {
  const [keys, setKeys] = useState(['seal', 'colour', 'clear']);
  return (
    <Ordered
      keys={keys}
      nameOf={(key) => `the ${key} coat`}
      onOrder={(next) => {
        told(next);
        setKeys(next);
      }}
    >
      <ol>
        {keys.map((key) => (
          <OrderedItem key={key} id={key}>
            {({ ref, style, controls }) => (
              <li ref={ref} style={style}>
                {key} {controls}
              </li>
            )}
          </OrderedItem>
        ))}
      </ol>
    </Ordered>
  );
}

it('is moved a step at a time, not past its ends, and keeps the hand on what is moved', async () => {
  const told = jest.fn();
  const user = userEvent.setup();
  render(<Coats told={told} />);
  expect(screen.getByRole('button', { name: 'the seal coat earlier' })).toBeDisabled();
  expect(screen.getByRole('button', { name: 'the clear coat later' })).toBeDisabled();
  await user.click(screen.getByRole('button', { name: 'the colour coat later' }));
  expect(told).toHaveBeenLastCalledWith(['seal', 'clear', 'colour']);
  await user.click(screen.getByRole('button', { name: 'the colour coat earlier' }));
  await user.keyboard('{Enter}');
  expect(told).toHaveBeenLastCalledWith(['colour', 'seal', 'clear']);
  const [first] = screen.getAllByRole('listitem');
  expect(
    within(first as HTMLElement).getByRole('button', { name: /^Carry the colour coat/ }),
  ).toHaveAttribute('aria-roledescription', 'sortable');
});

it('says to who does not see it how it is carried; Escape leaves it where it was', async () => {
  const told = jest.fn();
  const user = userEvent.setup();
  render(<Coats told={told} />);
  const handle = screen.getByRole('button', { name: 'Carry the clear coat to another place' });
  expect(handle).toHaveAccessibleDescription(/^Space takes it up; arrows up and down carry it/);
  handle.focus();
  await user.keyboard(' ');
  expect(await screen.findByText(/^the clear coat is /)).toBeInTheDocument();
  await user.keyboard('{Escape}');
  expect(await screen.findByText('the clear coat stays where it was.')).toBeInTheDocument();
  expect(told).not.toHaveBeenCalled();
});
