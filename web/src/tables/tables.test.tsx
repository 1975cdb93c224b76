import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { DataTable } from './DataTable.tsx';
import { moment, sumWords, type Column } from './column.ts';
import { remember, remembered } from './remembered.ts';

interface Lot {
  code: string;
  wood: string;
  kg: number | null;
}
const COLUMNS: Column<Lot>[] = [
  { key: 'code', head: 'lot', of: ({ code }) => code },
  { key: 'wood', head: 'wood', of: ({ wood }) => wood, choice: true },
  { key: 'kg', head: 'weight, kg', of: ({ kg }) => kg, digits: 1, sum: true },
  { key: 'note', head: 'note', of: ({ wood }) => `of ${wood}`, hidden: true },
];
const lots = (n: number): Lot[] =>
  Array.from({ length: n }, (_, i) => ({
    code: `W-${i + 1}`,
    wood: i % 2 === 0 ? 'red alder' : 'white ash',
    kg: i === 0 ? null : i / 2,
  }));
const draw = (rows: Lot[]) =>
  render(
    <DataTable
      name="tried"
      label="Lots"
      noun="lot"
      rows={rows}
      rowKey={({ code }) => code}
      columns={COLUMNS}
      sortedBy="-kg"
      empty="No lot yet."
    />,
  );
const codes = (): string[] =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('gridcell')[0]?.textContent ?? '');
const phone = (is: boolean): void => {
  globalThis.matchMedia = ((query: string) => ({
    ...{ matches: is, media: query, onchange: null },
    ...{ addEventListener: () => undefined, removeEventListener: () => undefined },
  })) as unknown as typeof matchMedia;
};

describe('a table that can grow', () => {
  beforeEach(() => {
    localStorage.clear();
    phone(false);
  });

  it('is sorted as it says, has what it sums up below, and hides what is not asked for', async () => {
    draw(lots(10));
    expect(codes().slice(0, 3)).toEqual(['W-10', 'W-9', 'W-8']);
    // 0.5 + 1 + … + 4.5; the first is not weighed.
    expect(screen.getByText('weight, kg 22.5')).toBeInTheDocument();
    expect(screen.getByText('10 lots')).toBeInTheDocument();
    expect(screen.queryByText('note')).not.toBeInTheDocument();
    await userEvent.click(screen.getByText('lot'));
    expect(codes()[0]).toBe('W-1');
    expect(remembered('tried').sort).toEqual([{ field: 'code', sort: 'asc' }]);
  });

  it('leaves what is looked for, and sums that', async () => {
    draw(lots(10));
    await userEvent.type(screen.getByLabelText('Look for in Lots'), 'ash');
    await waitFor(() => expect(screen.getByText('5 of 10 lots')).toBeInTheDocument());
    // W-2, W-4 … W-10: 0.5 + 1.5 + 2.5 + 3.5 + 4.5.
    expect(screen.getByText('weight, kg 12.5')).toBeInTheDocument();
  });

  it('comes back as its person left it, but for what was looked for', () => {
    remember('tried', { columns: { note: true, wood: false } });
    remember('tried', { sort: [{ field: 'code', sort: 'desc' }] });
    draw(lots(3));
    expect(screen.getByText('note')).toBeInTheDocument();
    expect(screen.queryByText('wood')).not.toBeInTheDocument();
    expect(codes()).toEqual(['W-3', 'W-2', 'W-1']);
  });

  it.each(['nonsense', 'null', '{"columns":{"note":"yes"},"sort":[{"field":3}]}', '{"sort":{}}'])(
    'minds nothing of what is kept when that is %s',
    (kept) => {
      localStorage.setItem('ample-crane.table.tried', kept);
      expect(remembered('tried')).toEqual({});
      draw(lots(2));
      expect(codes()).toEqual(['W-2', 'W-1']);
    },
  );

  it('says what is missing where there is no row', () => {
    draw([]);
    expect(screen.getByText('No lot yet.')).toBeInTheDocument();
    expect(screen.queryByRole('grid')).not.toBeInTheDocument();
  });

  it('is cards on a phone, thirty at once, looked through by what any column says', async () => {
    phone(true);
    draw(lots(40));
    expect(screen.getAllByRole('listitem')).toHaveLength(30);
    await userEvent.click(screen.getByRole('button', { name: '10 more' }));
    expect(screen.getAllByRole('listitem')).toHaveLength(40);
    await userEvent.type(screen.getByLabelText('Look for in 40 lots'), 'W-4 ash');
    expect(screen.getAllByRole('listitem').map(({ textContent }) => textContent)).toEqual([
      // Heaviest first, as the table would be.
      'W-40woodwhite ashweight, kg19.5',
      'W-4woodwhite ashweight, kg1.5',
    ]);
  });
});

it('moments are sorted and exported by the clock of the works, and said as people say them', () => {
  const column = moment<{ at: number | null }>({
    key: 'at',
    head: 'when',
    ms: ({ at }) => at,
    zone: 'America/Chicago',
  });
  const row = { at: Date.parse('2026-11-24T19:20:00Z') };
  expect(column.of(row)).toBe('2026-11-24 13:20');
  expect(column.show?.(row)).toBe('Tue 24 Nov 13:20');
  expect(column.of({ at: null })).toBeNull();
});

it('what has no number adds nothing', () => {
  expect(sumWords(COLUMNS, lots(3))).toEqual(['weight, kg 1.5']);
  expect(sumWords(COLUMNS, [])).toEqual(['weight, kg 0.0']);
});
