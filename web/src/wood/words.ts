import { grainOf, type DryingOutlook } from '@ample-crane/core';
import { sayTime } from '../app/time.ts';
import type { VerdictTone } from '../devices/Verdict.tsx';
import type { LotSummary, Outlook } from './queries.ts';

const HOUR_MS = 3_600_000;

export const pct = (value: number): string => value.toFixed(1);

/** An outlook as it comes over the wire: no infinity, and 'never' apart. */
export function outlookOf(seen: { outlook: Outlook | null; never: boolean }): DryingOutlook | 'never' | null {
  if (seen.never) return 'never';
  return seen.outlook && { ...seen.outlook, high90: seen.outlook.high90 ?? Infinity };
}

/** When the wood is ready, with its range, in words. */
export function readyWords(
  outlook: DryingOutlook | 'never' | null,
  { nowMs, zone, emcPct, highPct }: { nowMs: number; zone: string; emcPct: number | null; highPct: number },
): string {
  if (outlook === null) return 'No date yet: it needs a reading and the room’s air.';
  if (outlook === 'never') {
    const air = emcPct === null ? '' : ` Its air would take the wood to ${pct(emcPct)} %;`;
    return `Not in this room.${air} the gate asks ${pct(highPct)} % or less.`;
  }
  if (outlook.median === 0) return 'By the forecast it is there now.';
  const rangeMs = (outlook.high90 - outlook.low90) * HOUR_MS;
  const at = (hours: number): string => sayTime(nowMs + hours * HOUR_MS, zone, nowMs, rangeMs);
  const until = Number.isFinite(outlook.high90) ? `and ${at(outlook.high90)}` : 'and much later';
  return `Ready about ${at(outlook.median)}, nine times in ten between ${at(outlook.low90)} ${until}.`;
}

/** Days in a few words: for lists. */
export function soonWords(lot: Pick<LotSummary, 'outlook' | 'never' | 'stacked'>): string {
  if (lot.stacked === 0) return '';
  if (lot.never) return 'not in this room';
  if (!lot.outlook) return 'no date yet';
  const { median, low90, high90 } = lot.outlook;
  if (median === 0) return 'by the forecast, now';
  const digits = grainOf(((high90 ?? Infinity) - low90) * HOUR_MS) === 'hour' ? 1 : 0;
  const days = (hours: number | null): string => (hours === null ? '…' : (hours / 24).toFixed(digits));
  return `in ${days(median)} days (${days(low90)}–${days(high90)})`;
}

export const toneOf = (verdict: LotSummary['verdict']): VerdictTone =>
  verdict === 'pass' ? 'good' : verdict === 'reject' ? 'bad' : verdict === 'wait' ? 'hold' : 'wait';
