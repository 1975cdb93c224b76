import { useQuery, type UseQueryResult } from '@tanstack/react-query';
import { answered, server, type Schemas } from '../api/client.ts';

export type FinishList = Schemas['FinishListDto'];
export type ListedRack = Schemas['ListedRackDto'];
export type FinishRack = Schemas['FinishRackDto'];
export type RackPage = Schemas['FinishRackPageDto'];
export type SendBack = Schemas['SendBackDto'];
export type Panel = Schemas['PanelDto'];
export type Panels = Schemas['PanelsDto'];
export type PanelOffer = Schemas['PanelOfferDto'];
export type Booth = Schemas['BoothDto'];
export type Booths = Schemas['BoothsDto'];
export type BoothLogged = Booth['logged'][number];
export type BoothRack = Booth['racks'][number];
export type RecipeView = Schemas['RecipeDto'];
export type Recipes = Schemas['RecipesDto'];
export type Material = Schemas['MaterialDto'];
export type Materials = Schemas['MaterialsDto'];
export type Mixing = NonNullable<Material['mix']>;

/** Clocks go on by themselves. */
const LOOK_AGAIN_MS = 60_000;

function useAsked<T>(key: readonly unknown[], ask: () => Promise<T>, enabled = true): UseQueryResult<T> {
  return useQuery({
    queryKey: ['finish', ...key],
    queryFn: ask,
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
