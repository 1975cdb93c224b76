import { render, screen } from '@testing-library/react';
import { Bed } from '../devices/Bed.tsx';
import { MeetingAxis } from './MeetingAxis.tsx';
import { MeetingList } from './MeetingList.tsx';
import { openPage } from '../testing/open-page.tsx';
import { askedOf, pair, runningWords } from './pair.ts';
import type { Meetings, Pairing, PairingSide } from './queries.ts';

const side = (batch: string, values: (number | null)[], movesMm: number | null = null): PairingSide => ({
  batch,
  check: {
    ...{
      key: 'w',
      name: 'Width',
      unit: 'mm',
      nominal: 56,
      lower: 55.9,
      upper: 56.1,
      firstPiece: false,
      sample: 1,
    },
  },
  pieces: values.map((valueMm, i) => ({ position: i + 1, valueMm, partner: null, gapMm: null, line: null })),
  moisturePct: null,
  movesMm,
});
const seen = (host: PairingSide, guest: PairingSide): Pairing => ({
  ...{
    model: 'Bowline',
    joinName: 'Neck joint',
    windowMm: { low: 0.05, high: 0.15 },
    roomEmcPct: 8,
    host,
    guest,
  },
});

describe('the question of pairing', () => {
  it('is asked of what is measured, and answered in places on the racks', () => {
    const asked = askedOf(seen(side('B-1', [56, null, 56.06]), side('N-2', [null, 55.96, 55.9])), false);
    expect(asked).toMatchObject({ pockets: [1, 3], tenons: [2, 3] });
    const { pairing, share } = pair(asked.question);
    expect(pairing.pairs.map(({ pocket, tenon }) => [asked.pockets[pocket], asked.tenons[tenon]])).toEqual([
      [1, 3],
      [3, 2],
    ]);
    expect(share?.measuredPct).toBe(50);
  });

  it('allows for what the wood will do, when told to', () => {
    const racks = seen(side('B-1', [56.2], -0.1), side('N-2', [56], 0));
    expect(pair(askedOf(racks, false).question).pairing.pairs).toEqual([]);
    expect(pair(askedOf(racks, true).question).pairing.pairs).toMatchObject([{ gapMm: 0.1 }]);
  });

  it('has running statistics', () => {
    expect(runningWords([])).toBe('nothing measured');
    expect(runningWords([56, 56.02])).toBe('2 measured, mean 56.010 mm, spread 0.014 mm, 56.00 to 56.02 mm');
  });
});

describe('a press, drawn', () => {
  it('says in words what lies in it and what is free', () => {
    render(<Bed name="Board press 1" places={8} parts={[{ batch: 'N-118', pieces: 5 }]} working />);
    const drawn = screen.getByRole('img', { name: 'Board press 1: 5 of N-118, 3 of 8 places free' });
    expect(drawn.querySelectorAll('rect.taken')).toHaveLength(5);
    expect(drawn.querySelectorAll('rect.free')).toHaveLength(3);
  });

  it('in rows when it has many places, and empty when it is', () => {
    render(<Bed name="Stack" places={20} parts={[]} />);
    const drawn = screen.getByRole('img', { name: 'Stack: empty, 20 of 20 places free' });
    expect(new Set([...drawn.querySelectorAll('rect')].map((rect) => rect.getAttribute('y'))).size).toBe(3);
  });
});

describe('the meeting, drawn', () => {
  const nowMs = Date.UTC(2026, 10, 24, 14);
  const way = (batch: string, hours: number) => ({
    ...{
      batch,
      role: batch.startsWith('B') ? ('host' as const) : ('guest' as const),
      model: 'Bowline',
      pieces: 12,
    },
    ...{
      arrivesMs: nowMs + hours * 3_600_000,
      lowMs: nowMs,
      highMs: nowMs + 90 * 3_600_000,
      dueMs: 0,
      partner: null,
    },
    joinName: 'Neck joint',
  });
  const data: Meetings = {
    nowMs,
    zone: 'UTC',
    sides: [way('B-1', 0), way('N-1', 50)],
    forecast: {
      meetings: [
        {
          ...{
            host: 'B-1',
            guest: 'N-1',
            model: 'Bowline',
            meetMs: nowMs + 50 * 3_600_000,
            waits: 'host' as const,
          },
          ...{ waitHours: 50, misses: true, short: { side: 'guest' as const, pieces: 1 }, told: true },
        },
      ],
      alone: [],
      swaps: [],
    },
  };

  it('says in its list who waits, how long, who is short, and where to pair them', async () => {
    openPage(<MeetingList data={data} meetings={data.forecast.meetings} />);
    const [row] = (await screen.findAllByRole('row')).slice(1);
    expect(row?.textContent).toContain('B-11 neck short50');
    expect(screen.getByRole('gridcell', { name: /told so/ })).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Pair' }).getAttribute('href')).toBe('/fitting/pairing/B-1/N-1');
  });

  it('draws the first two dozen, and says how many there are', () => {
    const [one] = data.forecast.meetings;
    if (!one) throw new Error('no meeting');
    const many = Array.from({ length: 136 }, (_, i) => ({ ...one, host: `B-${i}` }));
    const { container } = render(<MeetingAxis data={data} meetings={many} />);
    expect(container.querySelectorAll('circle')).toHaveLength(24);
    expect(screen.getByText('The first 24 of 136 pairs are drawn; the list has all.')).toBeTruthy();
  });

  it('says so when nothing is on its way', () => {
    render(<MeetingAxis data={data} meetings={[]} />);
    expect(screen.getByText('Nothing is on its way to a join.')).toBeTruthy();
  });
});
