import { distance } from 'fastest-levenshtein';
import type { ChosenUnits } from '../units/chosen.ts';

/** The names a typed line may use. */
export interface Vocabulary {
  /** Codes of the open batches. */
  batches: readonly string[];
  stations: readonly { code: string; name: string }[];
  /** The operations a batch goes through; absent: none are known. */
  operationsOf?: (batch: string) => readonly { key: string; name: string }[];
  people?: readonly { code: string; name: string }[] | undefined;
  /** What whoever types measures in; absent: metric units. A number without a sign is then asked about, not believed. */
  units?: ChosenUnits | undefined;
}

/** Where something was done: a station, or an operation by its own name. */
export type Place = { station: string } | { operation: string };
export type PlaceMatch = Place | { ambiguous: string[] } | undefined;

/** The words of a name, small and without signs, as a log line may say them. */
export const wordsOf = (name: string): string[] =>
  name
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean);

interface NamedPlace {
  place: Place;
  code: string;
  name: string;
}

function placesKnown({ stations, operationsOf }: Vocabulary, batch: string | undefined): NamedPlace[] {
  const operations = batch === undefined ? [] : (operationsOf?.(batch) ?? []);
  return [
    ...stations.map(({ code, name }) => ({ place: { station: code }, code, name })),
    // Operations go by their names: their keys are nobody's words, and some are beginnings of stations.
    ...operations.map(({ key, name }) => ({ place: { operation: key }, code: name.toLowerCase(), name })),
  ];
}

/** The place whose whole name or code these words are; a station before an operation of the same name. */
export function matchWholePlace(
  said: readonly string[],
  vocabulary: Vocabulary,
  batch: string | undefined,
): Place | undefined {
  const given = said.flatMap(wordsOf).join(' ');
  if (given === '') return undefined;
  return placesKnown(vocabulary, batch).find(
    ({ code, name }) => code === said.join('-').toLowerCase() || wordsOf(name).join(' ') === given,
  )?.place;
}

/**
 * The place meant by one or more words: a station by its code or name, an operation of the batch by its own, or words that begin
 * the words of such a name in order ('bod', 'body mill', 'b mill'). A whole name wins over beginnings, a station over an
 * operation that fits as well; two that fit equally are ambiguous.
 */
export function matchPlace(
  said: readonly string[],
  vocabulary: Vocabulary,
  batch: string | undefined,
): PlaceMatch {
  const given = said.flatMap(wordsOf);
  if (given.length === 0) return undefined;
  const whole = matchWholePlace(said, vocabulary, batch);
  if (whole) return whole;
  const fitting = placesKnown(vocabulary, batch).filter(({ name }) => beginsInOrder(given, wordsOf(name)));
  const atStations = fitting.filter(({ place }) => 'station' in place);
  const meant = atStations.length > 0 ? atStations : fitting;
  if (meant.length === 1 && meant[0]) return meant[0].place;
  return meant.length > 1 ? { ambiguous: meant.map(({ name }) => name) } : undefined;
}

function beginsInOrder(given: readonly string[], name: readonly string[]): boolean {
  let from = 0;
  return given.every((word) => {
    const found = name.findIndex((part, index) => index >= from && part.startsWith(word));
    from = found + 1;
    return found >= 0;
  });
}

export interface BatchMatch {
  code: string;
  places?: number[];
}

/** The batch meant by a word, the dash and capitals being optional; with the places named after a slash. */
export function matchBatch(word: string, vocabulary: Vocabulary): BatchMatch | undefined {
  const [head = '', told] = word.split('/');
  const plain = (code: string): string => code.toLowerCase().replace('-', '');
  const code = vocabulary.batches.find((candidate) => plain(candidate) === plain(head));
  if (!code) return undefined;
  if (told === undefined) return { code };
  const places = placesOf(told);
  return places ? { code, places } : undefined;
}

/** More places than a rack has pieces were never meant. */
const MOST_PLACES = 500;

/** '3', '3,5', '3-5', '3,5,7-9' as places; undefined: none of these. */
export function placesOf(word: string): number[] | undefined {
  const places = word
    .replace(/^\//, '')
    .split(',')
    .flatMap((part) => {
      const range = /^(\d+)-(\d+)$/.exec(part);
      if (!range) return [/^\d+$/.test(part) ? Number(part) : NaN];
      const [from, to] = [Number(range[1]), Number(range[2])];
      return from <= to && to - from < MOST_PLACES
        ? Array.from({ length: to - from + 1 }, (_, i) => from + i)
        : [NaN];
    });
  return places.length > 0 && places.every((place) => Number.isInteger(place) && place > 0)
    ? [...new Set(places)]
    : undefined;
}

/** Does a word look like a batch code at all? */
export const looksLikeBatch = (word: string): boolean => /^[a-z]-?\d+(\/[\d,-]*)?$/i.test(word);

export type PersonMatch = { code: string } | { ambiguous: string[] } | undefined;

/** The person meant: by code, whole name, first name, last name or initials. */
export function matchPerson(said: string, { people = [] }: Vocabulary): PersonMatch {
  const given = wordsOf(said).join(' ');
  const exact = people.find(
    ({ code, name }) => code === said.toLowerCase() || wordsOf(name).join(' ') === given,
  );
  if (exact) return { code: exact.code };
  const fitting = people.filter(({ name }) => {
    const names = wordsOf(name);
    const initials = names.map((part) => part.charAt(0)).join('');
    return names.includes(given) || initials === given.replace(/ /g, '');
  });
  if (fitting.length === 1 && fitting[0]) return { code: fitting[0].code };
  return fitting.length > 1 ? { ambiguous: fitting.map(({ name }) => name) } : undefined;
}

/** A word is near another when at most one letter in three must change. */
const NEAR_SHARE = 1 / 3;
const MOST_OFFERED = 2;

/** Letters typed in the wrong order are one slip, not two. */
const slips = (one: string, other: string): number =>
  [...one].sort().join('') === [...other].sort().join('') ? 1 : distance(one, other);

/** The known words nearest to one that is not known, nearest first; empty when none is near. */
export function nearestTo(said: string, known: readonly string[]): string[] {
  const word = said.toLowerCase();
  return [...new Set(known.map((one) => one.toLowerCase()))]
    .map((one) => ({ one, far: slips(word, one) }))
    .filter(({ one, far }) => far <= Math.ceil(Math.min(word.length, one.length) * NEAR_SHARE))
    .sort((a, b) => a.far - b.far || a.one.localeCompare(b.one))
    .slice(0, MOST_OFFERED)
    .map(({ one }) => one);
}
