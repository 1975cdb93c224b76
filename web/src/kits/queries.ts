import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type Kits = Schemas['KitsDto'];
export type RackAhead = Schemas['RackAheadDto'];
export type BinAhead = Schemas['BinAheadDto'];
export type Shortage = Schemas['ShortageDto'];
export type Pick = Schemas['PickDto'];
export type PickLine = Schemas['PickLineDto'];
export type Part = Schemas['PartDto'];
export type PartWithLog = Schemas['PartWithLogDto'];
export type Bill = Schemas['BillDto'];
export type BillLine = Schemas['BillLineDto'];

/** Racks come nearer by themselves. */
const LOOK_AGAIN_MS = 60_000;

export const useKits = (days: number): UseQueryResult<Kits> =>
  useQuery({
    queryKey: ['kits', days],
    queryFn: () => answered(server.GET('/api/kits', { params: { query: { days } } })),
    refetchInterval: LOOK_AGAIN_MS,
    placeholderData: (before) => before,
  });

export const usePick = (batch: string, position: number): UseQueryResult<Pick> =>
  useQuery({
    queryKey: ['batch', batch, 'kit', position],
    queryFn: () =>
      answered(server.GET('/api/kits/{batch}/{position}', { params: { path: { batch, position } } })),
  });

export const useParts = (): UseQueryResult<Part[]> =>
  useQuery({ queryKey: ['parts'], queryFn: () => answered(server.GET('/api/parts')) });

export const usePart = (code: string): UseQueryResult<PartWithLog> =>
  useQuery({
    queryKey: ['parts', code],
    queryFn: () => answered(server.GET('/api/parts/{code}', { params: { path: { code } } })),
  });

export const useBills = (): UseQueryResult<Bill[]> =>
  useQuery({ queryKey: ['bills'], queryFn: () => answered(server.GET('/api/bills')) });
