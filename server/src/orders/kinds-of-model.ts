import { endsRoute, type KindsOfModel } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import type { SetupService } from '../setup/setup.service.ts';

/**
 * The kinds an order of a model is opened in, each with the kinds its pieces count as: what is joined into the instrument, and
 * the instrument. Where nothing is joined, the instrument alone. By the newest routes.
 */
export async function kindsOfModel(
  setup: SetupService,
  model: string,
  db?: EntityManager,
): Promise<ReadonlyMap<string, readonly string[]>> {
  const routes = await setup.newestRoutes(model, db);
  const last = routes.find(({ operations }) => operations.some(({ mode }) => mode === 'ship'));
  if (!last) return new Map();
  const parts = routes.filter((route) =>
    route.operations.some(
      (operation) =>
        operation.mode === 'join' && operation.makesKind === last.kind && endsRoute(route, operation),
    ),
  );
  return parts.length === 0
    ? new Map([[last.kind, [last.kind]]])
    : new Map(parts.map(({ kind }) => [kind, [kind, last.kind]]));
}

/** The same of several models. */
export async function kindsOfModels(setup: SetupService, models: readonly string[]): Promise<KindsOfModel> {
  const names = [...new Set(models)];
  const kinds = await Promise.all(names.map((model) => kindsOfModel(setup, model)));
  return new Map(names.map((model, i) => [model, kinds[i] ?? new Map<string, readonly string[]>()]));
}
