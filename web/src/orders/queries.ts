import type { Stage } from '@ample-crane/core';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type OptionBook = Schemas['OptionBookDto'];
export type OrderSummary = Schemas['OrderSummaryDto'];
export type Order = Schemas['OrderDto'];
export type OrderLine = Schemas['OrderLineDto'];
export type OrderPlace = Schemas['OrderPlaceDto'];
export type PlannedRack = Schemas['PlannedRackDto'];
export type Backlog = Schemas['BacklogDto'];
export type LineWeight = Schemas['LineWeightDto'];
export type LineMoves = Schemas['LineMovesDto'];
export type TagOption = Schemas['TagOptionDto'];
export type SpecChange = Schemas['SpecChangeDto'];

export const useOptionBooks = (): UseQueryResult<OptionBook[]> =>
  useQuery({ queryKey: ['options'], queryFn: () => answered(server.GET('/api/options')) });

export const useOrders = (): UseQueryResult<OrderSummary[]> =>
  useQuery({ queryKey: ['orders'], queryFn: () => answered(server.GET('/api/orders')) });

export const useOrder = (code: string): UseQueryResult<Order> =>
  useQuery({
    queryKey: ['orders', code],
    queryFn: () => answered(server.GET('/api/orders/{code}', { params: { path: { code } } })),
  });

/** Racks that what is ordered would make. */
export const usePlannedRacks = (query: {
  largest: number;
  withinDays: number;
}): UseQueryResult<PlannedRack[]> =>
  useQuery({
    queryKey: ['orders', 'racks', query],
    queryFn: () => answered(server.GET('/api/orders/racks', { params: { query } })),
    placeholderData: (before) => before,
  });

export const useBacklog = (): UseQueryResult<Backlog> =>
  useQuery({ queryKey: ['orders', 'backlog'], queryFn: () => answered(server.GET('/api/orders/backlog')) });

/** What the instruments of an order will weigh, where that is wished. */
export const useWeights = (code: string, wished: boolean): UseQueryResult<LineWeight[]> =>
  useQuery({
    queryKey: ['orders', code, 'weights'],
    queryFn: () => answered(server.GET('/api/orders/{code}/weights', { params: { path: { code } } })),
    enabled: wished,
  });

/** Why the earliest day of each line is not what it was when it was ordered. */
export const useMoves = (code: string): UseQueryResult<LineMoves[]> =>
  useQuery({
    queryKey: ['orders', code, 'moves'],
    queryFn: () => answered(server.GET('/api/orders/{code}/moves', { params: { path: { code } } })),
  });

/** What the tags of the racks of a stage say where they are worked. */
export const useTags = (stage: Stage): UseQueryResult<Schemas['TagsDto'][]> =>
  useQuery({
    queryKey: ['orders', 'tags', stage],
    queryFn: () => answered(server.GET('/api/tags', { params: { query: { stage } } })),
  });

/** What another value of an option would touch; null: nothing is asked. */
export const useTouches = (
  code: string,
  query: { line: number; option: string; value: string } | null,
): UseQueryResult<SpecChange[]> =>
  useQuery({
    queryKey: ['orders', code, 'touches', query],
    queryFn: () =>
      query === null
        ? []
        : answered(server.GET('/api/orders/{code}/touches', { params: { path: { code }, query } })),
  });
