import {
  isRefusal,
  refuse,
  ROUTE_FORMAT,
  ROUTE_SCHEMA,
  unknownWays,
  validateRoute,
  type Operation,
  type Refusal,
  type Route,
  type RouteProblem,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import { schemaReader } from '../http/schema-reader.ts';
import type { FilingOutcome } from '../log/filing.ts';
import { tellAll } from '../live/tell.ts';
import { LogService } from '../log/log.service.ts';
import { Refused } from '../log/refused.ts';
import { MachinesService } from '../machining/machines.service.ts';
import { ProgramsService } from '../machining/programs.service.ts';
import { ChangesService } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';

export interface RouteSummary {
  id: string;
  model: string;
  kind: string;
  revision: number;
  note: string;
  person: string | null;
  madeMs: number;
  operations: number;
  newest: boolean;
  /** Open batches that work by this revision. */
  batches: string[];
}

/** A route as a file: docs/formats/route.schema.json. */
export interface RouteFile {
  format: typeof ROUTE_FORMAT;
  version: 1;
  model: string;
  kind: string;
  revision?: number;
  note?: string;
  operations: Operation[];
}

const readFile = schemaReader<RouteFile>(ROUTE_SCHEMA, 'route');

/** Routes with their revisions; batches keep theirs until somebody moves them. */
@Injectable()
export class RoutesService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly clock: FactoryClock,
    private readonly log: LogService,
    private readonly programs: ProgramsService,
    private readonly machines: MachinesService,
  ) {}

  async list(): Promise<RouteSummary[]> {
    const [rows, open] = await Promise.all([this.setup.revisions(), this.floor.open()]);
    return rows.map((row) => ({
      id: row.id,
      model: row.model,
      kind: row.kind,
      revision: row.revision,
      note: row.note,
      person: row.person,
      madeMs: row.madeAt.getTime(),
      operations: row.operations.length,
      newest: !rows.some(
        (other) => other.model === row.model && other.kind === row.kind && other.revision > row.revision,
      ),
      batches: open.filter(({ state }) => state.routeId === row.id).map(({ state }) => state.code),
    }));
  }

  async route(id: string): Promise<Route> {
    if (!(await this.setup.hasRoute(id))) throw new NotFoundException(`there is no route ${id}`);
    return this.setup.route(id);
  }

  /** The newest routes of a model. */
  async ofModel(model: string): Promise<Route[]> {
    const newest = (await this.list()).filter((row) => row.model === model && row.newest);
    if (newest.length === 0) throw new NotFoundException(`there is no route for a model '${model}'`);
    return Promise.all(newest.map(({ id }) => this.setup.route(id)));
  }

  async file(id: string): Promise<RouteFile> {
    const { model, kind, revision, operations } = await this.route(id);
    const note = (await this.setup.revisions(model)).find((row) => row.id === id)?.note ?? '';
    return { format: ROUTE_FORMAT, version: 1, model, kind, revision, note, operations };
  }

  /** What a file holds, or what is wrong with it and where. @throws BadRequestException */
  read(file: unknown): RouteFile {
    return readFile(file);
  }

  /** What is wrong with a route here and now: its stations, its rooms, and the routes it meets. */
  async problems(route: Route, db: EntityManager = this.source.manager): Promise<RouteProblem[]> {
    const [stations, rooms] = await Promise.all([this.setup.stations(), this.setup.rooms()]);
    const newest = await this.setup.newestRoutes(route.model, db);
    return validateRoute(route, {
      stations: stations.map(({ code }) => code),
      rooms: rooms.map(({ name }) => name),
      others: newest.filter(({ kind }) => kind !== route.kind),
    });
  }

  /** A new revision, for the batches opened from now on. */
  async revise(asked: {
    by: string;
    model: string;
    kind: string;
    operations: unknown[];
    note: string;
    /** The revision it was drawn from: another one made meanwhile stands in the way. */
    from: number;
  }): Promise<RouteSummary | Refusal> {
    const { by, note, from } = asked;
    const { model, kind, operations } = this.read({
      format: ROUTE_FORMAT,
      version: 1,
      model: asked.model,
      kind: asked.kind,
      operations: asked.operations,
    });
    const stranger = await this.setup.stranger(by);
    if (stranger) return stranger;
    if (note.trim() === '') return refuse('bad-value', 'say what changed: a revision needs a note');
    const known = await Promise.all([this.setup.models(), this.setup.kinds()]);
    if (!known[0].some(({ name }) => name === model))
      return refuse('bad-value', `there is no model '${model}'`);
    if (!known[1].some(({ letter }) => letter === kind))
      return refuse('bad-value', `there is no kind '${kind}'`);
    const madeAt = new Date(await this.clock.now());
    const id = await this.source.transaction(async (manager): Promise<string | Refusal> => {
      await this.setup.lockModel(manager, model);
      const last = await this.setup.newestRoute(model, kind, manager);
      if ((last?.revision ?? 0) !== from)
        return refuse('taken', `revision ${last?.revision ?? 0} was made meanwhile: compare with it first`);
      const revision = from + 1;
      const route: Route = {
        id: `${model}-${kind}-${revision}`.toLowerCase(),
        model,
        kind,
        revision,
        operations,
      };
      const [problem, ...more] = await this.problems(route, manager);
      if (problem) {
        const others = more.length > 0 ? `, and ${more.length} more` : '';
        return refuse('route-problem', `${problem.problem}${others}`);
      }
      await this.setup.addRevision(manager, { ...route, note, person: by, madeAt });
      await tellAll(manager, [route.id]);
      return route.id;
    });
    if (isRefusal(id)) return id;
    this.setup.forget();
    const made = (await this.list()).find((row) => row.id === id);
    if (!made) throw new Error(`revise: ${id} was made and is not there`);
    return made;
  }

  /** A batch goes on by another revision or other ways of its route, for a reason that stays. */
  move(asked: {
    key: string;
    by: string;
    batch: string;
    routeId: string;
    ways: Record<string, string>;
    reason: string;
  }): Promise<FilingOutcome> {
    const { key, by, batch, routeId, ways, reason } = asked;
    const filing = { key, by, asked: { batch, routeId, ways, reason }, batches: [batch] };
    return this.log.fileTogether(filing, async (manager) => {
      if (!(await this.setup.hasRoute(routeId, manager)))
        throw new Refused(refuse('bad-value', `there is no route ${routeId}`));
      const wrong = unknownWays(await this.setup.route(routeId, manager), ways);
      if (wrong[0] !== undefined)
        throw new Refused(refuse('no-way', `${routeId} leaves no choice '${wrong[0]}'`));
      return [{ batch, body: { type: 'reroute', routeId, ways, reason } }];
    });
  }

  /** Takes a station out of use, unless something still goes through it. */
  async removeStation(by: string, code: string): Promise<{ removed: string } | Refusal> {
    const station = (await this.setup.stations()).find((one) => one.code === code);
    if (!station) throw new NotFoundException(`there is no station '${code}'`);
    const summaries = await this.list();
    const worked = summaries.filter((row) => row.newest || row.batches.length > 0);
    const using: string[] = [];
    for (const { id, model, kind, revision } of worked) {
      const { operations } = await this.setup.route(id);
      const at = operations.find((operation) => operation.stations.includes(code));
      if (at) using.push(`${at.name} of ${model} ${kind} revision ${revision}`);
    }
    const [first, ...more] = using;
    if (first !== undefined) {
      const others = more.length > 0 ? ` and ${more.length} more` : '';
      return refuse(
        'in-use',
        `${station.name} is in use: ${first}${others}; draw these routes without it first`,
      );
    }
    const beds = (await this.setup.beds()).filter((bed) => bed.station === code);
    const [cutters, machines] = [await this.programs.cutters(code), await this.machines.machines(code)];
    if (beds.length + cutters.length + machines.length > 0)
      return refuse('in-use', `${station.name} still has tables, presses, cutters or a machine`);
    await this.changes.change({ by, setting: 'station', name: code }, async (manager) => {
      await this.setup.removeStation(manager, code);
      return { before: { ...station }, after: null };
    });
    return { removed: code };
  }
}
