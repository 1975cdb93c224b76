/** A stretch in which something was worked on at a station (or by a skill, or lay in a room's places). */
export interface StationInterval {
  station: string;
  fromMs: number;
  /** Not before `fromMs`. */
  toMs: number;
}

/** A stretch of the window, and whose it is: the station that has been busy longest without a pause. */
export interface MomentarySpan extends StationInterval {
  /** The active period it is a part of. */
  period: StationInterval;
}

/** How much of a window a station paced it: alone, and while the pace went over to another. Shares of 1. */
export interface MomentaryShare {
  station: string;
  soleShare: number;
  shiftingShare: number;
}

/**
 * What lies over or against each other at one station as one: its active periods, in order of their beginnings.
 * @throws RangeError for an interval that ends before it begins, or is not finite
 */
export function activePeriods(intervals: readonly StationInterval[]): StationInterval[] {
  const byStation = new Map<string, StationInterval[]>();
  for (const interval of intervals.toSorted((a, b) => a.fromMs - b.fromMs)) {
    const { station, fromMs, toMs } = interval;
    if (!Number.isFinite(fromMs) || !Number.isFinite(toMs) || toMs < fromMs)
      throw new RangeError(`activePeriods: ${station} is busy from ${fromMs} to ${toMs}`);
    if (toMs === fromMs) continue;
    const own = byStation.get(station) ?? [];
    byStation.set(station, own);
    const last = own.at(-1);
    if (last && fromMs <= last.toMs) last.toMs = Math.max(last.toMs, toMs);
    else own.push({ station, fromMs, toMs });
  }
  return [...byStation.values()]
    .flat()
    .toSorted((a, b) => a.fromMs - b.fromMs || compare(a.station, b.station));
}

const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);
const lengthOf = ({ fromMs, toMs }: StationInterval): number => toMs - fromMs;

/** Of two active periods the longer one paces; of equals the one that began first, then by name. */
const paces = (a: StationInterval, b: StationInterval): number =>
  lengthOf(b) - lengthOf(a) || a.fromMs - b.fromMs || compare(a.station, b.station);

/**
 * Which station was the constraint at every moment: the one whose active period, from its beginning to its end, is the longest of
 * all that are active then. In order of time; where nothing was active there is no span.
 * Source: C. Roser, M. Nakano, M. Tanaka, "Shifting bottleneck detection", Winter Simulation Conference 2002.
 */
export function momentarySpans(intervals: readonly StationInterval[]): MomentarySpan[] {
  const periods = activePeriods(intervals);
  const moments = [...new Set(periods.flatMap(({ fromMs, toMs }) => [fromMs, toMs]))].toSorted(
    (a, b) => a - b,
  );
  const active: StationInterval[] = [];
  const spans: MomentarySpan[] = [];
  let next = 0;
  for (const [i, fromMs] of moments.entries()) {
    const toMs = moments[i + 1];
    if (toMs === undefined) break;
    for (let period = periods[next]; period && period.fromMs <= fromMs; period = periods[(next += 1)])
      active.push(period);
    for (let k = active.length - 1; k >= 0; k -= 1) if ((active[k]?.toMs ?? 0) <= fromMs) active.splice(k, 1);
    const period = active.reduce<StationInterval | undefined>(
      (best, one) => (best && paces(best, one) <= 0 ? best : one),
      undefined,
    );
    if (!period) continue;
    const last = spans.at(-1);
    if (last && last.period === period && last.toMs === fromMs) last.toMs = toMs;
    else spans.push({ station: period.station, fromMs, toMs, period });
  }
  return spans;
}

/**
 * How much of the time from the first to the last activity each station was the momentary constraint: alone (`soleShare`), and
 * while the active periods of it and of the one before or after it lay over each other (`shiftingShare`, counted for both). Greatest
 * first; stations that never paced are there with nothing.
 * Source: as for `momentarySpans`.
 */
export function momentaryConstraint(intervals: readonly StationInterval[]): MomentaryShare[] {
  const spans = momentarySpans(intervals);
  const [first] = spans;
  const wholeMs = first ? Math.max(...spans.map(({ toMs }) => toMs)) - first.fromMs : 0;
  const shares = new Map<string, { soleMs: number; overlaps: StationInterval[] }>();
  const of = (station: string): { soleMs: number; overlaps: StationInterval[] } => {
    const share = shares.get(station) ?? { soleMs: 0, overlaps: [] };
    shares.set(station, share);
    return share;
  };
  for (const { station } of intervals) of(station);
  const shifts = spans.map((span, i) => {
    const after = spans[i + 1];
    // Where there was a pause, nothing went over.
    if (!after || after.fromMs !== span.toMs) return undefined;
    const [fromMs, toMs] = [after.period.fromMs, span.period.toMs];
    return toMs > fromMs ? { fromMs, toMs } : undefined;
  });
  for (const [i, span] of spans.entries()) {
    const over = [shifts[i - 1], shifts[i]].flatMap((shift) => shift ?? []);
    const covered = activePeriods(
      over.map(({ fromMs, toMs }) => ({
        station: span.station,
        fromMs: Math.min(Math.max(fromMs, span.fromMs), span.toMs),
        toMs: Math.max(Math.min(toMs, span.toMs), span.fromMs),
      })),
    ).reduce((sum, one) => sum + lengthOf(one), 0);
    const share = of(span.station);
    share.soleMs += lengthOf(span) - covered;
    share.overlaps.push(...over.map((shift) => ({ station: span.station, ...shift })));
  }
  return [...shares]
    .map(([station, { soleMs, overlaps }]) => {
      const shiftingMs = activePeriods(overlaps).reduce((sum, one) => sum + lengthOf(one), 0);
      const share = (ms: number): number => (wholeMs > 0 ? ms / wholeMs : 0);
      return { station, soleShare: share(soleMs), shiftingShare: share(shiftingMs) };
    })
    .toSorted(
      (a, b) =>
        b.soleShare - a.soleShare || b.shiftingShare - a.shiftingShare || compare(a.station, b.station),
    );
}
