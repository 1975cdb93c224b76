import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type LoadView = Schemas['LoadViewDto'];
export type TableView = Schemas['TableDto'];
export type Mill = Schemas['MillDto'];
export type Cutter = Schemas['CutterDto'];
export type Waiting = Schemas['WaitingDto'];
export type Machine = Schemas['MachineDto'];
export type Cycle = Schemas['CycleDto'];
export type Program = Schemas['ProgramDto'];
export type Dimension = Schemas['DimensionSummaryDto'];
export type CutterChange = Schemas['CutterChangeDto'];
export type Chart = Schemas['ChartDto'];

/** Machines and clocks go on by themselves. */
const LOOK_AGAIN_MS = 30_000;

export const useMills = (): UseQueryResult<{ code: string; name: string }[]> =>
  useQuery({
    queryKey: ['mills'],
    queryFn: () => answered(server.GET('/api/mill')),
    staleTime: Infinity,
  });

export const useMill = (station: string): UseQueryResult<Mill> =>
  useQuery({
    queryKey: ['mill', station],
    queryFn: async () => await answered(server.GET('/api/mill/{station}', { params: { path: { station } } })),
    refetchInterval: LOOK_AGAIN_MS,
    enabled: station !== '',
  });

export const useMachines = (): UseQueryResult<Machine[]> =>
  useQuery({
    queryKey: ['machines'],
    queryFn: () => answered(server.GET('/api/machines')),
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useDimensions = (): UseQueryResult<Dimension[]> =>
  useQuery({
    queryKey: ['checks'],
    queryFn: async () => await answered(server.GET('/api/checks')),
  });

export const useChart = (model: string, kind: string, check: string): UseQueryResult<Chart> =>
  useQuery({
    queryKey: ['checks', model, kind, check],
    queryFn: async () =>
      await answered(
        server.GET('/api/checks/{model}/{kind}/{check}', { params: { path: { model, kind, check } } }),
      ),
  });

export const usePrograms = (): UseQueryResult<Program[]> =>
  useQuery({ queryKey: ['programs'], queryFn: () => answered(server.GET('/api/programs')) });

export const useCutterChanges = (station: string): UseQueryResult<CutterChange[]> =>
  useQuery({
    queryKey: ['cutter-changes', station],
    queryFn: () =>
      answered(server.GET('/api/mill/{station}/cutter-changes', { params: { path: { station } } })),
  });
