import { render } from '@testing-library/react';
import { useRef } from 'react';
import { useMoves } from './useMoves.ts';

type Drawn = Record<string, Record<string, string[]>>;

function Board({ drawn, asked = '' }: { drawn: Drawn; asked?: string }) {
  const area = useRef<HTMLDivElement>(null);
  useMoves(area, drawn, asked);
  return (
    <div ref={area}>
      {Object.entries(drawn).map(([station, columns]) => (
        <div key={station} role="group" aria-label={station}>
          {Object.entries(columns).map(([column, racks]) => (
            <div key={column} className={column}>
              {racks.map((rack) => (
                <a key={rack} href={`/batch/${rack}`} data-rack={rack}>
                  {rack}
                </a>
              ))}
            </div>
          ))}
        </div>
      ))}
    </div>
  );
}

/** What glowed and what travelled, in the order in which it did. */
const shown: string[] = [];
let less = false;
beforeEach(() => {
  shown.length = 0;
  less = false;
  jest.spyOn(Element.prototype, 'animate').mockImplementation(function (this: Element) {
    shown.push(`${this instanceof HTMLAnchorElement ? 'glows' : 'travels'} ${this.textContent}`);
    return { finished: Promise.resolve() } as unknown as Animation;
  });
  window.matchMedia = (query: string) =>
    ({
      matches: less && query.includes('reduced-motion'),
      addEventListener: () => undefined,
      removeEventListener: () => undefined,
    }) as unknown as MediaQueryList;
});
afterEach(() => Reflect.deleteProperty(window, 'matchMedia'));

const BEFORE: Drawn = { mill: { waiting: ['B-1', 'B-2'], inhand: [] }, bench: { waiting: ['N-1'] } };
const AFTER: Drawn = { mill: { waiting: ['B-2'], inhand: ['B-1'] }, bench: { waiting: ['N-1'] } };

it('lets travel what moved and glow what came, once, and leaves alone what stayed', () => {
  const { rerender } = render(<Board drawn={BEFORE} />);
  expect(shown).toEqual([]);
  rerender(<Board drawn={AFTER} />);
  expect(shown).toEqual(['glows B-1', 'travels B-1']);
  rerender(<Board drawn={AFTER} />);
  rerender(<Board drawn={{ ...AFTER, bench: { waiting: ['N-1', 'N-7'] } }} />);
  expect(shown).toEqual(['glows B-1', 'travels B-1', 'glows N-7']);
});

it('goes on from two places to one: the pieces that were behind have caught up', () => {
  const { rerender } = render(<Board drawn={{ mill: { waiting: ['B-1'] }, bench: { waiting: ['B-1'] } }} />);
  rerender(<Board drawn={{ mill: { waiting: [] }, bench: { waiting: ['B-1'] } }} />);
  expect(shown).toEqual([]);
});

it('is still for whoever wants less motion, after a change of what is asked or of the window, and when much is new at once', () => {
  less = true;
  const { rerender, unmount } = render(<Board drawn={BEFORE} />);
  rerender(<Board drawn={AFTER} />);
  unmount();
  less = false;
  const again = render(<Board drawn={BEFORE} />);
  again.rerender(<Board drawn={AFTER} asked="?model=Bowline" />);
  window.dispatchEvent(new Event('resize'));
  again.rerender(<Board drawn={BEFORE} asked="?model=Bowline" />);
  const many = Array.from({ length: 9 }, (_, i) => `B-${i + 10}`);
  again.rerender(<Board drawn={{ mill: { waiting: ['B-1', 'B-2', ...many] } }} asked="?model=Bowline" />);
  expect(shown).toEqual([]);
});
