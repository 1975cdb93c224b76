import 'reflect-metadata';
import { databaseAddress, migrate } from '../database/data-source.ts';

/** Brings the database at DATABASE_URL to this version, and tells what was done. */
const applied = await migrate(databaseAddress());
console.log(applied.length === 0 ? 'it is of this version' : `applied: ${applied.join(', ')}`);
