import fc from 'fast-check';
import { applyEntry, replay, type Entry, type EntryBody } from '../entries/index.ts';
import { cameMs, hasLeft, isRefusal, type BatchState } from '../ledger/index.ts';
import { file, sequences } from '../testing/random-log.ts';
import { entry, hoursIn, longRoute, openBody } from '../testing/tarrow.ts';
import { staysEnded, staysOf, type Stay } from './stays.ts';

/** A log of entries that are accepted, each so many hours in. */
function logged(...told: [hours: number, body: EntryBody, by?: string][]): Entry[] {
  const log = [entry(1, hoursIn(0), openBody(longRoute, 'B-1', 4))];
  for (const [hours, body, by = 'tamsin'] of told)
    log.push({ ...entry(log.length + 1, hoursIn(hours), body), by });
  const state = replay(longRoute, log);
  if (state && isRefusal(state)) throw new Error(state.refused);
  return log;
}
const inShort = ({ positions, operation, status, fromMs, toMs, ended }: Stay): unknown[] => [
  ...[positions.join(' '), operation, status],
  ...[(fromMs - hoursIn(0)) / 3_600_000, (toMs - hoursIn(0)) / 3_600_000, ended],
];
const dry: EntryBody = { type: 'end', operation: 'dry', because: 'dry by the other meter' };

describe('the stays of a rack', () => {
  it('are told by hand: four blanks rest, three are milled and one is scrapped', () => {
    const log = logged(
      [30, dry],
      [34, { type: 'start', operation: 'mill', pieces: [1, 2, 3], station: 'mill-2' }, 'orrin'],
      [35, { type: 'scrap', pieces: [4], reason: 'knot' }],
      [36, { type: 'done', operation: 'mill', count: 2 }],
    );
    const stays = staysOf(longRoute, log);
    expect(stays.map(inShort)).toEqual([
      ['1 2 3 4', 'dry', 'onHold', 0, 30, 'passed'],
      ['1 2 3', 'mill', 'waiting', 30, 34, 'started'],
      ['4', 'mill', 'waiting', 30, 35, 'scrapped'],
      ['1 2', 'mill', 'inHand', 34, 36, 'passed'],
    ]);
    const [rested, waited, scrapped, milled] = stays;
    expect(rested).toMatchObject({ station: 'wood', rule: 'moisture', reason: 'dry by the other meter' });
    expect(waited).toMatchObject({ seq: 3, station: 'body-mill', person: null, toOperation: 'mill' });
    expect(scrapped).toMatchObject({ reason: 'knot', toOperation: null });
    expect(milled).toMatchObject({ station: 'mill-2', person: 'orrin', rule: null, toOperation: 'rest' });
  });

  it('lie beside each other where a person stops what rests: no hour is told twice', () => {
    const stop: EntryBody = { type: 'hold', reason: 'end checks' };
    const log = logged([10, stop], [14, { type: 'end', operation: 'dry' }], [30, dry]);
    expect(staysOf(longRoute, log).map((stay) => [...inShort(stay), stay.rule, stay.reason])).toEqual([
      ['1 2 3 4', 'dry', 'onHold', 0, 10, 'held', 'moisture', 'end checks'],
      ['1 2 3 4', 'dry', 'onHold', 10, 14, 'resumed', 'called', null],
      ['1 2 3 4', 'dry', 'onHold', 14, 30, 'passed', 'moisture', 'dry by the other meter'],
    ]);
    // The clock of the hold itself ran on under it.
    const state = replay(longRoute, log.slice(0, 3)) as BatchState;
    expect(state.pieces[0]).toMatchObject({ sinceMs: hoursIn(0), resumedMs: hoursIn(14) });
    expect((replay(longRoute, log) as BatchState).pieces[0]).not.toHaveProperty('resumedMs');
  });

  it('say why pieces went back and where to, and that the rest was held for them', () => {
    const through: [number, EntryBody][] = [
      [30, dry],
      [31, { type: 'start' }],
      [32, { type: 'done' }],
      [33, { type: 'end', because: 'the fair' }],
      [34, { type: 'done', because: 'the fair' }],
      [35, { type: 'start' }],
    ];
    const back: EntryBody = {
      ...{ type: 'rework', operation: 'clear', pieces: [2], to: 'mill' },
      ...{ reason: 'run', cause: 'thin edge', rest: 'waits' },
    };
    const ended = staysOf(longRoute, logged(...through, [36, back])).filter(({ seq }) => seq === 8);
    expect(ended).toMatchObject([
      { positions: [1, 3, 4], ended: 'held', reason: 'waits for B-1/02', toOperation: 'clear' },
      { positions: [2], ended: 'sent back', reason: 'run', cause: 'thin edge', toOperation: 'mill' },
    ]);
  });

  it('of what was taken back never were', () => {
    const log = logged([30, dry], [31, { type: 'start', count: 2 }], [32, { type: 'undo', voids: [3] }]);
    expect(staysOf(longRoute, log).map(inShort)).toEqual([['1 2 3 4', 'dry', 'onHold', 0, 30, 'passed']]);
  });
});

describe('random logs, seed 31', () => {
  it('each piece is in one thing at a time from its opening on, and filing tells what the log tells', () => {
    let told = 0;
    fc.assert(
      fc.property(sequences, (bodies) => {
        const { log, state } = file(bodies);
        const stays = staysOf(longRoute, log);
        told += stays.length;
        for (const piece of state?.pieces ?? []) {
          const own = stays.filter(({ positions }) => positions.includes(piece.position));
          const ends = own.map(({ toMs }) => toMs);
          expect(own.map(({ fromMs }) => fromMs)).toEqual([state?.openedMs, ...ends].slice(0, own.length));
          expect(cameMs(piece)).toBe(ends.at(-1) ?? state?.openedMs);
          if (hasLeft(piece)) expect(own.at(-1)?.toOperation).toBeNull();
        }
        expect(filedStays(log)).toEqual(stays);
      }),
      { seed: 31, numRuns: 300 },
    );
    expect(told).toBeGreaterThan(600);
  });
});

/** As the server does: each entry's own are added, a correction replaces all. */
function filedStays(log: readonly Entry[]): Stay[] {
  let rows: Stay[] = [];
  let state: BatchState | null = null;
  log.forEach((next, i) => {
    if (next.body.type === 'undo') {
      const upTo = log.slice(0, i + 1);
      state = replay(longRoute, upTo) as BatchState | null;
      rows = staysOf(longRoute, upTo);
      return;
    }
    const outcome = applyEntry(state, longRoute, next);
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    rows = [...rows, ...staysEnded(state, outcome.state, longRoute, next)];
    state = outcome.state;
  });
  return rows;
}
