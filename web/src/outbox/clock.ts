/** Factory time less this device's clock, as the server told it; it may be out by half of `spreadMs`. */
interface Told {
  offsetMs: number;
  spreadMs: number;
  atMs: number;
}
const PLACE = 'ample-crane.clock-offset';
/** Clocks drift: what was heard longer ago than this gives way to what is heard now. */
const GOOD_FOR_MS = 600_000;
let offset: number | null = keptOffset();
let told: Told | null = null;

function keptOffset(): number | null {
  const kept = Number(globalThis.localStorage?.getItem(PLACE) ?? NaN);
  return Number.isFinite(kept) ? kept : null;
}

/**
 * The server told its time, asked at `askedMs` and heard at `heardMs`, both of this device: somewhere between the two. An answer
 * that was long on its way says less than one that was not, and does not replace it.
 */
export function hearFactoryClock(nowMs: number, askedMs: number, heardMs = Date.now()): void {
  const heard = { offsetMs: nowMs - (askedMs + heardMs) / 2, spreadMs: heardMs - askedMs, atMs: heardMs };
  if (told && told.spreadMs < heard.spreadMs && heard.atMs - told.atMs < GOOD_FOR_MS) return;
  told = heard;
  offset = heard.offsetMs;
  globalThis.localStorage?.setItem(PLACE, String(offset));
}

export const factoryOffsetMs = (): number | null => offset;
