import type { Check, LoadPlan, LoadsQuestion } from '@ample-crane/core';
import { CALENDAR, HOUR } from '../testing/tarrow.ts';
import { valueOf } from './CheckSheet.tsx';
import { readChart } from './chart-data.ts';
import { moved, placeOf, shownPlan, stillTrue, type HandLoad } from './hand.ts';
import { lostPieces } from './lost.ts';
import type { Chart } from './queries.ts';

const NOW = Date.UTC(2026, 10, 24, 7);
const load = (table: string, batch: string, pieces = 8): HandLoad => ({
  table,
  program: 'p r1',
  parts: [{ batch, pieces }],
});
const question: LoadsQuestion = {
  nowMs: NOW,
  calendar: CALENDAR,
  tables: ['1', '2'].map((code) => ({ code, places: 8, freeMs: NOW, program: 'p r1' })),
  programs: [{ name: 'p r1', setUpMinutes: 30, loadMinutes: 10, cycleMinutes: 50, tools: [] }],
  waiting: ['B-1', 'B-2', 'B-3'].map((batch, i) => ({
    ...{ batch, program: 'p r1', pieces: 8, sinceMs: NOW - HOUR },
    neededMs: NOW + (i + 1) * HOUR,
  })),
  cutters: [],
};
const names = (loads: readonly HandLoad[]): string[] =>
  loads.map(({ table, parts }) => `${table} ${parts[0]?.batch}`);

describe('loads moved by hand', () => {
  const loads = [load('1', 'B-1'), load('2', 'B-2'), load('1', 'B-3')];

  it('go to another place of their table, or to another table, and the others close up', () => {
    expect(names(moved(loads, 2, { table: '1', place: 0 }))).toEqual(['1 B-3', '1 B-1', '2 B-2']);
    expect(names(moved(loads, 0, { table: '2', place: 1 }))).toEqual(['2 B-2', '2 B-1', '1 B-3']);
    expect(names(moved(loads, 1, { table: '1', place: 9 }))).toEqual(['1 B-1', '1 B-3', '1 B-2']);
    expect(moved(loads, 7, { table: '1', place: 0 })).toEqual(loads);
    expect(placeOf(loads, 2)).toBe(1);
  });

  it('are shown with their own times while they are true, and given up when a load of them was started', () => {
    const proposed: LoadPlan = { loads: [], setUps: 0, latePieceHours: 0, endMs: null };
    const shown = shownPlan(question, proposed, moved(loads, 2, { table: '1', place: 0 }));
    expect(shown.byHand).toBe(true);
    expect(shown.plan.loads.map((one) => (one.endMs - NOW) / HOUR)).toEqual([1, 2, 1]);
    expect(shown.plan.loads[0]?.says).toContain('goes before B-1, which is needed sooner');
    const started = { ...question, waiting: question.waiting.slice(1) };
    expect(stillTrue(loads, started)).toBe(false);
    expect(shownPlan(started, proposed, loads)).toEqual({ plan: proposed, byHand: false });
    expect(shownPlan(question, proposed, null).byHand).toBe(false);
  });

  it('are not true when a table holds fewer', () => {
    const smaller = { ...question, tables: question.tables.map((table) => ({ ...table, places: 6 })) };
    expect(stillTrue(loads, smaller)).toBe(false);
  });
});

describe('pieces that are not good', () => {
  const one = [{ batch: 'B-7', pieces: [1, 2, 3] }];
  const two = [...one, { batch: 'B-8', pieces: [1, 2] }];

  it('are named by place in a load of one batch, and by batch in a mixed one', () => {
    expect(lostPieces('', one)).toEqual({ pieces: [] });
    expect(lostPieces('2, 3', one)).toEqual({ pieces: [{ batch: 'B-7', pieces: [2, 3] }] });
    expect(lostPieces('b-7/1 2 B-8/2', two)).toEqual({
      pieces: [
        { batch: 'B-7', pieces: [1, 2] },
        { batch: 'B-8', pieces: [2] },
      ],
    });
  });

  it('that are not in the load are said to', () => {
    expect(lostPieces('4', one)).toEqual({ problem: 'B-7/4 is not in this load' });
    expect(lostPieces('2', two)).toEqual({ problem: '2: say which batch, as B-7/3' });
    expect(lostPieces('B-9/1', two)).toEqual({ problem: 'B-9: say which batch, as B-7/3' });
    expect(lostPieces('two', one)).toEqual({ problem: 'B-7/two is not in this load' });
  });
});

const check: Check = {
  ...{ key: 'w', name: 'Pocket width', unit: 'mm', nominal: 57.25, lower: 57.17, upper: 57.33 },
  ...{ firstPiece: true, sample: 3 },
};

describe('a typed measurement', () => {
  it('is a number with point or comma, or told what is wrong with it', () => {
    expect(valueOf(check, ' 57,25 ')).toEqual({ value: 57.25, problem: null, meant: null });
    expect(valueOf(check, '')).toEqual({ value: null, problem: null, meant: null });
    expect(valueOf(check, 'wide')).toEqual({ value: null, problem: "'wide' is not a number", meant: null });
    expect(valueOf(check, '2.254')).toEqual({
      value: null,
      problem: 'read in in? That would be 57.2516 mm',
      meant: 57.2516,
    });
  });
});

describe('a chart', () => {
  const chart = (groups: number[][], rest: Partial<Chart> = {}): Chart => ({
    ...{
      model: 'Halyard',
      kind: 'B',
      operation: 'mill',
      operationName: 'Body mill',
      check,
      zone: 'UTC',
      baseline: 25,
      piecesALook: 8,
    },
    rules: ['beyond'],
    points: groups.map((values, i) => ({
      ...{
        atMs: NOW + i * HOUR,
        batch: 'B-1',
        load: null,
        positions: [],
        values,
        by: 'dorrit',
        source: 'typed' as const,
      },
    })),
    ...rest,
  });
  const steady = Array.from({ length: 12 }, (_, i) =>
    [57.24, 57.25, 57.26].map((value) => value + 0.002 * (i % 3)),
  );

  it('takes looks with fewer pieces too', () => {
    const read = readChart(chart([...steady, [57.25]]), ['beyond']);
    expect([read.looks.length, read.tone, read.capability?.count]).toEqual([13, 'good', 37]);
    expect(read.sentence).toBe('In control: 13 looks, the last breaks no rule.');
  });

  it('says that its last point is out of control, by the rules that are on', () => {
    const out = chart([...steady, [57.3, 57.31, 57.32]], { baseline: 12 });
    expect(readChart(out, ['beyond']).sentence).toBe(
      'Out of control: one point beyond 3 σ, above the centre.',
    );
    expect(readChart(out, []).tone).toBe('good');
  });

  it('says where it drifts to, in pieces, and counts what was outside', () => {
    const falling = Array.from({ length: 14 }, (_, i) =>
      [0, 1, 2].map((n) => 57.3 - 0.006 * i + 0.002 * (n - 1) + 0.001 * (i % 2)),
    );
    const read = readChart(chart(falling), []);
    expect(read.sentence).toMatch(
      /^Drifting down: pocket width will reach its lower limit in about 70 pieces \(\d+ to \d+\);/,
    );
    const worse = readChart(chart([...falling, [57.1, 57.2, 57.21]]), []);
    expect(worse.sentence).toMatch(/1 of 45 values were outside 57.17–57.33 mm/);
  });

  it('of nothing says what to do first', () => {
    expect(readChart(chart([]), ['beyond'])).toMatchObject({
      chart: null,
      capability: null,
      sentence: 'Nothing measured yet: measure the first piece of the next load.',
    });
    const single = chart([[57.25], [57.26]], { check: { ...check, sample: 1 } });
    expect(readChart(single, ['beyond']).chart?.kind).toBe('individuals');
  });
});
