import { In, type EntityManager, type FindOptionsWhere } from 'typeorm';
import { BedRow } from './rows.ts';

/** Tables and presses locked for this transaction, always in order of their codes: whoever else fills them waits. */
export function lockBeds(
  manager: EntityManager,
  which: { codes: readonly string[] } | { tablesAt: readonly string[] },
): Promise<BedRow[]> {
  const where: FindOptionsWhere<BedRow> =
    'codes' in which ? { code: In([...which.codes]) } : { kind: 'table', station: In([...which.tablesAt]) };
  return manager
    .getRepository(BedRow)
    .find({ where, order: { code: 'ASC' }, lock: { mode: 'pessimistic_write' } });
}
