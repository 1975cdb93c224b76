/** A line for news that does not open within this time does not hold a page up. */
const MOST_AWAITED_MS = 500;

let begun = false;
let askedBefore = false;
let begin: () => void = () => undefined;
const beginning = new Promise<void>((resolve) => (begin = resolve));
const longest = typeof EventSource === 'undefined' ? 0 : MOST_AWAITED_MS;
const late = new Promise<void>((resolve) => setTimeout(resolve, longest));

/**
 * Whoever asks the server waits for this: what is asked once news is listened to need not be asked again when a page opens. Resolves
 * at the latest after half a second.
 */
export async function listening(): Promise<void> {
  if (begun) return;
  await Promise.race([beginning, late]);
  askedBefore ||= !begun;
}

/** The line for news is open, or will not be for now. Gives whether something may have been missed before. */
export function beginListening(): boolean {
  const missed = begun || askedBefore;
  begun = true;
  begin();
  return missed;
}
