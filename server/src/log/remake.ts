import { isRefusal, voidedBy, type Refusal } from '@ample-crane/core';
import type { DataSource, EntityManager } from 'typeorm';
import { tellAll } from '../live/tell.ts';

/** What came of making states anew. */
export interface Remade {
  remade: string[];
  /** Their log cannot be replayed, and why. */
  hopeless: { code: string; why: string }[];
}

/** What the log of one batch or lot says, beside what its row says. */
export interface Replayed<State> {
  entries: number;
  /** Its sequence has no gap and ends where the row says. */
  unbroken: boolean;
  agrees: boolean;
  state: State | null | Refusal;
}

/** A table whose rows each hold what the log of their code comes to. */
export interface StateTable<State> {
  table: 'batch' | 'lot' | 'customer_order' | 'part';
  replayed: (manager: EntityManager, code: string) => Promise<Replayed<State>>;
  /** Writes the state of one row anew. */
  write: (manager: EntityManager, code: string, state: State | null) => Promise<unknown>;
}

const codesOf = async (source: DataSource, table: string): Promise<string[]> =>
  (await source.query<{ code: string }[]>(`SELECT code FROM ${table} ORDER BY code`)).map(({ code }) => code);

/** Replays every row's log and tells which rows do not agree with it. */
export async function disagreementsOf<State>(
  source: DataSource,
  { table, replayed }: StateTable<State>,
): Promise<{ rows: number; entries: number; wrong: string[] }> {
  const codes = await codesOf(source, table);
  const wrong: string[] = [];
  let entries = 0;
  for (const code of codes) {
    const one = await replayed(source.manager, code);
    entries += one.entries;
    if (!one.agrees) wrong.push(code);
  }
  return { rows: codes.length, entries, wrong };
}

/**
 * Makes the state of every row anew from its log, where the two do not agree: after a version that keeps more in a state, or by
 * hand. The log itself is not touched.
 */
export async function remake<State>(
  source: DataSource,
  { table, replayed, write }: StateTable<State>,
  tell: (done: number, of: number) => void = () => undefined,
): Promise<Remade> {
  const codes = await codesOf(source, table);
  const result: Remade = { remade: [], hopeless: [] };
  for (const [i, code] of codes.entries()) {
    await source.transaction(async (manager) => {
      await manager.query(`SELECT 1 FROM ${table} WHERE code = $1 FOR UPDATE`, [code]);
      const { agrees, unbroken, state } = await replayed(manager, code);
      if (agrees) return;
      if (!unbroken) result.hopeless.push({ code, why: 'its sequence has a gap' });
      else if (isRefusal(state)) result.hopeless.push({ code, why: state.refused });
      else {
        await write(manager, code, state);
        // A server may run beside a repair by hand.
        await tellAll(manager, [code]);
        result.remade.push(code);
      }
    });
    tell(i + 1, codes.length);
  }
  return result;
}

/** One row, and the numbers of the entries that are marked as taken back, beside its replayed log. */
export function compared<State>(
  row: { seq: number; state: State | null },
  log: readonly { seq: number; body: { type: string } }[],
  state: State | null | Refusal,
  marks: readonly number[],
): Replayed<State> {
  const unbroken = log.every((entry, index) => entry.seq === index + 1) && log.length === row.seq;
  const same = !isRefusal(state) && canonical(state) === canonical(row.state);
  const voided = [...voidedBy(log)].sort((a, b) => a - b);
  return {
    entries: log.length,
    unbroken,
    agrees: unbroken && same && canonical(marks) === canonical(voided),
    state,
  };
}

/** JSON with sorted keys: PostgreSQL keeps no order of keys. */
export function canonical(value: unknown): string {
  return JSON.stringify(value, (_key, part: unknown) =>
    part && typeof part === 'object' && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  );
}
