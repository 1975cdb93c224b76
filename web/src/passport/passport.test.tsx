import { screen, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { NOW } from '../testing/tarrow.ts';
import { openPage } from '../testing/open-page.tsx';
import PassportPage from './PassportPage.tsx';
import { passportSentence } from './words.ts';

afterEach(() => jest.restoreAllMocks());

const line = (change: object) => ({
  ...{ atMs: NOW, kind: 'coat', at: 'Clear coats', words: 'Clear, 24.2 µm dry', against: null, by: null },
  ...change,
});
const part = (piece: string, change: object = {}) => ({
  ...{ piece, batch: piece.split('/')[0], kindName: 'body', model: 'Bowline', standing: 'shipped' },
  ...{
    joinedInto: null,
    recipe: null,
    serial: null,
    setUp: [] as object[],
    wood: [],
    lines: [] as ReturnType<typeof line>[],
  },
  ...change,
});
const override = line({
  ...{ kind: 'override', at: 'Cure', words: 'the fair is tomorrow', by: 'E. Lundy' },
  against: 'Wait to buff: 95 of 168 reference hours',
});

describe('what a passport says first', () => {
  it('is where the piece is, what it is made of, and how often a rule was passed by', () => {
    const parts = [
      part('I-7/03', { lines: [override, line({ kind: 'slip' })] }),
      part('B-9/03'),
      part('N-4/01'),
    ];
    expect(passportSentence(parts)).toBe(
      'I-7/03, shipped, made of B-9/03 and N-4/01. A rule was passed by once; it went back once.',
    );
    expect(passportSentence([part('B-9/03')])).toBe('B-9/03, shipped. No rule was passed by.');
    expect(passportSentence([part('B-9/03', { lines: [override, override, override] })])).toMatch(/3 times/);
  });
});

describe('the passport', () => {
  const open = (parts: object[]) =>
    openPage(
      <Routes>
        <Route path="*" element={<PassportPage />} />
      </Routes>,
      { 'GET /api/passports//0': { nowMs: NOW, zone: 'utc', parts } },
    );

  it('shows each part with its lines, and what rules were passed by with what the rule said', async () => {
    open([
      part('I-7/03', { kindName: 'guitar', lines: [line({}), override] }),
      part('B-9/03', { wood: [{ lot: 'W-74', species: 'ash', papers: null, blanks: ['W-74/12.2'] }] }),
    ]);
    const whole = await screen.findByRole('region', { name: 'guitar I-7/03' });
    const row = within(whole).getByRole('row', { name: /Rule passed by: the fair is tomorrow/ });
    expect(row).toHaveTextContent('The rule said: Wait to buff: 95 of 168 reference hours');
    expect(row).toHaveTextContent('E. Lundy');
    const body = screen.getByRole('region', { name: 'body B-9/03' });
    expect(within(body).getByText('Nothing is logged of it yet.')).toBeInTheDocument();
    expect(within(body).getByRole('link', { name: 'W-74' })).toHaveAttribute('href', '/wood/lots/W-74');
  });

  it('shows an instrument’s serial, its set-up before and after it settled, and its papers', async () => {
    const setUp = [
      { key: 'relief', name: 'Neck relief', unit: 'mm', atSetUp: 0.22, settled: 0.24 },
      { key: 'weight', name: 'Weight', unit: 'kg', atSetUp: 3.4, settled: null },
    ];
    open([part('I-7/03', { serial: 'BW2632008U', setUp })]);
    const table = await screen.findByRole('table', { name: 'Set-up' });
    expect(within(table).getByRole('row', { name: 'Neck relief 0.22 mm 0.24 mm' })).toBeInTheDocument();
    expect(within(table).getByRole('row', { name: 'Weight 3.40 kg' })).toBeInTheDocument();
    expect(screen.getByRole('heading', { level: 1 })).toHaveTextContent('passport, BW2632008U, Bowline body');
    expect(screen.getByRole('link', { name: 'PDF' })).toHaveAttribute(
      'href',
      expect.stringMatching(/passport\.pdf$/),
    );
  });

  it('says what is wrong where there is no such piece', async () => {
    openPage(<PassportPage />, {});
    expect(await screen.findByText(/no answer for/i)).toBeInTheDocument();
  });
});
