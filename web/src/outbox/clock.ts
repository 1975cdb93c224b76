/** Factory time less this device's clock, as the server last told it; null: it never did. */
const PLACE = 'ample-crane.clock-offset';
let offset: number | null = keptOffset();

function keptOffset(): number | null {
  const kept = Number(globalThis.localStorage?.getItem(PLACE) ?? NaN);
  return Number.isFinite(kept) ? kept : null;
}

/** The server told its time. */
export function hearFactoryClock(nowMs: number, heardMs = Date.now()): void {
  offset = nowMs - heardMs;
  globalThis.localStorage?.setItem(PLACE, String(offset));
}

export const factoryOffsetMs = (): number | null => offset;
