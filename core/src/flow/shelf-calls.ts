import { count, pieceCode } from '../ledger/index.ts';
import { benchPieces } from '../measuring/index.ts';
import { spanWords } from '../time/span-words.ts';
import { HOUR_MS } from '../units/quantities.ts';
import type { SingleCall } from './call.ts';
import type { RoutedBatch } from './station-load.ts';

/** An instrument that is ready but for a look waits a day for each day it is not looked at. */
const WAITING_COST = 1;
const SHELF = '/stage/assembly?place=shelf';

/** Racks whose instruments have settled and wait for their second look, or moved and go back: one call a rack. */
export function shelfCalls({ state, route }: RoutedBatch, nowMs: number): SingleCall[] {
  const settled = benchPieces(state, route, nowMs).filter(({ endsMs }) => endsMs !== null && endsMs <= nowMs);
  const due = settled.filter(({ verdict }) => verdict === 'measure');
  const moved = settled.filter(({ verdict }) => verdict === 'back');
  const pieces = due.length + moved.length;
  const [first] = moved;
  if (pieces === 0) return [];
  const waitedMs = nowMs - Math.min(...[...due, ...moved].map(({ endsMs }) => endsMs ?? nowMs));
  const told = [
    due.length > 0 ? `${count(due.length, 'instrument')} due for a second look` : '',
    first
      ? `${count(moved.length, 'instrument')} moved: ${pieceCode(state.code, first.position)}, ${first.words}`
      : '',
  ].filter(Boolean);
  return [
    {
      id: `shelf:${state.code}`,
      kind: 'second-look',
      subject: state.code,
      cause: 'shelf',
      pieces,
      title: `${state.code} has settled: ${moved.length > 0 ? `${moved.length} moved` : `${due.length} to look at again`}`,
      detail: `${told.join('; ')}${/\.$/.test(told.at(-1) ?? '') ? '' : '.'} On the shelf ${spanWords(waitedMs / HOUR_MS)} longer than it must.`,
      cost: WAITING_COST * pieces,
      actions: [{ label: 'See the shelf', href: SHELF }],
      evidence: SHELF,
    },
  ];
}
