import { render, screen } from '@testing-library/react';
import type { BatchDetail, Hold } from '../api/queries.ts';
import { batch, HOUR, NOW, piece, route } from '../testing/tarrow.ts';
import { MemoryRouter } from 'react-router';
import { HoldPanel } from './HoldPanel.tsx';

const rack = batch('B-217', [piece(1, { operation: 'rest', standing: 'onHold' })]);
const detail: BatchDetail = {
  ...{ code: 'B-217', nowMs: NOW, zone: 'UTC', seq: 1, state: rack.state, route, holds: [], entries: [] },
  ...{ climate: [], earliestMs: null },
};
const hold = (extra: Partial<Hold>): Hold => ({
  ...{ operation: 'rest', operationName: 'Body rest', rule: 'elapsed', word: 'rest', sinceMs: NOW - HOUR },
  ...{ positions: [1, 2], over: false, sentence: 'Wait: 38 h left.', rejected: false, progress: 0.5 },
  ...{ endMs: NOW + 38 * HOUR, lowMs: null, highMs: null, curedHours: null, neededHours: null },
  ...extra,
});
function drawn(extra: Partial<Hold>): HTMLElement {
  const { container } = render(
    <MemoryRouter>
      <HoldPanel hold={hold(extra)} batch={detail} nowMs={NOW} />
    </MemoryRouter>,
  );
  return container;
}
const toneOf = (container: HTMLElement): string =>
  /verdict (\w+)/.exec(container.querySelector('.verdict')?.className ?? '')?.[1] ?? '';

describe('a hold of a batch', () => {
  it('says how many rest, since when, and when it is over', () => {
    drawn({ lowMs: NOW + 30 * HOUR, highMs: NOW + 60 * HOUR });
    expect(screen.getByText('Body rest: Wait: 38 h left.')).toBeInTheDocument();
    expect(
      screen.getByText(/^2 pieces, since Tue 13:20 · forecast Thu, between Wed and Fri$/),
    ).toBeInTheDocument();
  });

  it('is good when over, a decision when somebody called it, and bad where waiting does not help', () => {
    expect(toneOf(drawn({ over: true }))).toBe('good');
    expect(toneOf(drawn({}))).toBe('hold');
    expect(toneOf(drawn({ rule: 'called', endMs: null }))).toBe('wait');
    // Whatever its sentence begins with.
    expect(toneOf(drawn({ rule: 'settle', rejected: true, sentence: 'Action 2.1 mm.' }))).toBe('bad');
    expect(toneOf(drawn({ sentence: 'Rejected is what others would say.' }))).toBe('hold');
  });

  it('by moisture without a date says what to do', () => {
    drawn({ rule: 'moisture', endMs: null });
    expect(screen.getByText(/no date: read it, or see its room/)).toBeInTheDocument();
  });
});
