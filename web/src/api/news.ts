import type { QueryClient, QueryFilters, QueryKey } from '@tanstack/react-query';

/** Where filings come one after the other, what is told within this time is fetched once. */
const GATHER_MS = 60;
/** After a quiet while it is fetched at once; a filing's answer and the server's news of it come about this close together. */
const SOON_MS = 15;
const QUIET_MS = 1000;
/** What no filing changes; a setting that is changed is told as such. */
const SETTINGS = new Set<unknown>([
  ...['setup', 'routes', 'route', 'model-routes', 'wood-gate', 'meters', 'changes', 'backups'],
]);

/** What is told of one batch, and changes only by filings on it. */
const OF_ONE = new Set<unknown>(['batch', 'rack']);

/** Says of a query's key whether what it fetched may be old. */
export type Stale = (key: QueryKey) => boolean;

export const everything: Stale = () => true;

/** What a filing on these racks or lots may have changed. */
export const changedOn =
  (batches: readonly string[]): Stale =>
  ([subject, of]) =>
    !SETTINGS.has(subject) && (!OF_ONE.has(subject) || batches.includes(String(of)));

interface Gathering {
  stale: Stale[];
  fetched: Promise<void>;
}
const lastTold = new WeakMap<QueryClient, number>();
const gathering = new WeakMap<QueryClient, Gathering>();

/**
 * Fetches again what may be old. What is told within a moment is fetched once: whoever files hears of it twice, from the answer and
 * from the news. Resolves when it is there.
 */
export function fetchAgain(queries: QueryClient, isStale: Stale): Promise<void> {
  const open = gathering.get(queries);
  if (open) {
    open.stale.push(isStale);
    return open.fetched;
  }
  const stale = [isStale];
  const nowMs = Date.now();
  const quiet = nowMs - (lastTold.get(queries) ?? -Infinity) > QUIET_MS;
  lastTold.set(queries, nowMs);
  const wait = quiet ? SOON_MS : GATHER_MS;
  const fetched = new Promise((resolve) => setTimeout(resolve, wait)).then(() => {
    gathering.delete(queries);
    return refetch(queries, {
      predicate: ({ queryKey }) => stale.some((one) => one(queryKey)),
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
