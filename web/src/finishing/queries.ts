import type {
  AirNow,
  BatchState,
  BoothHour,
  BoothLimits,
  FinishSight,
  ListedSight,
  PanelFit,
  Recipe,
  RescaledHours,
  Route,
  Supply,
} from '@ample-crane/core';
import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

/** The places where the document's open objects become the core's types. */
export type FinishRack = Omit<Schemas['FinishRackDto'], 'sights'> & { sights: FinishSight[] };
export type ListedRack = Omit<FinishRack, 'sights'> & { sights: ListedSight[] };
export type FinishList = Omit<Schemas['FinishListDto'], 'racks'> & { racks: ListedRack[] };
export type Panel = Omit<Schemas['PanelDto'], 'fit'> & { fit: PanelFit | null };
export type RackPage = Omit<Schemas['FinishRackPageDto'], 'rack' | 'state' | 'route' | 'panels'> & {
  rack: FinishRack;
  state: BatchState;
  route: Route;
  panels: Panel[];
};
export type SendBack = Schemas['SendBackDto'];

interface BoothAirSeen {
  atMs: number;
  temperatureC: number;
  relativeHumidityPct: number;
  surfaceC?: number;
}
export interface BoothLogged extends BoothAirSeen {
  dewC: number;
  marginC: number;
  verdict: BoothHour['verdict'];
}
export interface BoothRack {
  batch: string;
  model: string;
  operation: string;
  standing: 'waiting' | 'inHand';
  pieces: number;
  dueMs: number;
  minutes: number;
}
export type Booth = Omit<Schemas['BoothDto'], 'limits' | 'now' | 'logged' | 'ahead' | 'racks'> & {
  limits: BoothLimits;
  now:
    | (BoothAirSeen & {
        judged: {
          verdict: BoothHour['verdict'];
          dewC: number;
          marginC: number;
          surfaceMeasured: boolean;
          against: string[];
        };
      })
    | null;
  logged: BoothLogged[];
  ahead: BoothHour[];
  racks: BoothRack[];
};
export type Booths = Omit<Schemas['BoothsDto'], 'booths'> & { booths: Booth[] };

export type RecipeSeen = Omit<Schemas['RecipeDto'], 'recipe'> & { recipe: Recipe };
export type Recipes = Omit<Schemas['RecipesDto'], 'season' | 'recipes'> & {
  season: AirNow;
  recipes: RecipeSeen[];
};

export type PanelOffer = Omit<Schemas['PanelOfferDto'], 'offered'> & { offered: RescaledHours };
export type Panels = Omit<Schemas['PanelsDto'], 'panels' | 'offers'> & {
  panels: Panel[];
  offers: PanelOffer[];
};

export interface Mixing {
  parts: { name: string; parts: number }[];
  potLifeHours: number;
}
export type Material = Omit<Schemas['MaterialDto'], 'supply' | 'mix'> & {
  supply: Supply;
  mix: Mixing | null;
};
export type Materials = Omit<Schemas['MaterialsDto'], 'materials'> & { materials: Material[] };

/** Clocks go on by themselves. */
const LOOK_AGAIN_MS = 60_000;

function useAsked<T>(
  key: readonly unknown[],
  ask: () => Promise<unknown>,
  enabled = true,
): UseQueryResult<T> {
  return useQuery({
    queryKey: ['finish', ...key],
    queryFn: async () => (await ask()) as T,
    refetchInterval: LOOK_AGAIN_MS,
    enabled,
  });
}

export const useFinishList = (): UseQueryResult<FinishList> =>
  useAsked(['racks'], () => answered(server.GET('/api/finish/racks')));

export const useRackPage = (code: string): UseQueryResult<RackPage> =>
  useAsked(['rack', code], () =>
    answered(server.GET('/api/finish/racks/{code}', { params: { path: { code } } })),
  );

export const useSendBack = (
  code: string,
  query: { from: string; to: string; pieces: number[] },
): UseQueryResult<SendBack> =>
  useAsked(
    ['send-back', code, query],
    () =>
      answered(
        server.GET('/api/finish/racks/{code}/send-back', {
          params: { path: { code }, query: { ...query, pieces: query.pieces.join(',') } },
        }),
      ),
    query.pieces.length > 0 && query.to !== '',
  );

export const useBooths = (): UseQueryResult<Booths> =>
  useAsked(['booths'], () => answered(server.GET('/api/finish/booths')));

export const useRecipes = (): UseQueryResult<Recipes> =>
  useAsked(['recipes'], () => answered(server.GET('/api/finish/recipes')));

export const usePanels = (): UseQueryResult<Panels> =>
  useAsked(['panels'], () => answered(server.GET('/api/finish/panels')));

export const useMaterials = (): UseQueryResult<Materials> =>
  useAsked(['materials'], () => answered(server.GET('/api/finish/materials')));
