import { type BodyOf, closedWords, factoryDate, refuse, routeIn, unknownWays } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { SetupService } from '../setup/setup.service.ts';
import { FactsService, type Asked } from './facts.service.ts';
import type { OpenAction, Work } from './filing.ts';
import { Refused } from './refused.ts';
import { apply, freshWork, type When } from './work.ts';
import { WorksService } from './works.service.ts';

/** New batches: opened by somebody, or by a join or a split that makes them. */
@Injectable()
export class OpeningService {
  constructor(
    private readonly setup: SetupService,
    private readonly works: WorksService,
    private readonly facts: FactsService,
  ) {}

  /** Opens a batch at the newest revision of its route. @throws Refused */
  async open(manager: EntityManager, action: OpenAction, when: When): Promise<Work> {
    const route = await this.setup.newestRoute(action.model, action.kind, manager);
    if (!route)
      throw new Refused(refuse('bad-value', `${action.model} has no route for kind ${action.kind}`));
    if (action.dueMs <= when.atMs)
      throw new Refused(refuse('bad-value', 'the due date is not after the opening'));
    const { calendar } = await this.setup.factory(manager);
    const closed = closedWords(calendar, factoryDate(calendar, action.dueMs));
    if (closed) throw new Refused(refuse('bad-value', closed));
    const code = await this.works.nextCode(manager, action.kind);
    if (code === undefined) throw new Refused(refuse('bad-value', `there is no kind '${action.kind}'`));
    const work = freshWork({ code, kind: action.kind, model: action.model }, route);
    const { kind, model, quantity, dueMs, ways } = action;
    const wrong = ways && unknownWays(route, ways);
    if (wrong?.[0] !== undefined)
      throw new Refused(refuse('no-way', `the route of ${model} ${kind} leaves no choice '${wrong[0]}'`));
    const chosen = ways === undefined ? {} : { ways };
    work.route = routeIn(route, { routeId: route.id, ...chosen });
    const body = { type: 'open' as const, code, kind, model, routeId: route.id, quantity, dueMs, ...chosen };
    await this.opened(manager, work, body, { ...when, recipe: action.recipe });
    return work;
  }

  /** The first entry of a batch, with what the stages add to it. @throws Refused */
  async opened(manager: EntityManager, work: Work, body: BodyOf<'open'>, asked: When & Asked): Promise<void> {
    const rack = { state: null, route: work.route };
    apply(work, await this.facts.complete(manager, rack, body, asked), asked);
  }
}
