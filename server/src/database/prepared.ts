import type pg from 'pg';
import type { EntityManager } from 'typeorm';

/**
 * Asks a long question that is asked often: PostgreSQL plans it once for each connection, under its name. Within a transaction
 * only. @throws when there is none.
 */
export async function askPrepared(
  manager: EntityManager,
  question: { name: string; text: string },
  values: readonly unknown[],
): Promise<void> {
  if (!manager.queryRunner)
    throw new Error(`askPrepared: '${question.name}' is asked outside of a transaction`);
  const client = (await manager.queryRunner.connect()) as pg.PoolClient;
  await client.query({ ...question, values: [...values] });
}
