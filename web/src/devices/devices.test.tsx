import { fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import { BoardStack } from './BoardStack.tsx';
import { CallCard } from './CallCard.tsx';
import { EmcGauge } from './EmcGauge.tsx';
import { HoldBar } from './HoldBar.tsx';
import { PegRack } from './PegRack.tsx';
import { Rope } from './Rope.tsx';
import { Strip } from './Strip.tsx';
import { Verdict } from './Verdict.tsx';

const draw = (device: ReactNode) => render(<MemoryRouter>{device}</MemoryRouter>);
const NOW = Date.UTC(2026, 10, 24, 14, 20);
const HOUR = 3_600_000;

describe('the peg rack', () => {
  it('says in words what its pegs show', () => {
    draw(
      <PegRack
        code="B-217"
        pegs={['done', 'done', 'todo', 'scrapped', 'rework']}
        words="at Body mill"
        href="/batch/B-217"
        tag="−2 d"
        late
      />,
    );
    const rack = screen.getByRole('link', {
      name: 'B-217, at Body mill: 1 to do, 2 done, 1 scrapped, 1 in rework, late −2 d',
    });
    expect(rack).toHaveAttribute('href', '/batch/B-217');
  });

  it('draws one peg for each piece up to 24, and a ticked rail beyond', () => {
    const pegs = (n: number) => Array.from({ length: n }, () => 'todo' as const);
    const paths = (n: number): number =>
      draw(<PegRack code="B-1" pegs={pegs(n)} words="" />).container.querySelectorAll('path').length;
    expect(paths(24)).toBe(1 + 24);
    expect(paths(36)).toBe(1 + 1 + 7);
  });
});

describe('the hold bar', () => {
  const bar = {
    code: 'B-186',
    word: 'cure',
    nowMs: NOW,
    axisEndMs: NOW + 100 * HOUR,
    lowMs: null,
    highMs: null,
    href: '/',
    until: 'Fri 18:20',
  };
  const width = (container: HTMLElement): string =>
    container.querySelector<HTMLElement>('.bar')?.style.width ?? 'none';

  it('reaches from now to the forecast end, to scale', () => {
    expect(width(draw(<HoldBar {...bar} over={false} endMs={NOW + 25 * HOUR} />).container)).toBe('25%');
    expect(screen.getByRole('link', { name: 'B-186, on hold, cure, Fri 18:20' })).toBeInTheDocument();
  });

  it('runs off the axis when it ends later or nobody knows, and is gone when it is over', () => {
    expect(width(draw(<HoldBar {...bar} over={false} endMs={NOW + 500 * HOUR} />).container)).toBe('100%');
    expect(width(draw(<HoldBar {...bar} over={false} endMs={null} />).container)).toBe('100%');
    expect(width(draw(<HoldBar {...bar} over endMs={NOW - HOUR} />).container)).toBe('none');
  });

  it('shows its range as a whisker', () => {
    const { container } = draw(
      <HoldBar
        {...bar}
        over={false}
        endMs={NOW + 25 * HOUR}
        lowMs={NOW + 20 * HOUR}
        highMs={NOW + 40 * HOUR}
      />,
    );
    expect(container.querySelector<HTMLElement>('.whisker')?.style).toMatchObject({
      left: '20%',
      width: '20%',
    });
  });
});

describe('the rope', () => {
  const section = (name: string, pieces: number, onHold: number, tight: string | null = null) => ({
    key: name,
    name,
    href: `/stage/${name}`,
    racks: 1,
    pieces,
    onHold,
    words: `${pieces} waiting`,
    tight,
    sign: tight === null ? null : 'most days on 7 of 7',
  });

  it('says each stage in words, hatches what is on hold and marks the constraint', () => {
    const { container } = draw(
      <Rope sections={[section('Wood', 10, 5), section('Finish', 40, 0, 'tight: colour')]} />,
    );
    expect(
      screen.getByRole('link', { name: /Wood 1 rack · 10 pieces, 5 on hold 10 waiting/ }),
    ).toHaveAttribute('href', '/stage/Wood');
    expect(screen.getByText('tight: colour')).toBeInTheDocument();
    const [wood, finish] = [...container.querySelectorAll('rect')].map((rect) =>
      Number(rect.getAttribute('width')),
    );
    expect(wood).toBeCloseTo(0.72 * 500 * 0.5, 6);
    expect(finish).toBe(0);
    expect(container.querySelectorAll('path[fill="var(--oxblood)"]')).toHaveLength(1);
  });

  it('tells its numbers, its scale and the sign of its mark to whoever points at it or comes to it by keyboard', async () => {
    draw(<Rope sections={[section('Wood', 10, 5), section('Finish', 40, 0, 'tight: colour')]} />);
    fireEvent.mouseOver(screen.getByRole('link', { name: /Finish/ }));
    const told = await screen.findByRole('tooltip');
    expect(told).toHaveTextContent('Finish: 40 pieces on 1 rack');
    // 5 + 39·√(p/40) px is half of 44 px at p = 40·(17/39)² = 7.6.
    expect(told).toHaveTextContent('At its thickest the rope is 40 pieces, half as thick 8.');
    expect(told).toHaveTextContent('most days on 7 of 7');
  });
});

describe('strip, verdict and call', () => {
  it('names the steps, where the pieces are, and draws an arc for rework', () => {
    const step = { time: null, reworkTo: null, here: 0, kind: 'work' as const };
    const { container } = draw(
      <Strip
        label="Route"
        steps={[
          { ...step, key: 'a', name: 'Colour', state: 'here', here: 1 },
          { ...step, key: 'b', name: 'Clear', state: 'here', here: 9, reworkTo: 0 },
          { ...step, key: 'c', name: 'Cure', state: 'ahead', kind: 'hold' },
        ]}
      />,
    );
    expect(screen.getAllByRole('listitem').map((item) => item.textContent)).toEqual([
      '1 hereColour (here)',
      '9 hereClear (here)',
      'Cure (ahead)',
    ]);
    expect(container.querySelectorAll('svg path')).toHaveLength(1);
  });

  it('says the judgement first', () => {
    draw(<Verdict tone="good" sentence="Ready to sand: 72 of 72 reference hours reached." />);
    expect(screen.getByRole('region', { name: /^Ready to sand/ })).toBeInTheDocument();
  });

  it('files the line of a call when it is pressed', async () => {
    const lines: string[] = [];
    draw(
      <CallCard
        kind="hold-over"
        title="B-1 may leave"
        detail="12 pieces"
        cost={6}
        items={[]}
        evidence="/batch/B-1"
        actions={[
          { label: 'End hold', line: 'B-1 end' },
          { label: 'Look', href: '/batch/B-1' },
        ]}
        onLines={(asked) => Promise.resolve(void lines.push(...asked))}
      />,
    );
    await userEvent.click(screen.getByRole('button', { name: 'End hold' }));
    expect(lines).toEqual(['B-1 end']);
    expect(screen.getByRole('link', { name: 'Look' })).toHaveAttribute('href', '/batch/B-1');
  });
});

describe('the board stack', () => {
  it('says of each board what it last read and what that means', () => {
    draw(
      <BoardStack
        boards={[
          { number: 12, valuePct: 7.42, mark: 'pass' },
          { number: 3, valuePct: 9, mark: 'fail' },
          { number: 4, valuePct: null, mark: 'unread' },
        ]}
      />,
    );
    const words = screen.getAllByRole('listitem').map((item) => item.textContent);
    expect(words).toEqual([
      '127.47.4 %, would pass now',
      '39.09.0 %, does not pass',
      '4–never read, not read at the last look',
    ]);
  });
});

describe('the EMC gauge', () => {
  it('is an image with its numbers in words, and has no mark where nothing is known', () => {
    const band = { lowPct: 6, highPct: 8.5 };
    const { container, rerender } = draw(<EmcGauge emcPct={9.4} band={band} words="EMC 9.4 %" />);
    expect(screen.getByRole('img', { name: 'EMC 9.4 %' })).toBeVisible();
    expect(container.querySelectorAll('rect')).toHaveLength(3);
    rerender(<EmcGauge emcPct={null} band={band} words="no air logged" />);
    expect(container.querySelectorAll('rect')).toHaveLength(2);
  });
});
