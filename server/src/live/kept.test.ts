import { Subject } from 'rxjs';
import { Kept } from './kept.ts';
import type { LiveNews } from './live.service.ts';

const counted = (concerns?: (code: string) => boolean) => {
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
    const { kept, news } = counted((code) => code.startsWith('W-'));
    await kept.get();
    news.next({ batches: ['B-201'] });
    expect(await kept.get()).toBe(1);
    news.next({ batches: ['B-201', 'W-74'] });
    expect(await kept.get()).toBe(2);
    news.next({ batches: [] });
    await expect(kept.get()).rejects.toThrow('no line');
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
