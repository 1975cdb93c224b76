import { CutLine } from '../testing/cut-line.ts';
import { freshDatabase } from '../testing/databases.ts';
import { migrate } from './data-source.ts';
import { whenReached } from './when-reached.ts';

describe('a server that starts (12.8)', () => {
  it.each(['cut', 'swallow'] as const)('waits for a database behind a line that is down: %s', async (how) => {
    const { line, url } = await CutLine.to(await freshDatabase());
    line[how]();
    const told: string[] = [];
    const applied = await whenReached(
      () => migrate(url),
      (why) => {
        told.push(why);
        if (told.length < 2) return;
        line.mend();
        line.heal();
      },
    );
    expect(told).toHaveLength(2);
    expect(applied).toContain('House1700000000001');
    await line.close();
  });

  it('does not try again what is a fault of its own', async () => {
    let tried = 0;
    const fault = (): Promise<void> => {
      tried += 1;
      return Promise.reject(new TypeError('no such thing'));
    };
    await expect(whenReached(fault, () => undefined)).rejects.toThrow('no such thing');
    expect(tried).toBe(1);
  });
});
