import { hasLeft, pieceCode, type BatchState } from '../ledger/index.ts';
import type { JoinOperation } from '../route/index.ts';
import { limitsWords } from '../machining/check.ts';

/** The newest value of a check for each place it was told of; pieces that have left stay out. */
export function latestValues(state: BatchState, check: string): Map<number, number> {
  const here = new Set(state.pieces.filter((piece) => !hasLeft(piece)).map((piece) => piece.position));
  const values = new Map<number, number>();
  for (const set of state.checks ?? []) {
    if (set.check !== check) continue;
    set.positions.forEach((position, i) => {
      const value = set.values[i];
      if (value !== undefined && here.has(position)) values.set(position, value);
    });
  }
  return values;
}

/**
 * Pairs about to be joined whose newest measurements, with what was allowed for the wood when they were paired, are outside
 * the window: in one sentence; undefined when all fit.
 */
export function misfit(
  fit: NonNullable<JoinOperation['fit']>,
  host: BatchState,
  guest: BatchState,
  pairs: readonly { host: number; guest: number }[],
): string | undefined {
  const [pockets, tenons] = [latestValues(host, fit.hostCheck), latestValues(guest, fit.guestCheck)];
  const { low, high } = fit.windowMm;
  const wrong = pairs.flatMap((pair) => {
    const [pocket, tenon] = [pockets.get(pair.host), tenons.get(pair.guest)];
    if (pocket === undefined || tenon === undefined) return [];
    const partner = host.pieces.find(({ position }) => position === pair.host)?.partner;
    const mine = partner?.piece === pieceCode(guest.code, pair.guest);
    const allowedMm = mine ? (partner.allowedMm ?? 0) : 0;
    const gapMm = Math.round((pocket - tenon + allowedMm) * 1000) / 1000;
    return gapMm < low || gapMm > high ? [{ ...pair, gapMm }] : [];
  });
  const [first] = wrong;
  if (!first) return undefined;
  const names = `${pieceCode(host.code, first.host)} with ${pieceCode(guest.code, first.guest)}`;
  const more = wrong.length > 1 ? `, and ${wrong.length - 1} more do not fit` : '';
  const wanted = limitsWords({ lower: low, upper: high, unit: 'mm' });
  return `${names}: a gap of ${first.gapMm.toFixed(2)} mm, wanted is ${wanted}${more}`;
}
