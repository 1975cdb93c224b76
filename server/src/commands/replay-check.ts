import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import { AppModule } from '../app.module.ts';
import { LogService } from '../log/log.service.ts';
import { LotsService } from '../wood/lots.service.ts';

/** Replays the whole log and compares it with the tables; leaves with 1 when they disagree. */
const app = await NestFactory.createApplicationContext(AppModule, { logger: ['error'] });
const { batches, entries, wrong } = await app.get(LogService).disagreements();
const lots = await app.get(LotsService).disagreements();
const all = [...wrong, ...lots.wrong];
console.log(
  `${batches} batches, ${entries} entries and ${lots.lots} lots replayed: ${all.length === 0 ? 'all agree' : `wrong: ${all.join(', ')}`}`,
);
await app.close();
process.exitCode = all.length === 0 ? 0 : 1;
