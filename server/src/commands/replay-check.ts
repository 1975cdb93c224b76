import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import { AppModule } from '../app.module.ts';
import { ReplayCheckService } from '../log/replay-check.service.ts';
import { StationDaysService } from '../flow/station-days.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { PartsService } from '../kits/parts.service.ts';
import { StoreService } from '../kits/store.service.ts';
import { OrdersService } from '../orders/orders.service.ts';
import { LotsService } from '../wood/lots.service.ts';

/**
 * Replays the whole log and compares it with the tables; leaves with 1 when they disagree. With --repair the states that
 * disagree are made anew from the log, and named.
 */
const app = await NestFactory.createApplicationContext(AppModule, { logger: ['error'] });
const [racks, lots] = [app.get(ReplayCheckService), app.get(LotsService)];
const [orders, parts, store] = [app.get(OrdersService), app.get(PartsService), app.get(StoreService)];
if (process.argv.includes('--repair')) {
  const results = [await racks.remake(), await lots.remake(), await orders.remake(), await parts.remake()];
  const bins = await store.disagreements();
  await store.remake(bins);
  const remade = [...results.flatMap((result) => result.remade), ...bins.map((code) => `bins of ${code}`)];
  console.log(remade.length === 0 ? 'nothing to repair' : `made anew from the log: ${remade.join(', ')}`);
  for (const { code, why } of results.flatMap(({ hopeless }) => hopeless))
    console.log(`${code} cannot be made anew: ${why}`);
  // What was summed up from rows that were wrong is wrong, too.
  if (remade.length > 0)
    await app.get(StationDaysService, { strict: false }).rebuild(await app.get(FactoryClock).now());
}
const { batches, entries, wrong } = await racks.disagreements();
const seen = await lots.disagreements();
const ordered = await orders.disagreements();
const stocked = await parts.disagreements();
const bins = (await store.disagreements()).map((code) => `bins of ${code}`);
const all = [...wrong, ...seen.wrong, ...ordered.wrong, ...stocked.wrong, ...bins];
console.log(
  `${batches} batches, ${entries} entries, ${seen.lots} lots, ${ordered.orders} orders and ${stocked.parts} parts replayed: ${all.length === 0 ? 'all agree' : `wrong: ${all.join(', ')}`}`,
);
await app.close();
process.exitCode = all.length === 0 ? 0 : 1;
