import { useQuery } from '@tanstack/react-query';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { openPage } from '../testing/open-page.tsx';
import { usePerform } from './usePerform.ts';

/** A page on which something else is never answered. */
function Slow() {
  const { perform, busy } = usePerform();
  const [came, setCame] = useState('nothing yet');
  useQuery({ queryKey: ['slow'], queryFn: () => new Promise<never>(() => undefined) });
  const press = async (): Promise<void> =>
    setCame((await perform(() => Promise.resolve('W-76 is received'))) ?? 'refused');
  return (
    <button disabled={busy} onClick={() => void press()}>
      {came}
    </button>
  );
}

it('what was done is told although the rest of the page takes its time to follow', async () => {
  openPage(<Slow />);
  await userEvent.click(screen.getByRole('button', { name: 'nothing yet' }));
  expect(await screen.findByRole('button', { name: 'W-76 is received' })).toBeEnabled();
});
