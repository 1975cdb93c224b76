import { summarise } from '../stats/descriptive.ts';

/** Moisture that wood must show before it may go on, in percent of oven-dry mass, both ends included. */
export interface MoistureWindow {
  lowPct: number;
  highPct: number;
}

/** What the gate says: pass, wait (too wet, it will dry), sort (some pass now), reject (too dry to use as it is). */
export type GateVerdict = 'pass' | 'wait' | 'sort' | 'reject' | 'unread';

export interface MoistureJudgement {
  verdict: GateVerdict;
  count: number;
  meanPct: number;
  sdPct: number;
  /** Readings outside the window, 0–100. */
  shareOutsidePct: number;
  over: number;
  under: number;
  /** 1-based places in the list of readings that lie inside the window. */
  inside: number[];
  /** Readings a pin meter does not resolve (below 5 % or above 30 %): kept, flagged. */
  doubtful: number;
}

/** A pin meter resolves 5 % up to fibre saturation, about 30 %. DOMAIN §3. */
export const METER_RESOLVES = { lowPct: 5, highPct: 30 };
/** Nothing a meter can say lies outside this; it is a slip of the hand. */
export const MOISTURE_POSSIBLE = { lowPct: 0, highPct: 100 };
/** Fewer readings than this say nothing about a rack. Default, DOMAIN §3. */
export const FEWEST_READINGS = 3;
/** Up to this share outside the window still passes when the mean is inside. Default. */
export const SHARE_ALLOWED_PCT = 0;

/**
 * A first moisture gate: number read, mean, spread and share outside a fixed window.
 * Passes when none lies outside, of at least FEWEST_READINGS or of every piece; sorts when some do and some do not.
 * @throws RangeError for a window that is upside down or a reading outside 0…100 %.
 */
export function judgeMoisture({
  readingsPct,
  window,
  complete = false,
}: {
  readingsPct: readonly number[];
  window: MoistureWindow;
  /** Every piece asked about was read: however few they are, they are no sample. */
  complete?: boolean;
}): MoistureJudgement {
  if (!(window.lowPct < window.highPct)) {
    throw new RangeError(`judgeMoisture: window must rise, got ${window.lowPct}–${window.highPct} %`);
  }
  for (const value of readingsPct) {
    if (!(value >= MOISTURE_POSSIBLE.lowPct && value <= MOISTURE_POSSIBLE.highPct)) {
      throw new RangeError(`judgeMoisture: readings must be 0…100 %, got ${value}`);
    }
  }
  if (readingsPct.length === 0) {
    return {
      verdict: 'unread',
      count: 0,
      meanPct: 0,
      sdPct: 0,
      shareOutsidePct: 0,
      over: 0,
      under: 0,
      inside: [],
      doubtful: 0,
    };
  }
  const { count, mean, sd } = summarise(readingsPct);
  const over = readingsPct.filter((value) => value > window.highPct).length;
  const under = readingsPct.filter((value) => value < window.lowPct).length;
  const inside = readingsPct.flatMap((value, i) =>
    value >= window.lowPct && value <= window.highPct ? [i + 1] : [],
  );
  const doubtful = readingsPct.filter((v) => v < METER_RESOLVES.lowPct || v > METER_RESOLVES.highPct).length;
  const shareOutsidePct = (100 * (over + under)) / count;
  const numbers = { count, meanPct: mean, sdPct: sd, shareOutsidePct, over, under, inside, doubtful };
  return { verdict: verdictOf(numbers, complete), ...numbers };
}

function verdictOf(numbers: Omit<MoistureJudgement, 'verdict'>, complete: boolean): GateVerdict {
  const { count, over, under, inside, shareOutsidePct } = numbers;
  if (count < FEWEST_READINGS && !complete) return 'unread';
  if (shareOutsidePct <= SHARE_ALLOWED_PCT) return 'pass';
  if (inside.length > 0) return 'sort';
  return over >= under ? 'wait' : 'reject';
}

const pct = (value: number): string => value.toFixed(1);

/** The verdict in one sentence with its numbers, as the floor reads it. */
export function gateSentence(judgement: MoistureJudgement, window: MoistureWindow): string {
  const { verdict, count, meanPct, over, under, inside } = judgement;
  const gate = `gate ${pct(window.lowPct)}–${pct(window.highPct)} %`;
  if (count === 0) return `Read it: no moisture readings yet, ${gate}.`;
  const numbers = `${count} read, mean ${pct(meanPct)} %, ${gate}`;
  const outside = [over > 0 ? `${over} over` : '', under > 0 ? `${under} under` : '']
    .filter(Boolean)
    .join(', ');
  const doubt =
    judgement.doubtful > 0 ? ` ${judgement.doubtful} outside what the meter resolves: read again.` : '';
  switch (verdict) {
    case 'unread':
      return `Read more: ${numbers}; at least ${FEWEST_READINGS} are needed.${doubt}`;
    case 'pass':
      return `Pass: ${numbers}; all inside.${doubt}`;
    case 'sort':
      return `Sort: ${numbers}; ${outside}, ${inside.length} would pass now.${doubt}`;
    case 'wait':
      return `Wait: ${numbers}; ${outside}.${doubt}`;
    case 'reject':
      return `Reject: ${numbers}; ${outside}, too dry to mill as it is.${doubt}`;
  }
}
