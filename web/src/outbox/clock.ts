/** Factory time less this device's clock, as the server told it; it may be out by half of `spreadMs`. */
interface Told {
  offsetMs: number;
  spreadMs: number;
  atMs: number;
}
/** All pages of a device know the same: what is touched in two of them stands in the order in which it was touched. */
const PLACE = 'ample-crane.clock-offset';
/** Clocks drift: what was heard longer ago than this gives way to what is heard now. */
const GOOD_FOR_MS = 600_000;
let own: Told | null = null;

function known(): Told | null {
  try {
    const kept = JSON.parse(globalThis.localStorage?.getItem(PLACE) ?? 'null') as Partial<Told> | null;
    const { offsetMs, spreadMs, atMs } = kept ?? {};
    if (Number.isFinite(offsetMs) && Number.isFinite(spreadMs) && Number.isFinite(atMs)) return kept as Told;
  } catch {
    // What is kept there is no offset.
  }
  return own;
}

/** Whether what was told before still says more than what is heard now. */
function stands(told: Told, heard: Told): boolean {
  const recent = Math.abs(heard.atMs - told.atMs) < GOOD_FOR_MS;
  // Where the two cannot both be true, this device's clock was set anew.
  const agree = Math.abs(told.offsetMs - heard.offsetMs) <= (told.spreadMs + heard.spreadMs) / 2;
  return recent && agree && told.spreadMs < heard.spreadMs;
}

/**
 * The server told its time, asked at `askedMs` and heard at `heardMs`, both of this device: somewhere between the two. An answer
 * that was long on its way says less than one that was not, and does not replace it.
 */
export function hearFactoryClock(nowMs: number, askedMs: number, heardMs = Date.now()): void {
  const heard = { offsetMs: nowMs - (askedMs + heardMs) / 2, spreadMs: heardMs - askedMs, atMs: heardMs };
  const told = known();
  if (told && stands(told, heard)) return;
  own = heard;
  globalThis.localStorage?.setItem(PLACE, JSON.stringify(heard));
}

export const factoryOffsetMs = (): number | null => known()?.offsetMs ?? null;
