import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type Bench = Schemas['BenchDto'];
export type BenchLine = Schemas['BenchLineDto'];
export type Sheet = Schemas['SheetDto'];
export type Serials = Schemas['SerialsDto'];
export type Ledger = Schemas['LedgerDto'];
export type LedgerLine = Schemas['LedgerLineDto'];
export type Leaving = Schemas['LeavingLineDto'];

/** The shelf goes on by itself. */
const LOOK_AGAIN_MS = 60_000;

export const useBench = (): UseQueryResult<Bench> =>
  useQuery({
    queryKey: ['bench'],
    queryFn: () => answered(server.GET('/api/bench')),
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useSheet = (batch: string, position: number): UseQueryResult<Sheet> =>
  useQuery({
    queryKey: ['batch', batch, 'sheet', position],
    queryFn: () =>
      answered(server.GET('/api/bench/{batch}/{position}', { params: { path: { batch, position } } })),
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useSerials = (): UseQueryResult<Serials> =>
  useQuery({ queryKey: ['serials'], queryFn: () => answered(server.GET('/api/serials')) });

/** What left in so many days, or with one filing. */
export const useLedger = (asked: { days: number } | { filing: string }): UseQueryResult<Ledger> =>
  useQuery({
    queryKey: ['shipments', asked],
    queryFn: () => answered(server.GET('/api/shipments', { params: { query: asked } })),
  });

export const useLeaving = (): UseQueryResult<Leaving[]> =>
  useQuery({ queryKey: ['leaving'], queryFn: () => answered(server.GET('/api/leaving')) });
