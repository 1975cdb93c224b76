import { piecesThatFit, sprayWindow, type BoothOpenings, type SprayWindow } from '../finishing/spraying.ts';
import { count } from '../ledger/index.ts';
import { spanWords } from '../time/span-words.ts';
import type { ListedView } from './ladder.ts';

/**
 * A coat is laid in a booth: what the ladder says of the next one, with the booth's air now and as it is forecast. It is held where it
 * cannot be laid on all its pieces in one go; where the booth's air is not logged it stays as the ladder says.
 *
 * @param time an instant in the factory's words
 */
export function inBooth<V extends ListedView>(
  view: V,
  booth: BoothOpenings | undefined,
  time: (ms: number) => string,
): V {
  const { coat, next, ready, fromMs, scuffFirst, positions } = view;
  if (!coat || next !== 'coat' || !booth || scuffFirst || (!ready && fromMs === null)) return view;
  const askedMs = Math.max(booth.nowMs, fromMs ?? booth.nowMs);
  const window = sprayWindow(booth, coat.minutes, askedMs);
  if (!window.kept) return ready ? untilItCloses(view, booth.name, window, time) : view;
  const { sinceMs, against } = window.kept;
  const { name } = booth;
  const why =
    sinceMs <= askedMs
      ? `${name}: ${against.join('; ')}.`
      : `Its ${spanWords(coat.minutes / 60)} do not fit before ${name} closes ${time(sinceMs)} (${against.join('; ')})${partWords(piecesThatFit({ pieces: positions.length, minutes: coat.minutes }, window.openMinutes), positions.length)}.`;
  const late =
    view.closesMs !== null && (window.fromMs ?? Infinity) > view.closesMs
      ? ` Its recoat window closes ${time(view.closesMs)}: it will want a scuff first.`
      : '';
  const when =
    window.fromMs === null ? '' : ready ? ` until ${time(window.fromMs)}` : ` from ${time(window.fromMs)}`;
  return {
    ...view,
    ready: false,
    title: ready ? `Hold the coat${when}` : `Next coat${when || ', no date yet'}`,
    detail: `${view.detail} ${why}${late}`,
    fromMs: window.fromMs,
    lowMs: window.fromMs,
    highMs: window.fromMs,
  };
}

/** It may be laid now, and must be on when the booth closes, or sooner where its recoat window does. */
function untilItCloses<V extends ListedView>(
  view: V,
  name: string,
  { closesMs, closesAgainst }: SprayWindow,
  time: (ms: number) => string,
): V {
  if (closesMs === null || (view.closesMs !== null && view.closesMs <= closesMs)) return view;
  return {
    ...view,
    closesMs,
    title: `Next coat before ${time(closesMs)}`,
    detail: `${view.detail.replace(/\.$/, '')}; then ${name}: ${closesAgainst.join('; ')}.`,
  };
}

/** How much of the rack could still be coated. */
const partWords = (fit: number, pieces: number): string =>
  fit >= 1 ? `; ${fit} of its ${count(pieces, 'piece')} would` : '';
