import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import { Subject } from 'rxjs';
import { AnswersKept } from './answers-kept.ts';
import { Kept, oneOf, otherThan } from './kept.ts';
import type { LiveNews } from './live.service.ts';

const counted = (concerns?: (news: LiveNews) => boolean) => {
  const news = new Subject<LiveNews>();
  const answers = [
    Promise.resolve(1),
    Promise.resolve(2),
    Promise.reject(new Error('no line')),
    Promise.resolve(4),
  ];
  answers[2]?.catch(() => undefined);
  let looks = 0;
  const kept = new Kept(() => answers[looks++] ?? Promise.resolve(0), news, concerns);
  return { kept, news };
};

describe('what is kept of a costly look', () => {
  it('is worked out once for all who ask', async () => {
    const { kept } = counted();
    expect(await Promise.all([kept.get(), kept.get()])).toEqual([1, 1]);
  });

  it('is worked out anew after any filing, also when one came while it was looked at', async () => {
    const { kept, news } = counted();
    const before = kept.get();
    news.next({ batches: ['B-201'] });
    expect(await kept.get()).toBe(2);
    expect(await before).toBe(1);
  });

  it('outlasts a filing that does not concern it, not one that may', async () => {
    const { kept, news } = counted(({ batches }) => batches.includes('W-74'));
    await kept.get();
    news.next({ batches: ['B-201'] });
    expect(await kept.get()).toBe(1);
    news.next({ batches: ['B-201', 'W-74'] });
    expect(await kept.get()).toBe(2);
    news.next({ batches: [] });
    await expect(kept.get()).rejects.toThrow('no line');
  });

  it('tells filings by what they are of: unknown ones concern everybody', () => {
    const news = (...types: string[]): LiveNews => ({ batches: ['B-201'], types });
    const moved = otherThan('read', 'coat');
    expect([
      moved(news('read')),
      moved(news('read', 'coat')),
      moved(news('read', 'done')),
      moved(news('undo')),
    ]).toEqual([false, false, true, true]);
    const measured = oneOf('check', 'undo');
    expect([
      measured(news('done')),
      measured(news('done', 'check')),
      measured({ batches: ['B-201'] }),
    ]).toEqual([false, true, true]);
  });

  it('is not kept when the look failed', async () => {
    const { kept, news } = counted();
    await kept.get();
    news.next({ batches: [] });
    await kept.get();
    news.next({ batches: [] });
    await expect(kept.get()).rejects.toThrow('no line');
    expect(await kept.get()).toBe(4);
  });
});

describe('answers that are kept', () => {
  const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

  it('hold for a time, each by its name', async () => {
    const kept = new AnswersKept({ freshMs: 50, patienceMs: 50 });
    let asked = 0;
    const ask = (): Promise<number> => Promise.resolve((asked += 1));
    expect([await kept.get('a', ask), await kept.get('a', ask), await kept.get('b', ask)]).toEqual([1, 1, 2]);
    await pause(60);
    expect(await kept.get('a', ask)).toBe(3);
    kept.forget();
    expect(await kept.get('a', ask)).toBe(4);
  });

  it('are given a while longer when they are old, while they are asked anew; not when that failed', async () => {
    const kept = new AnswersKept({ freshMs: 200, graceMs: 60_000, patienceMs: 60_000 });
    let answer: (value: number) => void = () => undefined;
    let fail: (error: Error) => void = () => undefined;
    const slow = (): Promise<number> =>
      new Promise((resolve, reject) => {
        answer = resolve;
        fail = reject;
      });
    const first = kept.get('a', () => Promise.resolve(1));
    expect(await first).toBe(1);
    await pause(250);
    expect([await kept.get('a', slow), await kept.get('a', slow)]).toEqual([1, 1]);
    answer(2);
    await pause(1);
    expect(await kept.get('a', slow)).toBe(2);
    await pause(250);
    expect(await kept.get('a', slow)).toBe(2);
    fail(new Error('no line'));
    await pause(1);
    expect(await kept.get('a', () => Promise.resolve(3))).toBe(3);
  });

  it('are not given when they are older than that', async () => {
    const kept = new AnswersKept({ freshMs: 10, graceMs: 10, patienceMs: 60_000 });
    await kept.get('a', () => Promise.resolve(1));
    await pause(50);
    expect(await kept.get('a', () => Promise.resolve(2))).toBe(2);
  });

  it('do not keep anybody waiting for a question that gets no answer, and a late failure of it does no harm', async () => {
    const kept = new AnswersKept({ freshMs: 60_000, patienceMs: 20 });
    let fail = (_error: Error): void => undefined;
    const dead = kept.get('a', () => new Promise<number>((_, reject) => (fail = reject)));
    dead.catch(() => undefined);
    expect(kept.get('a', () => Promise.resolve(2))).toBe(dead);
    await pause(30);
    expect(await kept.get('a', () => Promise.resolve(3))).toBe(3);
    fail(new Error('connection terminated'));
    await expect(dead).rejects.toThrow('connection terminated');
    expect(await kept.get('a', () => Promise.resolve(4))).toBe(3);
  });

  it('are waited for while this process is too busy to hear them', async () => {
    const kept = new AnswersKept({ freshMs: 60_000, patienceMs: 20 });
    const answer = promisify(execFile)('echo', ['here']);
    const first = kept.get('a', () => answer);
    const busyUntilMs = performance.now() + 600;
    while (performance.now() < busyUntilMs);
    expect(kept.get('a', () => Promise.reject(new Error('asked twice')))).toBe(first);
    expect((await first).stdout).toBe('here\n');
  });
});
