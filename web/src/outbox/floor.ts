import type { QueryClient, QueryKey } from '@tanstack/react-query';
import { openStore } from './store.ts';

/** What a page needs to open, and to understand a line, without the server. */
const KEPT: readonly QueryKey[] = [['board'], ['setup']];

interface KeptAnswer {
  data: unknown;
  updatedMs: number;
}

/**
 * Keeps the last floor this browser saw, and shows it until the server answers: with the time it is of. A browser that keeps
 * nothing shows nothing.
 */
export async function keepFloor(queries: QueryClient): Promise<void> {
  const store = await openStore();
  for (const key of KEPT) {
    const kept = (await store.get('floor', String(key[0]))) as KeptAnswer | undefined;
    if (kept && queries.getQueryData(key) === undefined)
      queries.setQueryData(key, kept.data, { updatedAt: kept.updatedMs });
  }
  queries.getQueryCache().subscribe(({ type, query }) => {
    const [asked, ...more] = query.queryKey as QueryKey;
    const key = KEPT.find(([name]) => more.length === 0 && asked === name);
    if (!key || type !== 'updated' || query.state.status !== 'success') return;
    const kept: KeptAnswer = { data: query.state.data, updatedMs: query.state.dataUpdatedAt };
    void store.put('floor', kept, String(key[0]));
  });
}
