import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { holdReckoning } from './hold-reckoning.ts';
import type { BatchDetail, Hold } from '../api/queries.ts';
import { HOUR, NOW } from '../testing/tarrow.ts';
import { Reckoning } from '../parts/index.ts';

const hold = (rule: string, extra: Partial<Hold> = {}): Hold =>
  ({
    ...{
      operation: 'h',
      operationName: 'Rest',
      rule,
      word: 'rest',
      sinceMs: NOW - 30 * HOUR,
      positions: [1],
    },
    ...{ curedHours: null, neededHours: null, ...extra },
  }) as Hold;
const batch = (rule: object, readings: object[] = []): BatchDetail =>
  ({
    ...{ nowMs: NOW, state: { readings } },
    route: { operations: [{ key: 'h', name: 'Rest', mode: 'hold', room: 'Wood room', rule }] },
  }) as unknown as BatchDetail;
const say = (ms: number): string => `${(NOW - ms) / HOUR} h ago`;

describe('how a judgement comes about', () => {
  it('is folded away, and says what was put in, the formula and where it is from', async () => {
    render(<Reckoning put={[['film', '22 µm']]} formula="wet film · solids" source="the data sheet" />);
    const fold = screen.getByRole('button', { name: 'How this is reckoned' });
    expect(fold).toHaveAttribute('aria-expanded', 'false');
    await userEvent.click(fold);
    expect(within(screen.getByRole('table')).getByRole('row', { name: 'film 22 µm' })).toBeVisible();
    expect(screen.getByText('wet film · solids')).toBeVisible();
    expect(screen.getByText('the data sheet')).toBeVisible();
  });
});

describe('how the rule of a hold comes to what it says', () => {
  it('names the numbers the rule goes by', () => {
    const elapsed = { rule: 'elapsed', word: 'rest', hours: 48 };
    expect(holdReckoning(hold('elapsed'), batch(elapsed), say)).toMatchObject({
      put: [
        ['on hold since', '30 h ago'],
        ['room', 'Wood room'],
        ['hours wanted', '48 h'],
      ],
      source: 'The hours are the route’s. Route: Rest, rest.',
    });
    const cure = {
      rule: 'cure',
      word: 'cure',
      until: 'buff',
      referenceHours: 336,
      q: 2,
      material: 'lacquer',
    };
    const cured = hold('cure', { curedHours: 201.4, neededHours: 185 });
    expect(holdReckoning(cured, batch(cure), say)?.put.slice(2)).toEqual([
      ['gathered', '201 reference hours'],
      ['needed', '185 reference hours'],
      ['until it may be', 'buff'],
      ['faster', '2 times for every 10 °C'],
    ]);
  });

  it('shows what was read, corrected and as the meter showed it', () => {
    const moisture = { rule: 'moisture', word: 'drying', window: { lowPct: 6, highPct: 8.5 }, tauDays: 20 };
    const read = { atMs: NOW - HOUR, positions: [3], valuesPct: [7.9], shownPct: [8.2], depth: 'shell' };
    const before = { ...read, atMs: NOW - 40 * HOUR };
    const { put = [] } = holdReckoning(hold('moisture'), batch(moisture, [before, read]), say) ?? {};
    expect(put).toContainEqual(['window', '6.0–8.5 %']);
    // What was read before it came onto the hold is not of it.
    expect(put).toContainEqual(['readings since then', '1']);
  });

  it('is nothing where somebody called the hold', () => {
    expect(holdReckoning(hold('called'), batch({ rule: 'elapsed', word: 'rest', hours: 1 }), say)).toBeNull();
  });
});
