import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { LOG_INPUT } from './LogBar.tsx';

/** The keys of the house, when nobody is typing. */
export const KEYS: readonly { keys: string; does: string }[] = [
  { keys: 'L', does: 'type in the log' },
  { keys: '/', does: 'find a rack or a lot, by its code or model' },
  { keys: '0', does: 'Now board' },
  { keys: '1 – 5', does: 'Wood room, Machining, Fitting, Finishing, Assembly' },
  { keys: 'A', does: 'all racks, in a list' },
  { keys: 'B', does: 'the order book' },
  { keys: 'F', does: 'Flow' },
  { keys: 'K', does: 'kits ahead' },
  { keys: 'O', does: 'open a new rack' },
  { keys: '← ↑ → ↓', does: 'move among racks' },
  { keys: 'Enter', does: 'open the rack, or file the line' },
  { keys: 'Esc', does: 'leave the log, or go back' },
  { keys: 'N', does: 'night or day colours' },
  { keys: 'H', does: 'these keys' },
];

/** The lines that matter most, as they are typed; docs/log.md has them all. */
export const LINES: readonly { line: string; does: string }[] = [
  { line: 'B-217 body mill start', does: 'a load on a free table' },
  { line: 'B-217 6 done 1 scrap tear-out', does: 'six went on, one is lost' },
  { line: 'B-217/3-5 done', does: 'of these pieces' },
  { line: 'B-217 read 7.1 7.2 7.1', does: 'moisture, piece by piece when there is one each' },
  { line: 'B-217/3 read 4.2 because read twice', does: 'believed although it would be set aside' },
  { line: 'B-217 end', does: 'its hold is over' },
  { line: 'B-217 end because the fair opens', does: 'its rule is passed by, for ever noted' },
  { line: 'B-217 hold wrong colour', does: 'stops it, wherever it is' },
  { line: 'I-31 coat wet 105 by tamsin', does: 'the next coat' },
  { line: 'I-31 second coat', does: 'that coat and no other' },
  { line: 'I-31 sanded 22 um', does: 'film taken off' },
  { line: 'I-31/2 sand-through', does: 'sends it where such things go' },
  { line: 'I-31/2 mark failed', does: 'a nail test on a cure' },
  { line: 'B-217/1,2 check pocket-width 55.91 55.9', does: 'values of a check' },
  { line: 'I-31 check looks ok', does: 'yes, of all that are there' },
  { line: 'I-31/2 check relief 0.22', does: 'one value of a bench sheet' },
  { line: 'I-31 accept', does: 'what came is good: work on it may begin' },
  { line: 'I-31/2 kit 14', does: 'its kit is picked, all of it, into bin 14' },
  { line: 'I-31 serial', does: 'give those of a rack their serials' },
  { line: 'N-118 confirm frets jumbo', does: 'what is to be built in, held against the tags' },
  { line: 'N-118/7 plane 0.18', does: 'a tenon made to fit' },
  { line: 'B-217 join N-118', does: 'the pairs that are filed, or all' },
  { line: 'B-217 6 done yesterday 16:00', does: 'when it was not just now' },
  { line: 'B-217 undo', does: 'takes the last filing back' },
];

const PAGES: Record<string, string> = {
  '0': '/',
  '1': '/stage/wood',
  '2': '/stage/machining',
  '3': '/stage/fitting',
  '4': '/stage/finishing',
  '5': '/stage/assembly',
  a: '/racks',
  b: '/orders',
  f: '/flow',
  k: '/kits',
  o: '/open',
};

const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement &&
  (target.matches('input, textarea, select, [role="combobox"]') || target.isContentEditable);

const inDialog = (): boolean => document.querySelector('[role="dialog"], [role="listbox"]') !== null;

export function useHouseKeys(actions: { help: () => void; theme: () => void; find: () => void }): void {
  const navigate = useNavigate();
  const { help, theme, find } = actions;
  useEffect(() => {
    const pressed = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || inDialog()) return;
      if (isTyping(event.target)) return;
      const key = event.key.toLowerCase();
      const page = PAGES[key];
      if (page !== undefined) void navigate(page);
      else if (key === 'l') document.getElementById(LOG_INPUT)?.focus();
      else if (key === 'h' || key === '?') help();
      else if (key === 'n') theme();
      else if (key === '/') find();
      else if (key === 'escape') void navigate(-1);
      else if (key.startsWith('arrow')) moveAmongRacks(key);
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', pressed);
    return () => window.removeEventListener('keydown', pressed);
  }, [navigate, help, theme, find]);
}

interface Spot {
  x: number;
  y: number;
}

/** The nearest spot in a direction; sideways distance counts threefold, so that rows and columns are kept. */
export function nearestInDirection(from: Spot, others: readonly Spot[], key: string): number {
  const horizontal = key === 'arrowleft' || key === 'arrowright';
  const sign = key === 'arrowleft' || key === 'arrowup' ? -1 : 1;
  let best = -1;
  let least = Infinity;
  others.forEach((spot, index) => {
    const [ahead, aside] = horizontal
      ? [spot.x - from.x, spot.y - from.y]
      : [spot.y - from.y, spot.x - from.x];
    if (ahead * sign <= 2) return;
    const distance = Math.abs(ahead) + 3 * Math.abs(aside);
    if (distance < least) [best, least] = [index, distance];
  });
  return best;
}

function moveAmongRacks(key: string): void {
  const racks = [...document.querySelectorAll<HTMLElement>('a[data-rack]')];
  const here = racks.find((rack) => rack === document.activeElement);
  if (!here) {
    racks[0]?.focus();
    return;
  }
  const spot = (rack: HTMLElement): Spot => {
    const box = rack.getBoundingClientRect();
    return { x: box.left + box.width / 2, y: box.top + box.height / 2 };
  };
  const next = nearestInDirection(spot(here), racks.map(spot), key);
  racks[next]?.focus();
}
