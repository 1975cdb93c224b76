import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type Presses = Schemas['PressesDto'];
export type BedView = Schemas['BedDto'];
export type Coming = Schemas['ComingDto'];
export type Meetings = Schemas['MeetingsDto'];
export type Side = Meetings['sides'][number];
export type PairingSide = Schemas['PairingSideDto'];
export type Pairing = Schemas['PairingDto'];

/** Clocks go on by themselves. */
const LOOK_AGAIN_MS = 60_000;

export const usePresses = (): UseQueryResult<Presses> =>
  useQuery({
    queryKey: ['presses'],
    queryFn: () => answered(server.GET('/api/presses')),
    refetchInterval: LOOK_AGAIN_MS,
  });

export const useMeetings = (): UseQueryResult<Meetings> =>
  useQuery({
    queryKey: ['meetings'],
    queryFn: async () => await answered(server.GET('/api/meetings')),
    refetchInterval: LOOK_AGAIN_MS,
  });

export const usePairing = (host: string, guest: string): UseQueryResult<Pairing> =>
  useQuery({
    queryKey: ['pairing', host, guest],
    queryFn: async () =>
      await answered(server.GET('/api/pairings/{host}/{guest}', { params: { path: { host, guest } } })),
    enabled: host !== '' && guest !== '',
  });
