import {
  checkOptions,
  refuse,
  specOf,
  placeOf,
  validateBook,
  withUsual,
  type Choices,
  type OptionBook,
  type Refusal,
  type Spec,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { Refused } from '../log/refused.ts';
import { ChangesService, type Teller } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { OptionBookRow } from './rows.ts';

/** How the parts of a model can be built: what an option may ask for. */
export interface BuiltSo {
  /** Operations where something could be built in. */
  places: { place: string; name: string }[];
  /** Names of the recipes its parts may be finished by. */
  recipes: string[];
  /** Where its routes fork: from which operation to which. */
  ways: { fork: string; to: string; name: string }[];
}

/** What is sold of each model, and which specs of it can be. */
@Injectable()
export class OptionBooksService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly clock: FactoryClock,
  ) {}

  /** The newest of every model that has a route, by name; of one that sells no options an empty one, revision 0. */
  async all(db: EntityManager = this.source.manager): Promise<OptionBook[]> {
    const [rows, models] = await Promise.all([
      db.query<OptionBookRow[]>(
        'SELECT DISTINCT ON (model) * FROM option_book ORDER BY model, revision DESC',
      ),
      this.setup.openable(),
    ]);
    const books = new Map(
      rows.map(({ model, revision, options, rules }) => [model, { model, revision, options, rules }]),
    );
    return models
      .filter(({ kinds }) => kinds.length > 0)
      .map(({ model }) => books.get(model) ?? { model, revision: 0, options: [], rules: [] });
  }

  /** The newest of one model. @throws Refused for a model that cannot be built */
  async of(model: string, db?: EntityManager): Promise<OptionBook> {
    const book = (await this.all(db)).find((one) => one.model === model);
    if (!book) throw new Refused(refuse('bad-value', `there is no route for a model '${model}'`, 'model'));
    return book;
  }

  /** A spec as it can be sold now. @throws Refused, naming the options that disagree */
  async spec(
    model: string,
    chosen: Choices,
    { label, db }: { label?: string | undefined; db?: EntityManager } = {},
  ): Promise<{ choices: Choices; spec: Spec }> {
    const book = await this.of(model, db);
    const choices = withUsual(book, chosen);
    const [first, ...more] = checkOptions(choices, book);
    if (first) {
      const others = more.length > 0 ? `; and ${more.map(({ sentence }) => sentence).join('; ')}` : '';
      throw new Refused(refuse('bad-value', `${first.sentence}${others}`, 'choices'));
    }
    return { choices, spec: specOf(book, choices, label) };
  }

  /** How a model can be built, with the names people know it by. */
  async built(model: string): Promise<BuiltSo> {
    const [routes, known] = await Promise.all([this.setup.newestRoutes(model), this.setup.model(model)]);
    const finishes = Object.values(known?.finish ?? {}).flatMap(({ recipes }) => recipes);
    return {
      places: routes.flatMap(({ kind, operations }) =>
        operations
          .filter(({ mode }) => ['attended', 'load', 'gate'].includes(mode))
          .map(({ key, name }) => ({ place: placeOf(kind, key), name: `${name} (${kind})` })),
      ),
      recipes: [...new Set(finishes)],
      ways: routes.flatMap(({ kind, operations }) =>
        operations.flatMap(({ key, name, next = [] }) =>
          next.map((to) => ({
            fork: key,
            to,
            name: `${operations.find((one) => one.key === to)?.name ?? to} after ${name} (${kind})`,
          })),
        ),
      ),
    };
  }

  /** What would be wrong with selling this. */
  async problems({ model, options, rules }: Omit<OptionBook, 'revision'>): Promise<string[]> {
    const { places, recipes, ways } = await this.built(model);
    const built = { recipes, places: places.map(({ place }) => place) };
    return validateBook(
      { options, rules },
      { ...built, ways: ways.map(({ fork, to }) => [fork, to] as const) },
    );
  }

  /** A new revision of what is sold. Orders that are placed keep theirs. */
  async revise({ by }: Teller, { revision, ...book }: OptionBook): Promise<OptionBook | Refusal> {
    const { model, options, rules } = book;
    if (!(await this.all()).some((one) => one.model === model))
      throw new NotFoundException(`there is no route for a model '${model}'`);
    const [problem, ...more] = await this.problems(book);
    if (problem !== undefined) return refuse('bad-value', [problem, ...more].join('; '), 'options');
    const madeAt = new Date(await this.clock.now());
    let made: OptionBook | Refusal = { model, revision: revision + 1, options, rules };
    await this.changes.change({ by, setting: 'options', name: model }, async (manager) => {
      await this.setup.lockModel(manager, model);
      const before = await this.of(model, manager);
      const stands = { before: { options: before.options, rules: before.rules } };
      if (before.revision !== revision) {
        made = refuse('in-use', `revision ${before.revision} was made meanwhile: look at it first`);
        return { ...stands, after: stands.before };
      }
      await manager.insert(OptionBookRow, { ...book, revision: revision + 1, person: by, madeAt });
      return { ...stands, after: { options, rules } };
    });
    return made;
  }
}
