import { workedRoute, type BatchState, type Route } from '@ample-crane/core';

/** The route a batch works, among those an answer brought along; undefined when it is not there. */
export function routeFor(
  { routes }: { routes: readonly Route[] },
  { routeId, ways }: Pick<BatchState, 'routeId' | 'ways'>,
): Route | undefined {
  const drawn = routes.find((route) => route.id === routeId);
  return drawn && workedRoute(drawn, ways);
}
