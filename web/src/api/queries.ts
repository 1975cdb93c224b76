import type { RackQuestion } from '@ample-crane/core';
import { keepPreviousData, useQueries, useQuery, type UseQueryResult } from '@tanstack/react-query';
import { hearFactoryClock } from '../outbox/clock.ts';
import { answered, server, type Schemas } from './client.ts';

export type Floor = Schemas['FloorDto'];
export type Board = Schemas['BoardDto'];
export type BoardRow = Schemas['BoardRowDto'];
export type StageRow = Schemas['StageRowDto'];
export type RackLine = Schemas['RackLineDto'];
export type RackAt = Schemas['RackAtDto'];
export type HoldAt = Schemas['HoldAtDto'];
export type Rack = Schemas['RackDto'];
export type Hold = Schemas['HoldDto'];
export type StationView = Schemas['StationDto'];
export type BatchDetail = Schemas['BatchDto'];
export type Flow = Schemas['FlowDto'];
export type Setup = Schemas['SetupDto'];

/** Also without news the floor is looked at again: holds end by themselves. */
const FLOOR_EVERY_MS = 60_000;

/** What stands around every page: clock, rope, last filing, names for the log line. */
export function useFloor(): UseQueryResult<Floor> {
  return useQuery({
    queryKey: ['floor'],
    queryFn: async () => {
      const askedMs = Date.now();
      const floor = await answered(server.GET('/api/floor'));
      hearFactoryClock(floor.nowMs, askedMs);
      return floor;
    },
    refetchInterval: FLOOR_EVERY_MS,
  });
}

/** The board, drawn with all open racks or with those that are like what is asked. */
export function useBoard({ late, ...asked }: RackQuestion = {}): UseQueryResult<Board> {
  const query = { ...asked, ...(late && { late: 'yes' as const }) };
  return useQuery({
    queryKey: ['board', query],
    queryFn: () => answered(server.GET('/api/board', { params: { query } })),
    placeholderData: keepPreviousData,
    refetchInterval: FLOOR_EVERY_MS,
  });
}

/** The stations of a stage with everything that stands at them. */
export function useStage(stage: string): UseQueryResult<StageRow[]> {
  return useQuery({
    queryKey: ['stage', stage],
    queryFn: () => answered(server.GET('/api/stages/{stage}', { params: { path: { stage } } })),
    refetchInterval: FLOOR_EVERY_MS,
  });
}

/** Every open rack. */
export function useRackList(): UseQueryResult<RackLine[]> {
  return useQuery({
    queryKey: ['racks'],
    queryFn: () => answered(server.GET('/api/racks')),
    refetchInterval: FLOOR_EVERY_MS,
  });
}

/** The racks a line names, as they stand; one that is not there yet, or is none, is left out. */
export function useRacks(codes: readonly string[]): ReadonlyMap<string, Rack> {
  return useQueries({
    queries: codes.map((code) => ({
      queryKey: ['rack', code],
      queryFn: async () =>
        await answered(server.GET('/api/batches/{code}/rack', { params: { path: { code } } })),
    })),
    combine: racksFound,
  });
}

const racksFound = (results: readonly UseQueryResult<Rack>[]): ReadonlyMap<string, Rack> =>
  new Map(results.flatMap(({ data }) => (data ? [[data.code, data] as const] : [])));

/** Open racks that stand at their side of a join with this one's model. */
export function usePartners(code: string): UseQueryResult<Schemas['JoinPartnerDto'][]> {
  return useQuery({
    queryKey: ['partners', code],
    queryFn: () => answered(server.GET('/api/batches/{code}/partners', { params: { path: { code } } })),
  });
}

export function useBatch(code: string): UseQueryResult<BatchDetail> {
  return useQuery({
    queryKey: ['batch', code],
    queryFn: async () => await answered(server.GET('/api/batches/{code}', { params: { path: { code } } })),
    refetchInterval: FLOOR_EVERY_MS,
  });
}

export function useFlow(days: number): UseQueryResult<Flow> {
  return useQuery({
    queryKey: ['flow', days],
    queryFn: () => answered(server.GET('/api/flow', { params: { query: { days } } })),
  });
}

/** Which station or skill paces the factory, by the last so many working days. */
export const useLeft = (station: string, day: string, days: number): UseQueryResult<Schemas['LeftDto']> =>
  useQuery({
    queryKey: ['flow', 'left', station, day, days],
    queryFn: () => answered(server.GET('/api/flow/left', { params: { query: { station, day, days } } })),
  });

export const useConstraint = (days: number): UseQueryResult<Schemas['ConstraintPageDto']> =>
  useQuery({
    queryKey: ['flow', 'constraint', days],
    queryFn: () => answered(server.GET('/api/flow/constraint', { params: { query: { days } } })),
    placeholderData: (before) => before,
  });

/** The people of the works: to choose one, and by their names. */
export function usePeople(): {
  options: { value: string; words: string }[];
  nameOf: (code: string) => string;
} {
  const { data } = useSetup();
  const options = (data?.people ?? []).map(({ code, name }) => ({ value: code, words: name }));
  return { options, nameOf: (code) => options.find(({ value }) => value === code)?.words ?? code };
}

export function useSetup(): UseQueryResult<Setup> {
  return useQuery({
    queryKey: ['setup'],
    queryFn: async () => await answered(server.GET('/api/setup')),
    staleTime: Infinity,
  });
}
