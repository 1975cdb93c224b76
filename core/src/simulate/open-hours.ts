/** A stretch in which the factory works, hours from the beginning of the run. */
export interface OpenSpan {
  from: number;
  to: number;
}

/** Adds hours of work across nights and closed days. */
export interface OpenHours {
  /** When so many hours of work that begin at a moment, or at the next opening, are done. */
  add(at: number, hours: number): number;
  /** The moment itself, or the next opening. */
  opening(at: number): number;
  /** Hours of work from the beginning to a moment. */
  worked(at: number): number;
}

/** A factory that never closes. */
export const ALWAYS_OPEN: OpenHours = {
  add: (at, hours) => at + hours,
  opening: (at) => at,
  worked: (at) => at,
};

/**
 * The hours of some spans, laid out once.
 * @param spans in order, none over another
 * @throws RangeError for spans that are not; asked about what lies behind the last of them, too
 */
export function openHours(spans: readonly OpenSpan[]): OpenHours {
  const from = Float64Array.from(spans, (span) => span.from);
  const to = Float64Array.from(spans, (span) => span.to);
  const before = new Float64Array(spans.length);
  for (let i = 0; i < spans.length; i += 1) {
    if (!((to[i] as number) > (from[i] as number)) || (i > 0 && (from[i] as number) < (to[i - 1] as number)))
      throw new RangeError('openHours: spans must rise, one after the other');
    if (i > 0) before[i] = (before[i - 1] as number) + (to[i - 1] as number) - (from[i - 1] as number);
  }
  let hint = 0;
  /** The first span that ends after a moment. Time mostly goes on: the last answer is tried first. */
  const spanAt = (at: number): number => {
    if (hint >= spans.length || (hint > 0 && (to[hint - 1] as number) > at)) hint = 0;
    while (hint < spans.length && (to[hint] as number) <= at) hint += 1;
    if (hint === spans.length) throw new RangeError(`openHours: nothing is open after ${at} h`);
    return hint;
  };
  return {
    opening: (at) => Math.max(at, from[spanAt(at)] as number),
    worked: (at) => {
      if (spans.length === 0 || at >= (to[spans.length - 1] as number))
        return spans.length === 0
          ? 0
          : (before[spans.length - 1] as number) +
              (to[spans.length - 1] as number) -
              (from[spans.length - 1] as number);
      const i = spanAt(at);
      return (before[i] as number) + Math.max(0, at - (from[i] as number));
    },
    add: (at, hours) => {
      let i = spanAt(at);
      let begin = Math.max(at, from[i] as number);
      let left = hours;
      while (begin + left > (to[i] as number)) {
        left -= (to[i] as number) - begin;
        i += 1;
        if (i === spans.length) throw new RangeError(`openHours: the work goes on after the last opening`);
        begin = from[i] as number;
      }
      return begin + left;
    },
  };
}
