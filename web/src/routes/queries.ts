import type { Route } from '@ample-crane/core';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type RouteSummary = Schemas['RouteSummaryDto'];

export const useRoutes = (): UseQueryResult<RouteSummary[]> =>
  useQuery({ queryKey: ['routes'], queryFn: () => answered(server.GET('/api/routes')) });

/** A route never changes. */
export const useRoute = (id: string): UseQueryResult<Route> =>
  useQuery({
    queryKey: ['route', id],
    queryFn: async () => await answered(server.GET('/api/routes/{id}', { params: { path: { id } } })),
    enabled: id !== '',
    staleTime: Infinity,
  });

/** The newest routes of a model, one for each kind. */
export const useModelRoutes = (model: string): UseQueryResult<Route[]> =>
  useQuery({
    queryKey: ['model-routes', model],
    queryFn: async () =>
      await answered(server.GET('/api/models/{model}/routes', { params: { path: { model } } })),
    enabled: model !== '',
  });
