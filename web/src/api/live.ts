import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';

/** Follows the server's news: what changed is fetched again. Returns whether the line is open. */
export function useLiveNews(): boolean {
  const queries = useQueryClient();
  const [open, setOpen] = useState(true);
  useEffect(() => {
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
      if (batches.length === 0) void queries.invalidateQueries();
      for (const code of batches) void queries.invalidateQueries({ queryKey: ['batch', code] });
    });
    return () => source.close();
  }, [queries]);
  return open;
}
