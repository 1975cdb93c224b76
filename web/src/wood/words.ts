import { grainOf, type DryingOutlook } from '@ample-crane/core';
import { sayTime } from '../shared/time.ts';
import type { VerdictTone } from '../devices/Verdict.tsx';
import type { Choice, LotSummary, Outlook, Room } from './queries.ts';

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
  const one = days(median) === '1';
  return `in ${days(median)} ${one ? 'day' : 'days'} (${days(low90)}–${days(high90)})`;
}

/** Dates go by the usual air of a room: said while it has left it. Nothing where there is no date, or the room holds its air. */
export function ifItComesBack(
  { outlook }: { outlook: { median: number } | null },
  room: Pick<Room, 'drift'> | undefined,
): string | null {
  if (!room?.drift || !outlook || outlook.median === 0) return null;
  return `if the room, too ${room.drift.damp ? 'damp' : 'dry'} now, comes back`;
}

export const toneOf = (verdict: LotSummary['verdict']): VerdictTone =>
  verdict === 'pass' ? 'good' : verdict === 'reject' ? 'bad' : verdict === 'wait' ? 'hold' : 'wait';

export const kg = (value: number): string => value.toFixed(2);

/** Which blanks a rack should take, and what is missing. */
export function choiceWords({ batch, chosen, demand, wished, wanting }: Choice): string {
  const missing = missingOf(chosen);
  const chambered = chosen.chosen.filter(({ chamberKg }) => chamberKg > 0).length;
  if (wanting === 0) return `${batch} has all its blanks.`;
  if (chosen.chosen.length === 0) return `No blank in stock fits ${batch}: ${missing} are missing.`;
  const usual = chosen.chosen.filter(({ piece }) => demand.pieces.includes(piece));
  const weights = usual.map(({ finishedKg }) => finishedKg);
  const range =
    weights.length > 0
      ? `${kg(Math.min(...weights))}–${kg(Math.max(...weights))} kg finished, wanted ${windowWords(demand)}`
      : '';
  const own = wished.map((wish) => wishWords(wish, chosen));
  return `Take these ${chosen.chosen.length}: ${[range, ...own].filter(Boolean).join('; ')}${chambered > 0 ? `, ${chambered} to be chambered` : ''}${missing > 0 ? `; ${missing} still missing` : ''}.`;
}

type Wish = Choice['wished'][number];

/** 'O-12/1 3.15 kg, wished 3.00–3.20' */
const wishWords = (wish: Wish, { chosen }: Choice['chosen']): string => {
  const found = chosen.find(({ piece }) => wish.pieces.includes(piece));
  return found
    ? `${wish.line} ${kg(found.finishedKg)} kg, wished ${windowWords(wish)}`
    : `no blank for ${wish.line}, wished ${windowWords(wish)} kg`;
};

export const windowWords = ({ finishedKg: { low, high } }: Pick<Wish, 'finishedKg'>): string =>
  `${kg(low)}–${kg(high)}`;

/** How many pieces no blank is left for. */
export const missingOf = ({ missing }: Choice['chosen']): number =>
  missing.reduce((sum, { pieces }) => sum + pieces.length, 0);

/** What the chosen blanks are: '12 book-matched pairs, some to figured, light, 7.1–7.6 % moisture'. */
export function chosenWords({ chosen, units }: Choice): string {
  const taken = chosen.chosen.flatMap(({ blank }) => units.find(({ id }) => id === blank) ?? []);
  const pairs = taken.filter(({ blanks }) => blanks.length > 1).length;
  const read = taken.flatMap(({ moisturePct }) => moisturePct ?? []);
  const said = (values: readonly string[]): string => [...new Set(values)].join(', ');
  return [
    pairs > 0 ? `${pairs} book-matched ${pairs === 1 ? 'pair' : 'pairs'}` : '',
    `figure ${said(taken.map(({ grade }) => grade))}`,
    `colour ${said(taken.map(({ colour }) => colour ?? 'not sorted'))}`,
    read.length > 0 ? `${pct(Math.min(...read))}–${pct(Math.max(...read))} % moisture` : 'never read',
    `of ${said(taken.map(({ lot }) => lot))}`,
  ]
    .filter(Boolean)
    .join(', ');
}
