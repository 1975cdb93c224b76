import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import { AppModule } from '../app.module.ts';
import { StationDaysService } from '../flow/station-days.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';

/** Forgets all that was summed up by station and day, and sums it up anew from the first entry to yesterday. */
const app = await NestFactory.createApplicationContext(AppModule, { logger: ['error'] });
const days = await app
  .get(StationDaysService, { strict: false })
  .rebuild(await app.get(FactoryClock).now(), (done, of) => console.log(`${done} of ${of} days`));
console.log(`${days} working days summed up anew`);
await app.close();
