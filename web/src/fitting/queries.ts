import type { Check, GapWindow, MeetingForecast, MeetingSide } from '@ample-crane/core';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

/** The places where the document's open objects become the core's types. */
export type Presses = Schemas['PressesDto'];
export type BedSeen = Schemas['BedDto'];
export type Coming = Schemas['ComingDto'];
export type Side = MeetingSide & { joinName: string };
export type Meetings = Omit<Schemas['MeetingsDto'], 'sides' | 'forecast'> & {
  sides: Side[];
  forecast: MeetingForecast;
};
export type PairingSide = Omit<Schemas['PairingSideDto'], 'check'> & { check: Check };
export type Pairing = Omit<Schemas['PairingDto'], 'windowMm' | 'host' | 'guest'> & {
  windowMm: GapWindow;
  host: PairingSide;
  guest: PairingSide;
};

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
    queryFn: async () => (await answered(server.GET('/api/meetings'))) as unknown as Meetings,
    refetchInterval: LOOK_AGAIN_MS,
  });

export const usePairing = (host: string, guest: string): UseQueryResult<Pairing> =>
  useQuery({
    queryKey: ['pairing', host, guest],
    queryFn: async () =>
      (await answered(
        server.GET('/api/pairings/{host}/{guest}', { params: { path: { host, guest } } }),
      )) as unknown as Pairing,
    enabled: host !== '' && guest !== '',
  });
