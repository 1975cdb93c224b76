import { QueryClient, QueryObserver } from '@tanstack/react-query';
import { changedOn, everything, fetchAgain, type Stale } from './news.ts';

const board: Stale = ([subject]) => subject === 'board';

/** Queries that are looked at, and how often each was fetched. */
function watched(...keys: string[][]) {
  const queries = new QueryClient();
  const fetches = new Map<string, number>();
  const stop = keys.map((queryKey) =>
    new QueryObserver(queries, {
      queryKey,
      queryFn: () => {
        const name = queryKey.join('/');
        fetches.set(name, (fetches.get(name) ?? 0) + 1);
        return name;
      },
    }).subscribe(() => undefined),
  );
  return { queries, fetches, stop: () => stop.forEach((end) => end()) };
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 20));

describe('news', () => {
  it('of one moment is fetched once, and only what it is about', async () => {
    const { queries, fetches, stop } = watched(['board'], ['batch', 'B-1'], ['batch', 'B-2']);
    await settled();
    const told = [
      fetchAgain(queries, changedOn(['B-1'])),
      fetchAgain(queries, board),
      fetchAgain(queries, board),
    ];
    await Promise.all(told);
    expect(Object.fromEntries(fetches)).toEqual({ board: 2, 'batch/B-1': 2, 'batch/B-2': 1 });
    stop();
  });

  it('of everything is fetched with what else was told, and later news again', async () => {
    const { queries, fetches, stop } = watched(['board'], ['setup']);
    await settled();
    void fetchAgain(queries, board);
    await fetchAgain(queries, everything);
    expect(Object.fromEntries(fetches)).toEqual({ board: 2, setup: 2 });
    await fetchAgain(queries, ([subject]) => subject === 'setup');
    expect(Object.fromEntries(fetches)).toEqual({ board: 2, setup: 3 });
    stop();
  });

  it('is fetched at once after a quiet while, and gathered where one filing follows the other', async () => {
    const { queries, fetches, stop } = watched(['board']);
    await settled();
    jest.useFakeTimers({ doNotFake: ['queueMicrotask', 'nextTick', 'setImmediate'] });
    const after = async (ms: number): Promise<number> => {
      await jest.advanceTimersByTimeAsync(ms);
      return fetches.get('board') ?? 0;
    };
    void fetchAgain(queries, board);
    expect(await after(16)).toBe(2);
    void fetchAgain(queries, board);
    expect(await after(16)).toBe(2);
    void fetchAgain(queries, board);
    expect(await after(45)).toBe(3);
    await after(1001);
    void fetchAgain(queries, board);
    expect(await after(16)).toBe(4);
    jest.useRealTimers();
    stop();
  });

  it('of a filing leaves settings and other racks alone; wood is chosen anew', () => {
    const keys = [
      ['board'],
      ['rooms'],
      ['checks'],
      ['batch', 'B-1', 'drying'],
      ['batch', 'B-2'],
      ['choice', 'B-1'],
      ['setup'],
    ];
    const stale = (...batches: string[]): string[] =>
      keys.filter(changedOn(batches)).map((key) => key.join('/'));
    expect(stale('B-1')).toEqual(['board', 'rooms', 'checks', 'batch/B-1/drying', 'choice/B-1']);
    expect(stale('B-2', 'W-7')).toEqual(['board', 'rooms', 'checks', 'batch/B-2', 'choice/B-1']);
  });

  it('reaches a page whose first fetch was already under way, and answered from before', async () => {
    const queries = new QueryClient();
    const answers: ((value: string) => void)[] = [];
    const observer = new QueryObserver(queries, {
      queryKey: ['batch', 'B-1'],
      queryFn: () => new Promise<string>((resolve) => answers.push(resolve)),
    });
    const end = observer.subscribe(() => undefined);
    const told = fetchAgain(queries, everything);
    await new Promise((resolve) => setTimeout(resolve, 100));
    answers[0]?.('before');
    await settled();
    answers[1]?.('after');
    await told;
    expect(queries.getQueryData(['batch', 'B-1'])).toBe('after');
    end();
  });

  it('is there when it resolves', async () => {
    const { queries, stop } = watched(['board']);
    await settled();
    let answer = 'old';
    const observer = new QueryObserver(queries, {
      queryKey: ['slow'],
      queryFn: () => Promise.resolve(answer),
    });
    const end = observer.subscribe(() => undefined);
    await settled();
    answer = 'new';
    await fetchAgain(queries, ([subject]) => subject === 'slow');
    expect(queries.getQueryData(['slow'])).toBe('new');
    end();
    stop();
  });
});
