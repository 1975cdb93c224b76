import { AskedTogether } from './asked-together.ts';

/** A look that takes until it is let go, and how often one was begun. */
function held() {
  const going: { done: (value: number) => void; failed: (error: Error) => void }[] = [];
  const together = new AskedTogether(
    () => new Promise<number>((done, failed) => going.push({ done, failed })),
  );
  return { together, going };
}
/** Everything that can go on has gone on. */
const settled = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

describe('what many ask at the same moments', () => {
  it('is worked out once for all who asked while another was worked out, after their question', async () => {
    const { together, going } = held();
    const first = together.get();
    const [second, third] = [together.get(), together.get()];
    // What is worked out may have been read before they asked: theirs has not begun.
    expect(going).toHaveLength(1);
    going[0]?.done(1);
    expect(await first).toBe(1);
    await settled();
    expect(going).toHaveLength(2);
    going[1]?.done(2);
    expect(await Promise.all([second, third])).toEqual([2, 2]);
    // Nobody asked meanwhile: the next question begins at once.
    await settled();
    void together.get();
    expect(going).toHaveLength(3);
  });

  it('is worked out for the next when it failed for those before', async () => {
    const { together, going } = held();
    const first = together.get();
    const second = together.get();
    going[0]?.failed(new Error('no line'));
    await expect(first).rejects.toThrow('no line');
    await settled();
    going[1]?.done(2);
    expect(await second).toBe(2);
  });

  it('does not keep others waiting for a question that gets no answer', async () => {
    const { together, going } = held();
    const never = jest.fn();
    void together.get().then(never, never);
    const second = together.get();
    // Five seconds, and more where this process is held up: time in which it could not listen does not count.
    while (going.length < 2) await new Promise((resolve) => setTimeout(resolve, 50));
    expect(never).not.toHaveBeenCalled();
    going[1]?.done(2);
    expect(await second).toBe(2);
    expect(never).not.toHaveBeenCalled();
  });
});
