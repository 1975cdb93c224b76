/** The module as a page that has just opened has it. */
const opened = async () => {
  jest.resetModules();
  Object.assign(globalThis, { EventSource: class {} });
  return import('./listening.ts');
};
afterEach(() => {
  jest.useRealTimers();
  Reflect.deleteProperty(globalThis, 'EventSource');
});

describe('what a page asks when it opens', () => {
  it('waits for the line of news, and then nothing was missed', async () => {
    const { listening, beginListening } = await opened();
    let asked = false;
    const asking = listening().then(() => (asked = true));
    await Promise.resolve();
    expect(asked).toBe(false);
    expect(beginListening()).toBe(false);
    await asking;
    // The line was lost and is there again.
    expect(beginListening()).toBe(true);
  });

  it('does not wait for a line that stays away, and is asked again when it opens', async () => {
    jest.useFakeTimers();
    const { listening, beginListening } = await opened();
    const asking = listening();
    await jest.advanceTimersByTimeAsync(500);
    await asking;
    expect(beginListening()).toBe(true);
  });
});
