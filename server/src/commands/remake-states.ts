import type { INestApplicationContext } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { PartsService } from '../kits/parts.service.ts';
import { OrdersService } from '../orders/orders.service.ts';
import { LotsService } from '../wood/lots.service.ts';

/**
 * The newest migration with which states came to hold something else. Whoever changes what a state holds adds one, empty if need be, and
 * names it here: at 180,000 instruments making all states anew takes a quarter of an hour, which nobody should wait for a new column.
 */
const STATES_CHANGED_WITH = 'CalendarFeeds1700000000018';

/**
 * After a version that keeps something else in a state than those before: made anew from the log, which has it all. Once; what was
 * broken off begins anew at the next start.
 */
export async function remakeStatesOnce(
  app: INestApplicationContext,
  tell: (words: string) => void,
): Promise<void> {
  const source = app.get(DataSource);
  const made = await source.query<unknown[]>(
    `SELECT 1 FROM states_made s JOIN migration m ON m.name = s.migration
      WHERE m.id >= (SELECT id FROM migration WHERE name = $1) LIMIT 1`,
    [STATES_CHANGED_WITH],
  );
  if (made.length > 0) return;
  await remakeStates(app, tell);
  await source.query('INSERT INTO states_made (migration) VALUES ($1) ON CONFLICT DO NOTHING', [
    STATES_CHANGED_WITH,
  ]);
}

/** Makes anew whatever does not agree with the log. */
async function remakeStates(app: INestApplicationContext, tell: (words: string) => void): Promise<void> {
  const racks = await app.get(ReplayCheckService).remake((done, of) => {
    if (done === of || done % 50 === 0) tell(`${done} of ${of} batches looked at`);
  });
  const lots = await app.get(LotsService).remake();
  const orders = await app.get(OrdersService).remake();
  const parts = await app.get(PartsService).remake();
  const all = [racks, lots, orders, parts];
  tell(`${all.reduce((sum, { remade }) => sum + remade.length, 0)} states made anew from the log`);
  for (const { code, why } of all.flatMap(({ hopeless }) => hopeless))
    tell(`${code} cannot be replayed: ${why}; see replay-check`);
}
