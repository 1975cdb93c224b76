/** The names a typed line may use. */
export interface Vocabulary {
  /** Codes of the open batches. */
  batches: readonly string[];
  stations: readonly { code: string; name: string }[];
}

export type StationMatch = { code: string } | { ambiguous: string[] } | undefined;

const wordsOf = (name: string): string[] =>
  name
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter(Boolean);

/**
 * The station meant by one or more words: its code, its name, or words that begin the words of its name in order
 * ('bod', 'body mill', 'b mill'). A whole name wins over beginnings; two stations that fit equally are ambiguous.
 */
export function matchStation(said: readonly string[], vocabulary: Vocabulary): StationMatch {
  const given = said.flatMap(wordsOf);
  if (given.length === 0) return undefined;
  const whole = vocabulary.stations.find(
    (station) =>
      station.code === said.join('-').toLowerCase() || wordsOf(station.name).join(' ') === given.join(' '),
  );
  if (whole) return { code: whole.code };
  const fitting = vocabulary.stations.filter((station) => beginsInOrder(given, wordsOf(station.name)));
  if (fitting.length === 1 && fitting[0]) return { code: fitting[0].code };
  return fitting.length > 1 ? { ambiguous: fitting.map((station) => station.name) } : undefined;
}

function beginsInOrder(given: readonly string[], name: readonly string[]): boolean {
  let from = 0;
  return given.every((word) => {
    const found = name.findIndex((part, index) => index >= from && part.startsWith(word));
    from = found + 1;
    return found >= 0;
  });
}

/** The batch meant by a word, the dash and capitals being optional; with the places named after a slash. */
export function matchBatch(
  word: string,
  vocabulary: Vocabulary,
): { code: string; places?: number[] } | undefined {
  const [head = '', places] = word.split('/');
  const plain = (code: string): string => code.toLowerCase().replace('-', '');
  const code = vocabulary.batches.find((candidate) => plain(candidate) === plain(head));
  if (!code) return undefined;
  if (places === undefined) return { code };
  const numbers = places.split(',').map(Number);
  return numbers.every((n) => Number.isInteger(n) && n > 0) ? { code, places: numbers } : undefined;
}

/** Does a word look like a batch code at all? */
export const looksLikeBatch = (word: string): boolean => /^[a-z]-?\d+(\/[\d,]*)?$/i.test(word);
