import type { EntityManager } from 'typeorm';

/** Every server listens on this channel; see LiveService. */
export const LIVE_CHANNEL = 'ample_crane';

/**
 * Tells every server, and through them every browser, that something changed; sent when the transaction commits.
 * @param types of the entries that changed it; left out: it was no filing on a rack.
 */
export async function tellAll(
  manager: EntityManager,
  changed: readonly string[],
  types?: readonly string[],
): Promise<void> {
  await manager.query('SELECT pg_notify($1, $2)', [LIVE_CHANNEL, newsOf(changed, types)]);
}

/** What is told on the channel. */
export const newsOf = (changed: readonly string[], types?: readonly string[]): string =>
  JSON.stringify({ batches: changed, types });
