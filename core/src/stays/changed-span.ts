import { cameMs, goesOn, hasLeft, type BatchState } from '../ledger/index.ts';
import type { Stay } from './stays.ts';

/** What a batch was in: the stays that ended, and its state for what has not. */
export interface Told {
  stays: readonly Stay[];
  state: BatchState | null;
}

export interface ChangedSpan {
  fromMs: number;
  /** Infinity: until now, and on. */
  toMs: number;
}

interface Stretch extends ChangedSpan {
  key: string;
}

/**
 * The span within which two tellings of one batch differ in what a piece was in (operation and status): whoever summed up days
 * sums up those of the span anew. Null when they do not differ.
 */
export function changedSpan(before: Told, after: Told): ChangedSpan | null {
  const wanted = mayDiffer(before, after);
  const [was, is] = [stretchesOf(before, wanted), stretchesOf(after, wanted)];
  const spans = [...wanted].flatMap((position) =>
    differences(was.get(position) ?? [], is.get(position) ?? []),
  );
  if (spans.length === 0) return null;
  return {
    fromMs: Math.min(...spans.map(({ fromMs }) => fromMs)),
    toMs: Math.max(...spans.map(({ toMs }) => toMs)),
  };
}

/** Places of which stays are told, or whose pieces are not in what they were in: of a large rack most filings move few. */
function mayDiffer(before: Told, after: Told): Set<number> {
  const was = before.state?.pieces ?? [];
  const is = after.state?.pieces ?? [];
  const told = [...before.stays, ...after.stays].flatMap(({ positions }) => positions);
  const moved = (is.length < was.length ? was : is).filter((_, i) => {
    const [one, other] = [was[i], is[i]];
    return !one || !other || (one !== other && !goesOn(one, other));
  });
  return new Set([...told, ...moved.map(({ position }) => position)]);
}

/** By place on the rack: what each piece was in, one after the other. */
function stretchesOf({ stays, state }: Told, wanted: ReadonlySet<number>): Map<number, Stretch[]> {
  const all = new Map<number, Stretch[]>([...wanted].map((position) => [position, []]));
  const add = (position: number, stretch: Stretch): void => void all.get(position)?.push(stretch);
  for (const { positions, operation, status, fromMs, toMs } of stays)
    for (const position of positions) add(position, { key: `${operation} ${status}`, fromMs, toMs });
  for (const piece of state?.pieces ?? [])
    if (wanted.has(piece.position) && !hasLeft(piece))
      add(piece.position, {
        ...{ key: `${piece.operation} ${piece.standing}`, fromMs: cameMs(piece) },
        toMs: Infinity,
      });
  return all;
}

function differences(was: readonly Stretch[], is: readonly Stretch[]): ChangedSpan[] {
  const at = (stretches: readonly Stretch[], ms: number): string | undefined =>
    stretches.find(({ fromMs, toMs }) => fromMs <= ms && ms < toMs)?.key;
  const bounds = [...new Set([...was, ...is].flatMap(({ fromMs, toMs }) => [fromMs, toMs]))].sort(
    (a, b) => a - b,
  );
  return bounds.slice(0, -1).flatMap((fromMs, i) => {
    const toMs = bounds[i + 1] ?? Infinity;
    return at(was, fromMs) === at(is, fromMs) ? [] : [{ fromMs, toMs }];
  });
}
