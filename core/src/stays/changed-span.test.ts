import { replay, type Entry, type EntryBody } from '../entries/index.ts';
import type { BatchState } from '../ledger/index.ts';
import { entry, hoursIn, longRoute, openBody } from '../testing/tarrow.ts';
import { changedSpan, type Told } from './changed-span.ts';
import { staysOf } from './stays.ts';

const tell = (...bodies: [hours: number, body: EntryBody][]): Told => {
  const log: Entry[] = [entry(1, hoursIn(0), openBody(longRoute, 'B-1', 4))];
  for (const [hours, body] of bodies) log.push(entry(log.length + 1, hoursIn(hours), body));
  return { stays: staysOf(longRoute, log), state: replay(longRoute, log) as BatchState };
};
const dry: EntryBody = { type: 'end', operation: 'dry', because: 'dry by the other meter' };
const start = (pieces: number[]): EntryBody => ({ type: 'start', pieces });

describe('the span two tellings of a batch differ in', () => {
  it('is none where nothing moved, also when something else was noted', () => {
    const read: EntryBody = { type: 'read', valuesPct: [7.1] };
    expect(changedSpan(tell([30, dry]), tell([20, read], [30, dry]))).toBeNull();
  });

  it('goes on from an entry that was added at the end', () => {
    expect(changedSpan(tell([30, dry]), tell([30, dry], [40, start([1])]))).toEqual({
      fromMs: hoursIn(40),
      toMs: Infinity,
    });
  });

  it('ends where both tell the same again: a start told as two hours later', () => {
    const done: [number, EntryBody] = [50, { type: 'done', because: 'it is right' }];
    expect(
      changedSpan(tell([30, dry], [40, start([1])], done), tell([30, dry], [42, start([1])], done)),
    ).toEqual({ fromMs: hoursIn(40), toMs: hoursIn(42) });
  });

  it('is all of a batch that was not there before', () => {
    expect(changedSpan({ stays: [], state: null }, tell())).toEqual({ fromMs: hoursIn(0), toMs: Infinity });
  });
});
