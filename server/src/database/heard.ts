import { setTimeout } from 'node:timers/promises';

/** A timer that rings later than this was held up by this process itself. */
const HELD_UP_MS = 200;

/** Nothing came, though this process listened. */
export class Unheard extends Error {}

/**
 * What comes within its time. While this process is busy it hears nothing, and its timers ring before it reads what has come long
 * ago: time in which it could not listen does not count. @throws Unheard when nothing came.
 */
export async function heard<Answer>(answer: Promise<Answer>, withinMs: number): Promise<Answer> {
  answer.catch(() => undefined);
  for (;;) {
    const sinceMs = performance.now();
    const silence = new AbortController();
    const within = await Promise.race([
      answer.then((value) => ({ value })),
      setTimeout(withinMs, null, { signal: silence.signal, ref: false }).catch(() => null),
    ]).finally(() => silence.abort());
    if (within) return within.value;
    if (performance.now() - sinceMs - withinMs < HELD_UP_MS)
      throw new Unheard(`nothing was heard for ${withinMs} ms`);
  }
}
