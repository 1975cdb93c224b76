import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import { AppModule } from '../app.module.ts';
import { LogService } from '../log/log.service.ts';

/** Replays the whole log and compares it with the tables; leaves with 1 when they disagree. */
const app = await NestFactory.createApplicationContext(AppModule, { logger: ['error'] });
const { batches, entries, wrong } = await app.get(LogService).disagreements();
console.log(
  `${batches} batches, ${entries} entries replayed: ${wrong.length === 0 ? 'all agree' : `wrong: ${wrong.join(', ')}`}`,
);
await app.close();
process.exitCode = wrong.length === 0 ? 0 : 1;
