import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

/** Lots carry this letter. */
const LOT_PREFIX = 'W-';

function listen(queries: QueryClient, setOpen: (open: boolean) => void): EventSource {
  const source = new EventSource('/api/events');
  source.onopen = () => {
    setOpen(true);
    // What was missed while the line was down is not known.
    void queries.invalidateQueries();
  };
  source.onerror = () => setOpen(false);
  source.addEventListener('news', (event: MessageEvent<string>) => {
    const { batches } = JSON.parse(event.data) as { batches: string[] };
    void queries.invalidateQueries({ queryKey: ['board'] });
    void queries.invalidateQueries({ queryKey: ['flow'] });
    void queries.invalidateQueries({ queryKey: ['finish'] });
    if (batches.length === 0) void queries.invalidateQueries();
    for (const code of batches) void queries.invalidateQueries({ queryKey: ['batch', code] });
    if (batches.some((code) => code.startsWith(LOT_PREFIX))) {
      for (const key of ['lots', 'lot', 'blanks', 'choice'])
        void queries.invalidateQueries({ queryKey: [key] });
    }
  });
  return source;
}

/**
 * Follows the server's news while the page can be seen: what changed is fetched again. A hidden page lets its line go,
 * for a browser keeps only six to one server and seven open tabs would starve each other; seen again, it fetches all.
 * Returns whether the line is open.
 */
export function useLiveNews(): boolean {
  const queries = useQueryClient();
  const [open, setOpen] = useState(true);
  useEffect(() => {
    let source: EventSource | undefined;
    const follow = (): void => {
      source?.close();
      source = document.visibilityState === 'visible' ? listen(queries, setOpen) : undefined;
    };
    follow();
    document.addEventListener('visibilitychange', follow);
    return () => {
      document.removeEventListener('visibilitychange', follow);
      source?.close();
    };
  }, [queries]);
  return open;
}
