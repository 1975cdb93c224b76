import {
  isRefusal,
  numbered,
  planJoin,
  planSplit,
  refuse,
  type BatchState,
  type Route,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { In, type EntityManager } from 'typeorm';
import { BatchRow } from './rows.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FilingAction, Work } from './filing.ts';
import { OpeningService } from './opening.service.ts';
import { Refused } from './refused.ts';
import { apply, freshWork, type When } from './work.ts';
import { WorksService } from './works.service.ts';

/** Where batches meet and part: one filing on all of them. */
@Injectable()
export class JoiningService {
  constructor(
    private readonly setup: SetupService,
    private readonly works: WorksService,
    private readonly opening: OpeningService,
  ) {}

  /** Joins the pieces of two batches. @throws Refused */
  async join(
    manager: EntityManager,
    batch: string,
    action: Extract<FilingAction, { type: 'join' }>,
    when: When,
  ): Promise<Work[]> {
    const host = await this.hostOf(manager, [batch, action.partner]);
    // A host that takes its guest in makes nothing new: the code is its own.
    const goesOn = host.makesKind === host.code.split('-')[0];
    const made = goesOn ? host.code : await this.madeCode(manager, host.makesKind, host.code);
    const works = await this.works.lock(manager, [batch, action.partner, made]);
    const [one, other, before] = [works.get(batch), works.get(action.partner), works.get(made)];
    if (!one?.state || !other?.state) {
      throw new Refused(
        refuse('unknown-batch', `there is no open batch ${one?.state ? action.partner : batch}`),
      );
    }
    const madeRoute = (await this.setup.newestRoute(one.model, host.makesKind, manager)) ?? null;
    if (!madeRoute && !goesOn)
      throw new Refused(refuse('not-joinable', `${one.model} has no route for what this join would make`));
    const plan = planJoin({
      one: { state: one.state, route: one.route },
      other: { state: other.state, route: other.route },
      count: action.count,
      station: action.station,
      because: action.because,
      made: goesOn ? null : (before?.state ?? null),
      madeRoute: before?.route ?? madeRoute,
      makes: made,
    });
    if (isRefusal(plan)) throw new Refused(plan);
    const [hostWork, guestWork] = host.code === one.code ? [one, other] : [other, one];
    apply(hostWork, plan.host, when);
    apply(guestWork, plan.guest, when);
    if (!plan.made || !madeRoute) return [hostWork, guestWork];
    const fresh = { code: plan.makes, kind: host.makesKind, model: one.model };
    const madeWork = before ?? freshWork(fresh, madeRoute);
    const { made: body } = plan;
    if (body.type === 'open') await this.opening.opened(manager, madeWork, body, when);
    else apply(madeWork, body, when);
    return [hostWork, guestWork, madeWork];
  }

  /** Parts the pieces of a batch: each becomes a piece of every kind made. */
  async split(
    manager: EntityManager,
    batch: string,
    action: Extract<FilingAction, { type: 'split' }>,
    when: When,
  ): Promise<Work[]> {
    const seen = await manager.getRepository(BatchRow).findOneBy({ code: batch });
    if (!seen?.state) throw new Refused(refuse('unknown-batch', `there is no open batch ${batch}`));
    const { operations } = await this.setup.routeOf(seen.state, manager);
    const kinds = operations.flatMap((operation) => (operation.mode === 'split' ? operation.makesKinds : []));
    const codes = new Map<string, string>();
    for (const kind of kinds) codes.set(kind, await this.madeCode(manager, kind, batch));
    const works = await this.works.lock(manager, [batch, ...codes.values()]);
    const work = works.get(batch);
    if (!work?.state) throw new Refused(refuse('unknown-batch', `there is no open batch ${batch}`));
    const made = new Map<string, { code: string; state: BatchState | null; route: Route }>();
    for (const [kind, code] of codes) {
      const before = works.get(code);
      const route = before?.route ?? (await this.setup.newestRoute(seen.model, kind, manager));
      if (!route)
        throw new Refused(
          refuse('route-problem', `${seen.model} has no route for kind ${kind}, which this makes`),
        );
      made.set(kind, { code, state: before?.state ?? null, route });
    }
    const plan = planSplit({ side: { state: work.state, route: work.route }, selection: action, made });
    if (isRefusal(plan)) throw new Refused(plan);
    apply(work, plan.parted, when);
    const children = plan.made.map(({ kind, code, body }) => {
      const route = made.get(kind)?.route ?? work.route;
      const child = works.get(code) ?? freshWork({ code, kind, model: seen.model }, route);
      apply(child, body, when);
      return child;
    });
    return [work, ...children];
  }

  /**
   * The code of what is made from a batch: its own number, unless another batch has that already (bodies and sides both
   * become instruments, each counting for themselves); then the next number of the kind.
   */
  private async madeCode(manager: EntityManager, kind: string, from: string): Promise<string> {
    const usual = numbered(kind, from);
    const batches = manager.getRepository(BatchRow);
    const source = await batches.findOneBy({ code: from });
    const before = source?.state?.pieces
      .flatMap((piece) => [piece.joinedInto ?? [], ...(piece.partedInto ?? [])].flat())
      .map((piece) => piece.split('/')[0] ?? '')
      .find((code) => code.startsWith(`${kind}-`));
    if (before !== undefined) return before;
    const there = (await batches.findOneBy({ code: usual }))?.state;
    const mine = there?.pieces.some(({ parents }) => parents.some((one) => one.split('/')[0] === from));
    if (!there || mine) return usual;
    const code = await this.works.nextCode(manager, kind);
    if (code === undefined) throw new Error(`madeCode: Setup has no kind '${kind}'`);
    return code;
  }

  /** Which of two batches is the host of their join, and the kind the join makes; both follow from their routes. */
  private async hostOf(
    manager: EntityManager,
    codes: [string, string],
  ): Promise<{ code: string; makesKind: string }> {
    const rows = await manager.getRepository(BatchRow).find({ where: { code: In(codes) } });
    for (const row of rows) {
      const partner = rows.find((other) => other.code !== row.code);
      const { operations } = row.state
        ? await this.setup.routeOf(row.state, manager)
        : await this.setup.route(row.routeId, manager);
      const host = operations.find(
        (operation) =>
          operation.mode === 'join' &&
          operation.role === 'host' &&
          (!partner || operation.partnerKind === partner.kind),
      );
      if (host?.mode === 'join') return { code: row.code, makesKind: host.makesKind };
    }
    const missing = codes.find((code) => !rows.some((row) => row.code === code));
    if (missing) throw new Refused(refuse('unknown-batch', `there is no batch ${missing}`));
    throw new Refused(refuse('not-joinable', `${codes.join(' and ')} do not join: their routes do not meet`));
  }
}
