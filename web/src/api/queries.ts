import type { BatchState, FactoryCalendar, Route } from '@ample-crane/core';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { hearFactoryClock } from '../outbox/clock.ts';
import { answered, server, type Schemas } from './client.ts';

/** The one place where the document's open operation objects become the core's routes. */
type WithRoutes<T> = Omit<T, 'routes'> & { routes: Route[] };
type WithRoute<T> = Omit<T, 'route'> & { route: Route };

export type Board = WithRoutes<Schemas['BoardDto']>;
export type BoardBatch = Schemas['BoardBatchDto'];
export type Hold = Schemas['HoldDto'];
export type StationSeen = Schemas['StationDto'];
export type BatchDetail = Omit<WithRoute<Schemas['BatchDto']>, 'state'> & { state: BatchState | null };
export type Flow = Schemas['FlowDto'];
type Model = Omit<Schemas['OpenableDto'], 'finish'> & {
  /** By kind letter: names of recipes, the usual one first. */
  finish: Record<string, { recipes: string[]; areaM2: number }>;
};
export type Setup = Omit<Schemas['SetupDto'], 'calendar' | 'models'> & {
  calendar: FactoryCalendar;
  models: Model[];
};

/** Also without news the board is looked at again: holds end by themselves. */
const BOARD_EVERY_MS = 60_000;

export function useBoard(): UseQueryResult<Board> {
  return useQuery({
    queryKey: ['board'],
    queryFn: async () => {
      const board = (await answered(server.GET('/api/board'))) as unknown as Board;
      hearFactoryClock(board.nowMs);
      return board;
    },
    refetchInterval: BOARD_EVERY_MS,
  });
}

export function useBatch(code: string): UseQueryResult<BatchDetail> {
  return useQuery({
    queryKey: ['batch', code],
    queryFn: async () =>
      (await answered(
        server.GET('/api/batches/{code}', { params: { path: { code } } }),
      )) as unknown as BatchDetail,
    refetchInterval: BOARD_EVERY_MS,
  });
}

export function useFlow(days: number): UseQueryResult<Flow> {
  return useQuery({
    queryKey: ['flow', days],
    queryFn: () => answered(server.GET('/api/flow', { params: { query: { days } } })),
  });
}

export function useSetup(): UseQueryResult<Setup> {
  return useQuery({
    queryKey: ['setup'],
    queryFn: async () => (await answered(server.GET('/api/setup'))) as unknown as Setup,
    staleTime: Infinity,
  });
}
