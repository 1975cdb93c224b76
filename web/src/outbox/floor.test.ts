import 'fake-indexeddb/auto';
import { QueryClient } from '@tanstack/react-query';
import { keepFloor } from './floor.ts';

afterEach(() => jest.useRealTimers());

describe('the last floor (12.3)', () => {
  it('is kept with its time, shown to a page that opens without a server, and gives way to a newer one', async () => {
    jest.useFakeTimers({ doNotFake: ['setImmediate', 'queueMicrotask', 'setTimeout'] });
    const settled = () => new Promise((resolve) => setTimeout(resolve, 20));
    const page = new QueryClient();
    await keepFloor(page);
    page.setQueryData(['floor'], { nowMs: 1 }, { updatedAt: 1000 });
    page.setQueryData(['batch', 'B-1'], { code: 'B-1' });
    jest.advanceTimersByTime(5000);
    await settled();

    const after = new QueryClient();
    await keepFloor(after);
    expect(after.getQueryData(['floor'])).toEqual({ nowMs: 1 });
    expect(after.getQueryState(['floor'])?.dataUpdatedAt).toBe(1000);
    expect(after.getQueryData(['batch', 'B-1'])).toBeUndefined();

    const answered = new QueryClient();
    answered.setQueryData(['floor'], { nowMs: 2 }, { updatedAt: 2000 });
    await keepFloor(answered);
    expect(answered.getQueryData(['floor'])).toEqual({ nowMs: 2 });
  });
});
