import { failureOf } from './failure.ts';

/** As long as this a server that starts waits for its database. */
const WITHIN_MS = 60_000;
const AGAIN_MS = 1000;

/**
 * Runs a step of the start, and again while the database is not there: it may still be starting, or a line may be down for a
 * moment. So only for steps that may be done twice. `away` is called each time it was not there.
 * @throws what the step threw, when it was of something else, or went on for a minute.
 */
export async function whenReached<T>(step: () => Promise<T>, away: (why: string) => void): Promise<T> {
  const untilMs = Date.now() + WITHIN_MS;
  for (;;) {
    try {
      return await step();
    } catch (error) {
      if (!['not reached', 'lost'].includes(failureOf(error)) || Date.now() >= untilMs) throw error;
      away((error as Error).message);
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS));
    }
  }
}
