import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type Drying = Schemas['DryingDto'];
export type LotDetail = Schemas['LotDto'];
export type Choice = Schemas['BlankChoiceDto'];
export type WoodGate = Schemas['WoodGateViewDto'];
export type LotSummary = Schemas['LotSummaryDto'];
export type Room = Schemas['RoomDto'];
export type Meter = Schemas['MeterDto'];
export type StockBlankView = Schemas['BlankDto'];
export type Outlook = Schemas['OutlookDto'];

/** Rooms and forecasts change by themselves. */
const LOOK_AGAIN_MS = 60_000;

export const useLots = (): UseQueryResult<LotSummary[]> =>
  useQuery({
    queryKey: ['lots'],
    queryFn: () => answered(server.GET('/api/lots')),
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useLot = (code: string, enabled = true): UseQueryResult<LotDetail> =>
  useQuery({
    queryKey: ['lot', code],
    queryFn: async () => await answered(server.GET('/api/lots/{code}', { params: { path: { code } } })),
    enabled,
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useRackDrying = (code: string, enabled = true): UseQueryResult<Drying> =>
  useQuery({
    queryKey: ['batch', code, 'drying'],
    queryFn: async () =>
      await answered(server.GET('/api/batches/{code}/drying', { params: { path: { code } } })),
    enabled,
  });

export const useRooms = (): UseQueryResult<Room[]> =>
  useQuery({
    queryKey: ['rooms'],
    queryFn: () => answered(server.GET('/api/climate/rooms')),
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useCourse = (room: string, days: number): UseQueryResult<Schemas['CourseDto']> =>
  useQuery({
    queryKey: ['rooms', room, days],
    queryFn: () =>
      answered(server.GET('/api/climate/rooms/{room}', { params: { path: { room }, query: { days } } })),
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useMeters = (): UseQueryResult<Meter[]> =>
  useQuery({ queryKey: ['meters'], queryFn: () => answered(server.GET('/api/meters')) });

export const useWoodGate = (): UseQueryResult<WoodGate> =>
  useQuery({
    queryKey: ['wood-gate'],
    queryFn: async () => await answered(server.GET('/api/wood/gate')),
  });

export const useBlanks = (): UseQueryResult<StockBlankView[]> =>
  useQuery({ queryKey: ['blanks'], queryFn: () => answered(server.GET('/api/stock/blanks')) });

export const useChoice = (batch: string): UseQueryResult<Choice> =>
  useQuery({
    queryKey: ['choice', batch],
    queryFn: async () =>
      await answered(server.GET('/api/stock/choice/{batch}', { params: { path: { batch } } })),
    retry: false,
  });

/** What was weighed back of a model's kind and counts, newest first. */
export const useWeighBacks = (model: string, kind: string): UseQueryResult<Schemas['WeighedViewDto'][]> =>
  useQuery({
    queryKey: ['choice', 'weighed', model, kind],
    queryFn: () => answered(server.GET('/api/stock/weigh-backs', { params: { query: { model, kind } } })),
  });
