import type { EntityManager } from 'typeorm';

/** Set among the data of a transaction's query runner that will be rolled back. */
export const DRY_RUN = 'dryRun';

/** Is this transaction only to see what it would do? What a rollback does not give back must then not be taken. */
export const isDryRun = (manager: EntityManager): boolean => manager.queryRunner?.data[DRY_RUN] === true;
