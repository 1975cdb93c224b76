import type { EntityManager } from 'typeorm';

/** Every server listens on this channel; see LiveService. */
export const LIVE_CHANNEL = 'ample_crane';

/** Tells every server, and through them every browser, that something changed; sent when the transaction commits. */
export async function tellAll(manager: EntityManager, changed: readonly string[]): Promise<void> {
  await manager.query('SELECT pg_notify($1, $2)', [LIVE_CHANNEL, JSON.stringify({ batches: changed })]);
}
