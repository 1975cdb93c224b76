import { screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useSetup } from '../api/queries.ts';
import { openPage } from '../testing/open-page.tsx';
import { SETUP } from '../testing/tarrow.ts';
import UnitsChoice from './UnitsChoice.tsx';

const metric = { length: 'mm' as const, temperature: 'C' as const };
const setup = {
  ...SETUP,
  people: [{ code: 'ostrander', name: 'M. Ostrander', role: 'production', skills: [], units: metric }],
};

function Choice() {
  const { data } = useSetup();
  const { length, temperature } = data?.people[0]?.units ?? metric;
  return (
    <>
      <output>{data && `${length} ${temperature}`}</output>
      <UnitsChoice anchor={document.body} onClose={() => undefined} />
    </>
  );
}
const choose = (name: string) => userEvent.click(screen.getByRole('button', { name }));

afterEach(() => jest.restoreAllMocks());

describe('the choice of units', () => {
  it('loses nothing when two are chosen faster than the server answers', async () => {
    const { sent } = openPage(<Choice />, {
      'GET /api/setup': setup,
      'PUT /api/setup/people/ostrander/units': new Promise<object>(() => undefined),
    });
    expect(await screen.findByText('mm C')).toBeInTheDocument();
    await choose('inch, mil');
    await choose('°F');
    expect(await screen.findByText('in F')).toBeInTheDocument();
    await waitFor(() =>
      expect(sent.map(({ body }) => body)).toEqual([
        { length: 'in', temperature: 'C' },
        { length: 'in', temperature: 'F' },
      ]),
    );
  });

  it('goes back to what is kept, in words, when it is refused', async () => {
    openPage(<Choice />, {
      'GET /api/setup': setup,
      'PUT /api/setup/people/ostrander/units': { refused: 'nobody here is called so' },
    });
    expect(await screen.findByText('mm C')).toBeInTheDocument();
    await choose('°F');
    expect(await screen.findByRole('alert')).toHaveTextContent('nobody here is called so');
    expect(await screen.findByText('mm C')).toBeInTheDocument();
  });
});
