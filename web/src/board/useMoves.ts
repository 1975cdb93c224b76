import { useMediaQuery } from '@mui/material';
import { useEffect, useLayoutEffect, useRef, type RefObject } from 'react';

/** Where a rack was drawn: at which place of the board, and where that is in the window. */
interface Spot {
  place: string;
  left: number;
  top: number;
}
type Spots = ReadonlyMap<string, readonly Spot[]>;

const TRAVELS_MS = 700;
const GLOWS_MS = 2600;
/** More that moved at once did not move now: the page was away for a while. */
const MOST_SHOWN = 8;

/**
 * What changed on the board moves from where it was to where it is, and glows for a moment; nothing else moves, and nothing at all for
 * whoever asked their device for less motion. Scroll and focus stay as they are.
 * @param board what is drawn; as long as it is the same one nothing has moved
 * @param asked what is asked of the board: asked otherwise, it is drawn anew and nothing has moved
 */
export function useMoves(
  area: RefObject<HTMLElement | null>,
  board: object | undefined,
  asked: string,
): void {
  const still = useMediaQuery('(prefers-reduced-motion: reduce)');
  const before = useRef<{ asked: string; spots: Spots } | null>(null);
  useEffect(() => {
    // In a window of another size everything stands elsewhere.
    const forget = (): void => {
      before.current = null;
    };
    window.addEventListener('resize', forget);
    return () => window.removeEventListener('resize', forget);
  }, []);
  useLayoutEffect(() => {
    const racks = [...(area.current?.querySelectorAll<HTMLElement>('a[data-rack]') ?? [])];
    const known = before.current;
    before.current = { asked, spots: spotsOf(racks) };
    if (still || known?.asked !== asked) return;
    const moved = racks.filter((rack) => !wasHere(rack, known.spots));
    if (moved.length > MOST_SHOWN) return;
    for (const rack of moved) show(rack, leftFrom(rack, racks, known.spots));
  }, [area, board, asked, still]);
}

/** Its station, and whether it waits, is in hand or on hold there. A row that moves takes its racks along: they did not move. */
const placeOf = (rack: HTMLElement): string =>
  `${rack.closest('[role="group"]')?.getAttribute('aria-label')}, ${rack.parentElement?.className}`;

function spotsOf(racks: readonly HTMLElement[]): Spots {
  const spots = new Map<string, Spot[]>();
  for (const rack of racks) {
    const { left, top } = rack.getBoundingClientRect();
    const code = rack.dataset.rack ?? '';
    spots.set(code, [...(spots.get(code) ?? []), { place: placeOf(rack), left, top }]);
  }
  return spots;
}

const wasHere = (rack: HTMLElement, known: Spots): boolean =>
  (known.get(rack.dataset.rack ?? '') ?? []).some(({ place }) => place === placeOf(rack));

/** Where it was, if it is there no more. */
function leftFrom(rack: HTMLElement, racks: readonly HTMLElement[], known: Spots): Spot | undefined {
  const now = racks.filter((one) => one.dataset.rack === rack.dataset.rack).map(placeOf);
  return known.get(rack.dataset.rack ?? '')?.find(({ place }) => !now.includes(place));
}

function show(rack: HTMLElement, from: Spot | undefined): void {
  rack.animate(
    [
      { outline: '2px solid var(--maple)', outlineOffset: '2px' },
      { outline: '2px solid transparent', outlineOffset: '2px' },
    ],
    { duration: GLOWS_MS, easing: 'ease-in' },
  );
  if (!from) return;
  // A likeness travels: the rack itself can be pressed at once, where it is.
  const { left, top, width } = rack.getBoundingClientRect();
  const likeness = document.createElement('div');
  likeness.append(...[...rack.childNodes].map((child) => child.cloneNode(true)));
  likeness.className = `${rack.className} moving`;
  likeness.ariaHidden = 'true';
  Object.assign(likeness.style, {
    position: 'fixed',
    zIndex: '4',
    left: `${left}px`,
    top: `${top}px`,
    width: `${width}px`,
    pointerEvents: 'none',
  });
  document.body.append(likeness);
  const travel = likeness.animate(
    [{ transform: `translate(${from.left - left}px, ${from.top - top}px)` }, { transform: 'none' }],
    { duration: TRAVELS_MS, easing: 'ease-in-out' },
  );
  const gone = (): void => likeness.remove();
  travel.finished.then(gone, gone);
}
