import { refuse, type Refusal } from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { CutterChangeRow, CutterRow, ProgramRow } from './rows.ts';
import { tellAll } from '../live/tell.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { loadsStarted } from '../log/entries-in-force.ts';

/** Name and revision, as it stands on the machine's screen and in the log: 'halyard-b/mill r2'. */
export const programName = ({
  model,
  kind,
  operation,
  revision,
}: Pick<ProgramRow, 'model' | 'kind' | 'operation' | 'revision'>): string =>
  `${model}-${kind}/${operation} r${revision}`.toLowerCase();

export interface CutterPageView {
  station: string;
  tool: string;
  lifeMinutes: number;
  changeMinutes: number;
  cost: number;
  /** Cut minutes by the loads started since it was changed. */
  usedMinutes: number;
  changedMs: number | null;
  /** Its share of a piece, over every program that uses it with full tables: lowest and highest. */
  costPerPiece: { low: number; high: number } | null;
}

export interface NewProgram {
  by: string;
  model: string;
  kind: string;
  operation: string;
  setUpMinutes: number;
  loadMinutes: number;
  cycleMinutes: number;
  tools: { tool: string; minutes: number }[];
  note: string;
  /** The newest revision as whoever asks saw it; 0 for a first one. */
  from: number;
}

/** Programs with their revisions, and the cutters they wear. */
@Injectable()
export class ProgramsService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** The newest revision of every program. */
  async newest(db: EntityManager = this.source.manager): Promise<ProgramRow[]> {
    return db
      .getRepository(ProgramRow)
      .createQueryBuilder('p')
      .distinctOn(['p.model', 'p.kind', 'p.operation'])
      .orderBy('p.model')
      .addOrderBy('p.kind')
      .addOrderBy('p.operation')
      .addOrderBy('p.revision', 'DESC')
      .getMany();
  }

  all(): Promise<ProgramRow[]> {
    return this.source
      .getRepository(ProgramRow)
      .find({ order: { model: 'ASC', kind: 'ASC', operation: 'ASC', revision: 'DESC' } });
  }

  /** A new revision of a program: its next load asks for a first piece. */
  async revise(program: NewProgram): Promise<ProgramRow | Refusal> {
    const { by, from, ...rest } = program;
    const stranger = await this.setup.stranger(by);
    if (stranger) return stranger;
    const route = await this.setup.newestRoute(program.model, program.kind);
    const operation = route?.operations.find(({ key }) => key === program.operation);
    if (operation?.mode !== 'load')
      return refuse(
        'bad-value',
        `${program.model} ${program.kind} has no load '${program.operation}' on its newest route`,
      );
    const stations = await this.source
      .getRepository(CutterRow)
      .findBy({ station: operation.stations[0] ?? '' });
    const strange = program.tools.find(({ tool }) => !stations.some((cutter) => cutter.tool === tool));
    if (strange)
      return refuse(
        'bad-value',
        `there is no cutter '${strange.tool}' at ${operation.stations[0] ?? 'its station'}`,
      );
    const madeAt = new Date(await this.clock.now());
    return this.source.transaction(async (manager): Promise<ProgramRow | Refusal> => {
      const { model, kind, operation: at } = program;
      await this.setup.lockModel(manager, model);
      const [last] = await manager
        .getRepository(ProgramRow)
        .find({ where: { model, kind, operation: at }, order: { revision: 'DESC' }, take: 1 });
      if ((last?.revision ?? 0) !== from)
        return refuse('taken', `revision ${last?.revision ?? 0} was made meanwhile: look at it first`);
      const row = { ...rest, revision: (last?.revision ?? 0) + 1, person: by, madeAt };
      await manager.insert(ProgramRow, row);
      await tellAll(manager, [programName(row)]);
      return row;
    });
  }

  /** The cutters of a station with the minutes they have cut since they were changed. */
  async cutters(station: string): Promise<CutterPageView[]> {
    const cutters = await this.source
      .getRepository(CutterRow)
      .find({ where: { station }, order: { tool: 'ASC' } });
    if (cutters.length === 0) return [];
    const changes = await this.source.query<{ tool: string; at: Date }[]>(
      'SELECT tool, max(at) AS at FROM cutter_change WHERE station = $1 GROUP BY tool',
      [station],
    );
    const changed = new Map(changes.map(({ tool, at }) => [tool, at.getTime()]));
    const oldest = cutters.some(({ tool }) => !changed.has(tool)) ? 0 : Math.min(...changed.values());
    const places = await this.placesAt(station);
    const loads = (await loadsStarted(this.source, { afterMs: oldest, station })).map(
      ({ firstPiece, pieces, ...load }) => ({
        ...load,
        // A first piece alone is cut by itself; any other load takes its program’s whole cycle.
        share: firstPiece && pieces === 1 ? 1 / places : 1,
      }),
    );
    const programs = new Map((await this.all()).map((row) => [programName(row), row]));
    const newest = await this.newest();
    return cutters.map((cutter) => {
      const since = changed.get(cutter.tool) ?? null;
      const used = loads
        .filter((load) => since === null || load.atMs > since)
        .reduce((sum, load) => sum + load.share * minutesOf(programs.get(load.program), cutter.tool), 0);
      const shares = newest
        .map((program) => minutesOf(program, cutter.tool))
        .filter((minutes) => minutes > 0)
        .map((minutes) => ((cutter.cost / cutter.lifeMinutes) * minutes) / places);
      return {
        ...cutter,
        usedMinutes: used,
        changedMs: since,
        costPerPiece: shares.length > 0 ? { low: Math.min(...shares), high: Math.max(...shares) } : null,
      };
    });
  }

  private async placesAt(station: string): Promise<number> {
    const tables = (await this.setup.beds()).filter((bed) => bed.station === station && bed.kind === 'table');
    return tables.length > 0 ? Math.max(...tables.map(({ places }) => places)) : 1;
  }

  /** A cutter changed: its minutes begin again, and the change stays on record. The same key twice is one change. */
  async change(change: {
    key: string;
    by: string;
    station: string;
    tool: string;
    reason: string;
  }): Promise<CutterPageView[] | Refusal> {
    const { key, by, station, tool, reason } = change;
    const stranger = await this.setup.stranger(by);
    if (stranger) return stranger;
    const cutter = (await this.cutters(station)).find((candidate) => candidate.tool === tool);
    if (!cutter) throw new NotFoundException(`there is no cutter '${tool}' at ${station}`);
    const at = new Date(await this.clock.happened());
    await this.source.transaction(async (manager) => {
      await manager
        .createQueryBuilder()
        .insert()
        .into(CutterChangeRow)
        .values({ key, station, tool, usedMinutes: cutter.usedMinutes, reason, person: by, at })
        .orIgnore()
        .execute();
      await tellAll(manager, [`cutter ${tool}`]);
    });
    return this.cutters(station);
  }

  /** Changes of a station's cutters, newest first. */
  changes(station: string): Promise<CutterChangeRow[]> {
    return this.source
      .getRepository(CutterChangeRow)
      .find({ where: { station }, order: { at: 'DESC' }, take: 50 });
  }
}

const minutesOf = (program: Pick<ProgramRow, 'tools'> | undefined, tool: string): number =>
  program?.tools.find((one) => one.tool === tool)?.minutes ?? 0;
