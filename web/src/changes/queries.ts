import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server } from '../api/client.ts';
import type { Change } from './words.ts';

/** Who changed what everything is judged by, newest first. */
export const useChanges = (): UseQueryResult<Change[]> =>
  useQuery({
    queryKey: ['changes'],
    queryFn: () => answered(server.GET('/api/setup/changes')),
  });
