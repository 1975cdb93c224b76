import type { StationInterval } from './active-periods.ts';

/** So long a change from one rack to the next takes at most; a longer pause is one. Default, 20 minutes of work. */
export const HAND_OVER_MS = 20 * 60_000;

/**
 * When a station or a skill could take no more: all its places were taken, or all who can were at work. With one place that is when
 * anything is worked on there; of several a single free one is no constraint. A pause no longer than a change of racks takes is none
 * where something was waiting all through it.
 * @param busy what was worked on there, a span for each place that was taken
 * @param waiting what waited for it
 * @throws RangeError for a capacity below 1
 */
export function saturated(options: {
  station: string;
  capacity: number;
  busy: readonly Omit<StationInterval, 'station'>[];
  waiting: readonly Omit<StationInterval, 'station'>[];
  handOverMs?: number;
}): StationInterval[] {
  const { station, capacity, busy, waiting, handOverMs = HAND_OVER_MS } = options;
  if (!(capacity >= 1)) throw new RangeError(`saturated: ${station} has ${capacity} places`);
  const full = atLeast(busy, capacity).map((span) => ({ station, ...span }));
  const waits = atLeast(waiting, 1);
  const merged: StationInterval[] = [];
  let w = 0;
  for (const span of full) {
    const last = merged.at(-1);
    if (last && span.fromMs - last.toMs <= handOverMs) {
      const pause = { fromMs: last.toMs, toMs: span.fromMs };
      while ((waits[w]?.toMs ?? Infinity) < pause.toMs) w += 1;
      const wait = waits[w];
      if (pause.toMs === pause.fromMs || (wait && wait.fromMs <= pause.fromMs)) {
        last.toMs = span.toMs;
        continue;
      }
    }
    merged.push({ ...span });
  }
  return merged;
}

/** When so many spans or more lay over each other, in order. */
function atLeast(
  spans: readonly { fromMs: number; toMs: number }[],
  many: number,
): { fromMs: number; toMs: number }[] {
  const steps = spans
    .flatMap(({ fromMs, toMs }) =>
      toMs > fromMs
        ? [
            { atMs: fromMs, by: 1 },
            { atMs: toMs, by: -1 },
          ]
        : [],
    )
    // One that ends as another begins leaves no pause between them.
    .toSorted((a, b) => a.atMs - b.atMs || b.by - a.by);
  const found: { fromMs: number; toMs: number }[] = [];
  let there = 0;
  let sinceMs: number | null = null;
  for (const { atMs, by } of steps) {
    there += by;
    if (there >= many && sinceMs === null) sinceMs = atMs;
    if (there < many && sinceMs !== null) {
      if (atMs > sinceMs) found.push({ fromMs: sinceMs, toMs: atMs });
      sinceMs = null;
    }
  }
  return found;
}
