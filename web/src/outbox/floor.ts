import type { QueryClient, QueryKey } from '@tanstack/react-query';
import { openStore } from './store.ts';

/** What a page needs to open, and to understand a line, without the server; by the name it is kept under. */
const KEPT: Readonly<Record<string, QueryKey>> = {
  floor: ['floor'],
  board: ['board'],
  setup: ['setup'],
};
/** A large floor changes every few seconds; written each time it would hold the page up. */
const KEEP_EVERY_MS = 5000;

interface KeptAnswer {
  data: unknown;
  updatedMs: number;
}

/** Shows the last floor this browser saw until the server answers, with the time it is of, and keeps each newer one. */
export async function keepFloor(queries: QueryClient): Promise<void> {
  const store = await openStore();
  const written: Record<string, number> = {};
  for (const [name, key] of Object.entries(KEPT)) {
    const kept = (await store.get('floor', name)) as KeptAnswer | undefined;
    if (!kept) continue;
    written[name] = kept.updatedMs;
    if (queries.getQueryData(key) === undefined)
      queries.setQueryData(key, kept.data, { updatedAt: kept.updatedMs });
  }
  setInterval(() => {
    for (const [name, key] of Object.entries(KEPT)) {
      const { data, dataUpdatedAt: updatedMs } = queries.getQueryState(key) ?? {};
      if (data === undefined || updatedMs === undefined || updatedMs === written[name]) continue;
      written[name] = updatedMs;
      void store.put('floor', { data, updatedMs } satisfies KeptAnswer, name);
    }
  }, KEEP_EVERY_MS);
}
