import type { KeyboardCoordinateGetter } from '@dnd-kit/core';
import { nextPlace, slotId, slotOf } from './by-keyboard.ts';

/** Two tables side by side, the right one known first; the left has two places, the right three. */
const rects = new Map(
  [
    ['2@1', 400, 200],
    ['2@0', 400, 100],
    ['1@0', 0, 100],
    ['2@2', 400, 300],
    ['1@1', 0, 200],
  ].map(([id, left, top]) => [id, { left, top }]),
);
function press(code: string, over: string | null) {
  const event = { code, preventDefault: jest.fn() } as unknown as KeyboardEvent;
  const context = { droppableRects: rects, over: over === null ? null : { id: over } };
  return nextPlace(event, { context } as unknown as Parameters<KeyboardCoordinateGetter>[1]);
}

describe('a load that is carried by keyboard', () => {
  it('goes from place to place, and to the table beside it, whichever was known first', () => {
    expect(press('ArrowDown', '1@0')).toEqual({ x: 0, y: 200 });
    expect(press('ArrowUp', '1@1')).toEqual({ x: 0, y: 100 });
    expect(press('ArrowRight', '1@1')).toEqual({ x: 400, y: 200 });
    expect(press('ArrowLeft', '2@1')).toEqual({ x: 0, y: 200 });
  });

  it('stays where there is no further place, and takes the last of a shorter table', () => {
    expect(press('ArrowUp', '1@0')).toEqual({ x: 0, y: 100 });
    expect(press('ArrowDown', '2@2')).toEqual({ x: 400, y: 300 });
    expect(press('ArrowLeft', '1@0')).toEqual({ x: 0, y: 100 });
    expect(press('ArrowLeft', '2@2')).toEqual({ x: 0, y: 200 });
    expect(press('ArrowRight', null)).toEqual({ x: 400, y: 100 });
  });

  it('minds no other key', () => {
    expect(press('KeyA', '1@0')).toBeUndefined();
  });
});

it('a place is told by its table and its order', () => {
  expect(slotOf(slotId('body-2', 3))).toEqual({ table: 'body-2', place: 3 });
});
