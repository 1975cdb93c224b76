import { failureOf } from '../database/failure.ts';
import { Turns } from './turns.ts';

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
/** Nobody waits longer than this while nothing moves. */
const WAIT_MS = 1500;

/** Work that counts how much of it goes on at once. */
async function counted(running: { now: number; most: number }): Promise<void> {
  running.now += 1;
  running.most = Math.max(running.most, running.now);
  await pause(20);
  running.now -= 1;
}

describe('turns', () => {
  it('on one batch come one after the other, on different ones beside each other as far as there is room', async () => {
    const turns = new Turns(2, WAIT_MS);
    const running = { now: 0, most: 0 };
    const short = () => turns.take(['B-1'], () => counted(running));
    await Promise.all([short(), short(), short()]);
    expect(running.most).toBe(1);
    running.most = 0;
    await Promise.all(['B-1', 'B-2', 'B-3', 'B-4'].map((code) => turns.take([code], () => counted(running))));
    expect(running.most).toBe(2);
  });

  it('are waited for as long as others get something done, however many they are', async () => {
    const turns = new Turns(8, WAIT_MS);
    const order: number[] = [];
    // Twelve times 200 ms are more than anybody waits for nothing.
    await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        turns.take(['B-1'], async () => {
          await pause(200);
          order.push(i);
        }),
      ),
    );
    expect(order).toEqual(Array.from({ length: 12 }, (_, i) => i));
  });

  it('are given up where nothing moves, and whoever gives up holds up nobody after', async () => {
    const turns = new Turns(8, WAIT_MS);
    let finish: () => void = () => undefined;
    const holding = turns.take(['B-1'], () => new Promise<void>((resolve) => (finish = resolve)));
    const waiting = turns.take(['B-1'], () => Promise.resolve());
    const error: unknown = await waiting.catch((reason: unknown) => reason);
    expect(failureOf(error)).toBe('busy');
    expect((error as Error).message).toBe('others are at work on B-1');
    finish();
    await holding;
    expect(await turns.take(['B-1'], () => Promise.resolve('filed'))).toBe('filed');
  });

  it('that waited in vain for a row are no progress; those the rules refuse are', async () => {
    const turns = new Turns(8, WAIT_MS);
    const fail = (error: Error) => async (): Promise<never> => {
      await pause(WAIT_MS * 0.7);
      throw error;
    };
    const busy = Object.assign(new Error('lock timeout'), { code: '55P03' });
    const after = async (error: Error): Promise<string> => {
      const first = [turns.take(['B-1'], fail(error)), turns.take(['B-1'], fail(error))];
      const last = turns.take(['B-1'], () => Promise.resolve('filed'));
      const [said] = await Promise.allSettled([last, ...first]);
      return said.status === 'fulfilled' ? said.value : String((said.reason as Error).message);
    };
    expect(await after(busy)).toBe('others are at work on B-1');
    expect(await after(new Error('refused'))).toBe('filed');
  });

  it('of several batches never wait for each other crosswise', async () => {
    const turns = new Turns(1, WAIT_MS);
    const both = (...codes: string[]) => turns.take(codes, () => pause(5));
    await Promise.all([both('B-1', 'N-1'), both('N-1', 'B-1'), both('B-1', 'B-1', 'N-1')]);
  });
});
