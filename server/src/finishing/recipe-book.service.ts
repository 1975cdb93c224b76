import {
  finishPlan,
  recipeMisfits,
  type FinishPlan,
  type Operation,
  type Recipe,
  type Route,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { RecipeRow } from './rows.ts';
import type { ModelFinish } from '../setup/rows.ts';
import { SetupService } from '../setup/setup.service.ts';

/** A route as a recipe sees it. */
export const finishOperations = (route: Route) =>
  route.operations.map((operation) => ({
    key: operation.key,
    name: operation.name,
    mode: operation.mode,
    ...(operation.mode === 'hold' && operation.rule.rule === 'cure' ? { until: operation.rule.until } : {}),
  }));

/** Rooms in which a route lets a finish cure until it may be buffed. */
export const cureRoomsOf = (operations: readonly Operation[]): string[] =>
  operations.flatMap((operation) =>
    operation.mode === 'hold' && operation.rule.rule === 'cure' && operation.rule.until === 'buff'
      ? [operation.room]
      : [],
  );

/** The recipes at their revisions. */
@Injectable()
export class RecipeBookService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
  ) {}

  /** The newest revision of every recipe, in order of their titles. */
  async newest(db: EntityManager = this.source.manager): Promise<RecipeRow[]> {
    const rows = await db
      .getRepository(RecipeRow)
      .createQueryBuilder('r')
      .distinctOn(['r.name'])
      .orderBy('r.name')
      .addOrderBy('r.revision', 'DESC')
      .getMany();
    return rows.sort((a, b) => a.recipe.title.localeCompare(b.recipe.title));
  }

  async newestOf(name: string, db: EntityManager = this.source.manager): Promise<Recipe | undefined> {
    const [row] = await db
      .getRepository(RecipeRow)
      .find({ where: { name }, order: { revision: 'DESC' }, take: 1 });
    return row?.recipe;
  }

  /** A recipe at one of its revisions. */
  async byId(id: string, db: EntityManager = this.source.manager): Promise<Recipe | undefined> {
    return (await db.getRepository(RecipeRow).findOneBy({ id }))?.recipe;
  }

  /** How a model finishes parts of a kind; undefined: it does not. */
  async finishOf(
    model: string,
    kind: string,
    db: EntityManager = this.source.manager,
  ): Promise<ModelFinish | undefined> {
    return (await this.setup.model(model, db))?.finish[kind];
  }

  /** The room where most routes let their finish cure; undefined: none does. */
  async cureRoom(): Promise<string | undefined> {
    const rows = await this.setup.revisions();
    const counted = new Map<string, number>();
    for (const room of rows.flatMap(({ operations }) => cureRoomsOf(operations)))
      counted.set(room, (counted.get(room) ?? 0) + 1);
    return [...counted].sort(([a, n], [b, m]) => m - n || a.localeCompare(b))[0]?.[0];
  }

  /** What a new batch gets by itself: its model's usual recipe, where that fits the route it works. */
  async usual(
    model: string,
    kind: string,
    route: Route,
    db: EntityManager = this.source.manager,
  ): Promise<FinishPlan | undefined> {
    const name = (await this.finishOf(model, kind, db))?.recipes[0];
    const recipe = name === undefined ? undefined : await this.newestOf(name, db);
    if (!recipe || recipeMisfits(recipe, finishOperations(route)).length > 0) return undefined;
    return finishPlan(recipe);
  }
}
