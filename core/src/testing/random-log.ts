import fc from 'fast-check';
import { applyEntry, applyUndo, type Entry, type EntryBody } from '../entries/index.ts';
import { isRefusal, type BatchState } from '../ledger/index.ts';
import { entry, hoursIn, longRoute, openBody } from './tarrow.ts';

const operation = fc.oneof(
  { weight: 6, arbitrary: fc.constant(undefined) },
  { weight: 1, arbitrary: fc.constantFrom(...longRoute.operations.map((o) => o.key), 'nowhere') },
);
const selection = fc.record({
  operation,
  count: fc.option(fc.integer({ min: -1, max: 14 }), { nil: undefined }),
});
const because = fc.constantFrom(undefined, 'the customer waits');

/** Entries of every kind, sensible and not. */
const body: fc.Arbitrary<EntryBody> = fc.oneof(
  selection.map((s) => ({ type: 'start' as const, ...s })),
  fc
    .tuple(selection, because)
    .map(([s, b]) => ({ type: 'done' as const, ...s, ...(b ? { because: b } : {}) })),
  fc
    .tuple(selection, because)
    .map(([s, b]) => ({ type: 'end' as const, ...s, ...(b ? { because: b } : {}) })),
  selection.map((s) => ({ type: 'scrap' as const, ...s, reason: 'tear-out' })),
  selection.map((s) => ({ type: 'rework' as const, ...s, reason: 'run' })),
  selection.map((s) => ({ type: 'hold' as const, ...s, reason: 'look again' })),
  selection.map((s) => ({ type: 'ship' as const, ...s })),
  fc.constant<EntryBody>({ type: 'coat' }),
  selection.map((s) => ({ type: 'sand' as const, ...s, removalUm: 5 })),
  fc.tuple(selection, fc.boolean()).map(([s, passed]) => ({ type: 'mark' as const, ...s, passed })),
  selection.map((s) => ({ type: 'age' as const, ...s, to: 'cold' as const })),
  selection.map((s) => ({ type: 'rework' as const, ...s, reason: 'scrape slip', rest: 'waits' as const })),
  fc
    .array(fc.double({ min: 4, max: 12, noNaN: true }), { minLength: 1, maxLength: 12 })
    .map((valuesPct) => ({ type: 'read' as const, valuesPct })),
  fc.constant<EntryBody>({ type: 'measure', valuesMm: [1.8] }),
);
const undo = fc.integer({ min: 1, max: 30 }).map((seq) => ({ type: 'undo' as const, voids: [seq] }));

export interface Run {
  log: Entry[];
  state: BatchState | null;
  refused: number;
}

/** Files a sequence as the server does: what is refused leaves no trace. */
export function file(bodies: (EntryBody | { type: 'undo'; voids: number[] })[]): Run {
  const run: Run = { log: [], state: null, refused: 0 };
  [openBody(longRoute, 'B-1'), ...bodies].forEach((next, index) => {
    const candidate = entry(run.log.length + 1, hoursIn(index * 7), next);
    const outcome =
      next.type === 'undo'
        ? applyUndo(longRoute, run.log, { ...candidate, body: next })
        : applyEntry(run.state, longRoute, candidate);
    if (isRefusal(outcome)) {
      run.refused += 1;
      return;
    }
    run.log.push(candidate);
    run.state = outcome.state;
  });
  return run;
}

/** What people might file on one batch, sensible and not, with corrections. */
export const sequences = fc.array(fc.oneof({ weight: 9, arbitrary: body }, { weight: 1, arbitrary: undo }), {
  minLength: 20,
  maxLength: 120,
});
