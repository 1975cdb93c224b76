import { fireEvent, screen, waitFor, within } from '@testing-library/react';
import { openPage } from '../testing/open-page.tsx';
import { floorOf, neckRoute, route, SETUP } from '../testing/tarrow.ts';
import type { RouteSummary } from './queries.ts';
import RoutePage from './RoutePage.tsx';
import RoutesPage from './RoutesPage.tsx';

// What the drawing shows and takes is tried by itself; here it only stands in the way.
jest.mock('./RouteCanvas.tsx', () => ({
  ...jest.requireActual<object>('./RouteCanvas.tsx'),
  RouteCanvas: () => null,
}));
afterEach(() => {
  jest.restoreAllMocks();
  localStorage.clear();
});

const summary = (extra: Partial<RouteSummary>): RouteSummary => ({
  ...{
    id: 'bowline-b-2',
    model: 'Bowline',
    kind: 'B',
    revision: 2,
    note: 'rest is two days',
    person: 'venn',
  },
  ...{ madeMs: 0, operations: 3, newest: true, batches: ['B-217', 'B-218'] },
  ...extra,
});
const routes = [
  summary({}),
  summary({ id: 'bowline-b-1', revision: 1, newest: false, note: 'first', batches: ['B-190'] }),
];
const revision = (id: string, number: number, hours: number) => ({
  ...route,
  ...{ id, revision: number },
  operations: route.operations.map((one) =>
    one.key === 'rest' && one.mode === 'hold' ? { ...one, rule: { ...one.rule, hours } } : one,
  ),
});

describe('all routes', () => {
  const open = (answers: Record<string, object> = {}) =>
    openPage(<RoutesPage />, {
      'GET /api/routes': routes,
      'GET /api/setup': SETUP,
      'GET /api/floor': floorOf([]),
      ...answers,
    });

  it('stand by model, the newest revision with its racks, and who still works by an older one', async () => {
    open();
    const bowline = within(await screen.findByRole('region', { name: 'Bowline' }));
    const [line, ...more] = bowline.getAllByRole('row');
    expect(more).toEqual([]);
    expect(line).toHaveTextContent('revision 2, 3 operations');
    expect(line).toHaveTextContent('2 racks on it');
    expect(line).toHaveTextContent('revision 1: B-190');
    expect(bowline.getByRole('link', { name: 'B body' })).toHaveAttribute('href', '/routes/Bowline/B');
    expect(
      within(screen.getByRole('region', { name: 'Halyard' })).getByText('No route yet.'),
    ).toBeInTheDocument();
  });

  it('keep a station that something goes through', async () => {
    open({
      'DELETE /api/stations/body-mill': {
        code: 'in-use',
        refused: 'Body mill is in use: draw it without first',
      },
    });
    fireEvent.click(await screen.findByRole('button', { name: 'Take Body mill out of use' }));
    expect(await screen.findByText('Body mill is in use: draw it without first')).toBeInTheDocument();
    expect(screen.getByRole('button', { name: 'Take Body mill out of use' })).toBeEnabled();
  });
});

/** What becomes of a body and its neck. */
const instrument = {
  ...route,
  id: 'i',
  kind: 'I',
  operations: route.operations.filter(({ key }) => key === 'mill'),
};

describe('a route', () => {
  const open = (answers: Record<string, object> = {}, at = '/routes/Bowline/B') =>
    openPage(
      <RoutePage />,
      {
        'GET /api/models/Bowline/routes': [revision('bowline-b-2', 2, 48), neckRoute, instrument],
        'GET /api/routes': routes,
        'GET /api/routes/bowline-b-1': revision('bowline-b-1', 1, 24),
        'GET /api/setup': SETUP,
        'GET /api/floor': floorOf([]),
        ...answers,
      },
      { at, path: '/routes/:model/:kind' },
    );
  const choose = async (name: string): Promise<void> => {
    fireEvent.mouseDown(await screen.findByRole('combobox', { name: 'Operation' }));
    fireEvent.click(await screen.findByRole('option', { name }));
  };
  const tab = async (name: string): Promise<void> => {
    fireEvent.click(await screen.findByRole('tab', { name }));
  };

  it('says so when there is none', async () => {
    open({}, '/routes/Bowline/T');
    expect(await screen.findByText('Bowline has no route of kind T.')).toBeInTheDocument();
  });

  it('is compared with the revision before it, field by field', async () => {
    open();
    await tab('Revisions');
    expect(await screen.findByText('rule hours: 24 → 48')).toBeInTheDocument();
    expect(screen.getByText('Body rest').closest('li')).toHaveTextContent('changed');
    const files = screen.getAllByRole('link', { name: 'File' });
    expect(files.map((link) => link.getAttribute('href'))).toEqual([
      '/api/routes/bowline-b-2/route.json',
      '/api/routes/bowline-b-1/route.json',
    ]);
  });

  it('tells at once what is wrong with what is drawn, and makes no revision of it', async () => {
    open();
    await choose('Body mill');
    fireEvent.click(await screen.findByRole('button', { name: 'Body rest ✕' }));
    expect(await screen.findByText(/to put right before it can be worked/)).toBeInTheDocument();
    fireEvent.change(screen.getByLabelText('What changed'), { target: { value: 'no rest' } });
    expect(screen.getByRole('button', { name: 'Make revision 3' })).toBeDisabled();
    // Taken back, it is as it was: nothing to make a revision of.
    fireEvent.click(screen.getByRole('button', { name: 'Undo' }));
    expect(await screen.findByText('3 operations that can be worked.')).toBeInTheDocument();
    expect(screen.queryByLabelText('What changed')).not.toBeInTheDocument();
  });

  it('becomes a revision with its reason, from the one it was drawn from', async () => {
    const { sent } = open({ 'POST /api/routes': summary({ id: 'bowline-b-3', revision: 3 }) });
    await choose('Body rest');
    fireEvent.click(await screen.findByRole('button', { name: 'Take it out' }));
    fireEvent.change(await screen.findByLabelText('What changed'), {
      target: { value: ' no rest in summer ' },
    });
    fireEvent.click(screen.getByRole('button', { name: 'Make revision 3' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    await waitFor(() =>
      expect(sent[0]).toMatchObject({
        path: '/api/routes',
        body: { by: 'ostrander', model: 'Bowline', kind: 'B', from: 2, note: 'no rest in summer' },
      }),
    );
    const operations = sent[0]?.body.operations as { key: string }[];
    expect(operations.map(({ key }) => key)).toEqual(['mill', 'join']);
  });

  it('asks for what is ticked: acceptance, a kit, serials, and no longer what is not', async () => {
    const { sent } = open({ 'POST /api/routes': summary({ id: 'bowline-b-3', revision: 3 }) });
    await choose('Body mill');
    const asked = await screen.findByRole('group', { name: 'Asked here' });
    // A mill lays nobody a kit in, and gives its bodies to who looks at them.
    expect(within(asked).queryByRole('checkbox', { name: 'The kit is picked first' })).toBeNull();
    fireEvent.click(within(asked).getByRole('checkbox', { name: 'What comes is accepted first' }));
    fireEvent.click(within(asked).getByRole('checkbox', { name: 'Serials are given' }));
    fireEvent.click(within(asked).getByRole('checkbox', { name: 'Serials are given' }));
    fireEvent.change(await screen.findByLabelText('What changed'), { target: { value: 'customers' } });
    fireEvent.click(screen.getByRole('button', { name: 'Make revision 3' }));
    await waitFor(() => expect(sent).toHaveLength(1));
    const mill = (sent[0]?.body.operations as object[])[0] ?? {};
    expect(mill).toMatchObject({ key: 'mill', accepts: true });
    expect(mill).not.toHaveProperty('serial');
  });

  it('keeps what was drawn when the page is left, and says who was faster', async () => {
    const answers = { 'POST /api/routes': { code: 'taken', refused: 'revision 3 was made meanwhile' } };
    const first = open(answers);
    await choose('Body rest');
    fireEvent.click(await screen.findByRole('button', { name: 'Take it out' }));
    fireEvent.change(await screen.findByLabelText('What changed'), { target: { value: 'later' } });
    fireEvent.click(screen.getByRole('button', { name: 'Make revision 3' }));
    expect(await screen.findByText('revision 3 was made meanwhile')).toBeInTheDocument();
    first.change(<p>elsewhere</p>);
    expect(screen.getByText('elsewhere')).toBeInTheDocument();
    first.change(<RoutePage />);
    expect(
      await screen.findByText('2 operations that can be worked; not made a revision yet.'),
    ).toBeInTheDocument();
  });
});
