import {
  refuse,
  validateBill,
  type Bill,
  type BillProblems,
  type OptionBook,
  type Refusal,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { OptionBooksService } from '../orders/option-books.service.ts';
import { ChangesService, type Teller } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { BillRow } from './rows.ts';
import { StoreService } from './store.service.ts';

/** Which parts the kit of each model wants. */
@Injectable()
export class BillsService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly clock: FactoryClock,
    private readonly books: OptionBooksService,
    private readonly store: StoreService,
  ) {}

  /** The newest of every model that is built, by name; of one without parts an empty one, revision 0. */
  async all(db: EntityManager = this.source.manager): Promise<Bill[]> {
    const [known, books] = await Promise.all([this.known(db), this.books.all(db)]);
    return books.map(({ model }) => known.get(model) ?? { model, revision: 0, lines: [] });
  }

  /** The newest bills there are, by model. */
  async known(db: EntityManager = this.source.manager): Promise<Map<string, Bill>> {
    const rows = await db.query<BillRow[]>(
      'SELECT DISTINCT ON (model) * FROM bill ORDER BY model, revision DESC',
    );
    return new Map(rows.map(({ model, revision, lines }) => [model, { model, revision, lines }]));
  }

  /** What would be wrong with a bill, and what is only odd. */
  async problems({ model, lines }: Omit<Bill, 'revision'>, book?: OptionBook): Promise<BillProblems> {
    const [parts, options] = await Promise.all([this.store.stock(), book ?? this.books.of(model)]);
    return validateBill({ lines }, options, new Set(parts.map(({ code }) => code)));
  }

  /** A new revision of what a model wants. Bins that are picked stay as they are. */
  async revise({ by }: Teller, { model, revision, lines }: Bill): Promise<Bill | Refusal> {
    if (!(await this.books.all()).some((book) => book.model === model))
      throw new NotFoundException(`there is no route for a model '${model}'`);
    const { problems } = await this.problems({ model, lines });
    if (problems.length > 0) return refuse('bad-value', problems.join('; '), 'lines');
    const madeAt = new Date(await this.clock.now());
    let made: Bill | Refusal = { model, revision: revision + 1, lines };
    await this.changes.change({ by, setting: 'bill', name: model }, async (manager) => {
      await this.setup.lockModel(manager, model);
      const before = (await this.known(manager)).get(model) ?? { model, revision: 0, lines: [] };
      if (before.revision !== revision) {
        made = refuse('in-use', `revision ${before.revision} was made meanwhile: look at it first`);
        return { before: { lines: before.lines }, after: { lines: before.lines } };
      }
      await manager.insert(BillRow, { model, revision: revision + 1, lines, person: by, madeAt });
      return { before: { lines: before.lines }, after: { lines } };
    });
    return made;
  }
}
