import type { INestApplicationContext } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { PartsService } from '../kits/parts.service.ts';
import { OrdersService } from '../orders/orders.service.ts';
import { LotsService } from '../wood/lots.service.ts';

/**
 * After a new version that may keep more in a state than the last one did: made anew from the log, which has it all. Once for a
 * version; what was broken off begins anew at the next start.
 */
export async function remakeStatesOnce(
  app: INestApplicationContext,
  tell: (words: string) => void,
): Promise<void> {
  const source = app.get(DataSource);
  const [newest] = await source.query<{ name: string; made: boolean }[]>(
    `SELECT m.name, s.migration IS NOT NULL AS made
       FROM migration m LEFT JOIN states_made s ON s.migration = m.name ORDER BY m.id DESC LIMIT 1`,
  );
  if (!newest || newest.made) return;
  await remakeStates(app, tell);
  await source.query('INSERT INTO states_made (migration) VALUES ($1) ON CONFLICT DO NOTHING', [newest.name]);
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
