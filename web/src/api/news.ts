import type { QueryClient, QueryFilters, QueryKey } from '@tanstack/react-query';

/** A filing's answer and the server's news of it come this close together. */
const GATHER_MS = 60;

/** A key that everything begins with. */
export const EVERYTHING: QueryKey = [];

interface Gathering {
  stale: QueryKey[];
  fetched: Promise<void>;
}
const gathering = new WeakMap<QueryClient, Gathering>();

/**
 * Fetches again what begins with one of these keys. What is told within a moment is fetched once, after the last of it was
 * told: whoever files hears of it twice, from the answer and from the news. Resolves when it is there.
 */
export function fetchAgain(queries: QueryClient, ...keys: QueryKey[]): Promise<void> {
  const open = gathering.get(queries);
  if (open) {
    open.stale.push(...keys);
    return open.fetched;
  }
  const stale = [...keys];
  const fetched = new Promise((resolve) => setTimeout(resolve, GATHER_MS)).then(() => {
    gathering.delete(queries);
    return refetch(queries, {
      predicate: ({ queryKey }) => stale.some((key) => key.every((part, i) => queryKey[i] === part)),
    });
  });
  gathering.set(queries, { stale, fetched });
  return fetched;
}

/**
 * TanStack Query begins a fetch anew when it is told of news, but for the very first of a query: that one is awaited, though it
 * may have been answered from before the news. Such are fetched once more when they are there.
 */
async function refetch(queries: QueryClient, of: QueryFilters): Promise<void> {
  const first = queries
    .getQueryCache()
    .findAll({ ...of, fetchStatus: 'fetching' })
    .filter(({ state }) => state.data === undefined);
  await queries.invalidateQueries(of);
  if (first.length > 0) await queries.invalidateQueries({ predicate: (query) => first.includes(query) });
}
