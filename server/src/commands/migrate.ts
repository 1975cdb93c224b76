import 'reflect-metadata';
import { NestFactory } from '@nestjs/core';
import { AppModule } from '../app.module.ts';
import { databaseAddress, migrate } from '../database/data-source.ts';
import { grantFloor } from '../database/floor-role.ts';
import { remakeStatesOnce } from './remake-states.ts';

/**
 * Brings the database at DATABASE_URL, as its owner, to this version: its tables, the states kept in them, and what the floor's
 * role may do. Tells what was done.
 */
const url = databaseAddress();
const applied = await migrate(url);
await grantFloor(url);
if (applied.length > 0) {
  console.log(`  applied: ${applied.join(', ')}`);
  const app = await NestFactory.createApplicationContext(AppModule, { logger: ['error'] });
  await remakeStatesOnce(app, (words) => console.log(`  ${words}`));
  await app.close();
}
