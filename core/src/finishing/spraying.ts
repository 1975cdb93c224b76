import { spanWords } from '../time/span-words.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import type { BoothHour, BoothJudgement } from './booth.ts';

/** A booth's air as whoever wants to spray there meets it: now, and hour by hour as it is forecast. */
export interface BoothAhead {
  name: string;
  /** What its air says now; null: nobody logs it. */
  judged: Pick<BoothJudgement, 'verdict' | 'against'> | null;
  ahead: readonly Pick<BoothHour, 'atMs' | 'verdict' | 'against'>[];
}

/** Hours on end in which one may spray, or may not. */
interface Stretch {
  fromMs: number;
  toMs: number;
  opens: boolean;
  /** What stands against spraying then; empty while one may. */
  against: readonly string[];
}

/** When a booth can be sprayed in, from now on. */
export interface BoothOpenings {
  name: string;
  nowMs: number;
  /** One after the other from now on; an opening that lasts as long as the forecast has no end. */
  stretches: readonly Stretch[];
}

/** When spraying that takes a while can be done in one go. */
export interface SprayWindow {
  /** It may begin now or at the moment asked for, or not before this; null: in no opening forecast. */
  fromMs: number | null;
  /** The air closes the booth then, so it must be done; null: not within the hours forecast. */
  closesMs: number | null;
  /** What is forecast to close it then. */
  closesAgainst: readonly string[];
  /** What keeps it from beginning when it was asked for, and since when that stands; null: nothing. */
  kept: { sinceMs: number; against: readonly string[] } | null;
  /** Minutes of spraying that fit from the moment asked for on; Infinity: no end is forecast. */
  openMinutes: number;
}

/** The openings of a booth; undefined where nobody logs its air. */
export function boothOpenings({ name, judged, ahead }: BoothAhead, nowMs: number): BoothOpenings | undefined {
  if (!judged) return undefined;
  const now = { fromMs: nowMs, toMs: ahead[0]?.atMs ?? nowMs + HOUR_MS, ...judged };
  const hours = ahead.map(({ atMs, ...hour }) => ({ fromMs: atMs, toMs: atMs + HOUR_MS, ...hour }));
  const stretches: Stretch[] = [];
  for (const { fromMs, toMs, verdict, against } of [now, ...hours]) {
    const opens = verdict === 'spray';
    const last = stretches.at(-1);
    if (last?.opens === opens) last.toMs = toMs;
    else stretches.push({ fromMs, toMs, opens, against: opens ? [] : against });
  }
  const last = stretches.at(-1);
  if (last?.opens) last.toMs = Infinity;
  return { name, nowMs, stretches };
}

/**
 * When so many minutes of spraying can be done in one go, at the moment asked for or after it. Of what comes after the last hour forecast
 * nothing is known: what is asked for then is not held.
 *
 * @param minutes of spraying, 0 or more
 * @param askedMs when all else would let it begin; now, if that is past
 */
export function sprayWindow(
  { nowMs, stretches }: BoothOpenings,
  minutes: number,
  askedMs: number,
): SprayWindow {
  const soonestMs = Math.max(nowMs, askedMs);
  const left = stretches.filter(({ toMs }) => toMs > soonestMs);
  const [first] = left;
  if (!first) return { ...NO_END, fromMs: soonestMs };
  const beginsIn = ({ fromMs }: Stretch): number => Math.max(soonestMs, fromMs);
  const at = left.findIndex((one) => one.opens && one.toMs - beginsIn(one) >= minutes * MINUTE_MS);
  const found = left[at];
  const shut = at === 0 ? undefined : left.find(({ opens }) => !opens);
  return {
    fromMs: found ? beginsIn(found) : null,
    closesMs: found && found.toMs < Infinity ? found.toMs : null,
    closesAgainst: (found && left[at + 1]?.against) ?? [],
    kept: shut ? { sinceMs: shut.fromMs, against: shut.against } : null,
    openMinutes: first.opens ? (first.toMs - soonestMs) / MINUTE_MS : 0,
  };
}

const NO_END: Omit<SprayWindow, 'fromMs'> = {
  closesMs: null,
  closesAgainst: [],
  kept: null,
  openMinutes: Infinity,
};

/** A coat that waits to be laid in a booth. */
export interface NextCoat {
  batch: string;
  pieces: number;
  number: number;
  /** Of spraying, for all its pieces. */
  minutes: number;
  /** When the coat below lets it be laid; null: nobody can say. */
  fromMs: number | null;
}

/** What to spray before a booth closes, and how many of its pieces can be done by then. */
export interface SprayFirst extends NextCoat {
  fit: number;
}

/**
 * How many pieces of a coat can be done in so many minutes, each taking its share of all.
 *
 * @param leftMinutes 0 or more, or Infinity
 */
export const piecesThatFit = (
  { pieces, minutes }: Pick<NextCoat, 'pieces' | 'minutes'>,
  leftMinutes: number,
): number => (leftMinutes >= minutes ? pieces : Math.floor((pieces * leftMinutes) / minutes));

/**
 * The coat to lay first in a booth that closes: the first that can be laid on all its pieces by then; else the first of which something
 * can be; else the first that would be due. Null: none is due before.
 *
 * @param coats most urgent first
 */
export function sprayFirst(coats: readonly NextCoat[], closesMs: number, nowMs: number): SprayFirst | null {
  const due = coats.flatMap((coat) => {
    const leftMs = closesMs - Math.max(nowMs, coat.fromMs ?? closesMs);
    return leftMs > 0 ? [{ ...coat, fit: piecesThatFit(coat, leftMs / MINUTE_MS) }] : [];
  });
  return due.find(({ fit, pieces }) => fit === pieces) ?? due.find(({ fit }) => fit > 0) ?? due[0] ?? null;
}

/**
 * Says what to spray before a booth closes, after a sentence that says when.
 *
 * @param time an instant in the factory's words
 */
export function sprayFirstWords(first: SprayFirst, nowMs: number, time: (ms: number) => string): string {
  const { batch, number, minutes, pieces, fit, fromMs } = first;
  const takes = `takes ${spanWords(minutes / 60)}`;
  const from = fromMs !== null && fromMs >= nowMs + MINUTE_MS ? `, from ${time(fromMs)},` : '';
  if (fit === pieces)
    return `Spray ${batch} first${from.slice(0, -1)}: its coat ${number} ${takes} and fits before that.`;
  return fit > 0
    ? `Coat ${number} of ${batch}${from} ${takes}: ${fit} of its ${pieces} pieces fit before that.`
    : `Coat ${number} of ${batch}${from} ${takes} and does not fit before that: hold it.`;
}
