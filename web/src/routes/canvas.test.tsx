import { act, fireEvent, render } from '@testing-library/react';
import { route as plain } from '../testing/tarrow.ts';
import { draftOf } from './draft.ts';
import { NODE } from './layout.ts';
import { RouteCanvas } from './RouteCanvas.tsx';

/** jsdom lays nothing out: a browser tells the size of what is observed soon after it is observed, here when asked to. */
class Observer {
  static waiting: (() => void)[] = [];

  constructor(private readonly told: ResizeObserverCallback) {}

  observe(target: Element): void {
    Observer.waiting.push(() => this.told([{ target } as ResizeObserverEntry], this));
  }

  unobserve(): void {}
  disconnect(): void {}
}

function laidOut(): void {
  act(() => Observer.waiting.splice(0).forEach((tell) => tell()));
}

const draft = draftOf(plain);
const nothing = (): void => undefined;

describe('the drawing of a route', () => {
  const browser = globalThis.ResizeObserver;

  beforeAll(() => {
    globalThis.ResizeObserver = Observer;
    globalThis.DOMMatrixReadOnly ??= class {
      readonly m22 = 1;
    } as unknown as typeof DOMMatrixReadOnly;
    jest.spyOn(HTMLElement.prototype, 'offsetWidth', 'get').mockReturnValue(NODE.width);
    jest.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(NODE.height);
  });

  afterAll(() => {
    globalThis.ResizeObserver = browser;
    jest.restoreAllMocks();
  });

  const drawn = (onConnect: (from: string, to: string) => void) => (
    <RouteCanvas
      draft={draft}
      problems={[]}
      stationName={(code) => code}
      selected={null}
      onSelect={nothing}
      onConnect={onConnect}
      onDisconnect={nothing}
      onRemove={nothing}
    />
  );

  it('keeps its arrows, and where new ones begin, while the page around it is told of news', () => {
    const connect = jest.fn();
    const { container, rerender } = render(drawn(connect));
    laidOut();
    const arrows = (): number => container.querySelectorAll('.react-flow__edge').length;
    expect(arrows()).toBe(2);

    rerender(drawn(connect));
    expect(arrows()).toBe(2);
    const handle = (node: string, id: string): Element => {
      const found = container.querySelector(`[data-id="${node}"] [data-handleid="${id}"]`);
      if (!found) throw new Error(`${node} has no handle '${id}'`);
      return found;
    };
    const target = handle('join', 'in');
    document.elementFromPoint = () => target;
    fireEvent.mouseDown(handle('mill', 'out'), { button: 0, clientX: 0, clientY: 0 });
    fireEvent.mouseMove(document, { clientX: 300, clientY: 20 });
    fireEvent.mouseUp(document, { clientX: 300, clientY: 20 });
    expect(connect).toHaveBeenCalledWith('mill', 'join');
  });
});
