import {
  addWorkingMinutes,
  type BatchState,
  type BodyOf,
  type EntryBody,
  type LoadMark,
  MINUTE_MS,
  operationOf,
  refuse,
  stationCalendar,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, IsNull, MoreThanOrEqual, type EntityManager } from 'typeorm';
import type { BedRow } from '../setup/rows.ts';
import { lockBeds } from '../setup/beds.ts';
import { piecesIn, racksWith } from '../floor/racks-with.ts';
import { batchesOfLoad } from '../log/entries-in-force.ts';
import { MachineCycleRow } from './rows.ts';
import { RacksService } from '../floor/racks.service.ts';
import type { FilingOutcome } from '../log/filing.ts';
import { isDryRun } from '../log/dry-run.ts';
import { FactsService, type Rack } from '../log/facts.service.ts';
import { LogService } from '../log/log.service.ts';
import { Refused } from '../log/refused.ts';
import { factoryWords } from '../setup/factory-words.ts';
import { SetupService } from '../setup/setup.service.ts';
import { inItsLoad, loadAgainst } from './first-piece.ts';
import { programName, ProgramsService } from './programs.service.ts';
import { setUps, type SetUp } from './set-ups.ts';

export interface LoadAsked {
  key: string;
  by: string;
  /** Code of the table. */
  table: string;
  /** Pieces by batch; the first so many that wait when only a count is given. */
  parts: { batch: string; pieces?: number[]; count?: number }[];
  /** Reason for cutting all of it before its first piece is measured. */
  because?: string;
}

export interface LoadEnd {
  key: string;
  by: string;
  load: string;
  /** Pieces that did not come off good, with why. */
  scrap: { batch: string; pieces: number[]; reason: string }[];
  /** Reason for ending it although its first piece has not passed. */
  because?: string;
}

/** A load may be logged so long after its cycle began. */
export const LOGGED_LATER_MS = 10 * MINUTE_MS;

interface PartOfLoad {
  batch: string;
  pieces: number[];
  operation: string;
}

/** A load with the table it lies on, and since when. */
interface LyingLoad {
  bed: string;
  program: string;
  sinceMs: number;
  parts: PartOfLoad[];
}

/** A table with what lies on it. */
interface TableNow {
  bed: BedRow;
  load: { code: string; program: string; sinceMs: number } | null;
}

/** Loads of a table: several batches start and end together, in one filing; a start by whatever way makes one. */
@Injectable()
export class LoadsService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly log: LogService,
    facts: FactsService,
    private readonly setup: SetupService,
    private readonly programs: ProgramsService,
  ) {
    facts.register({
      check: (_manager, rack, body) => Promise.resolve(inItsLoad(rack, body)),
      done: async (manager, rack, body) => {
        const against = await loadAgainst(manager, rack, body);
        return against === undefined ? body : { ...body, facts: { against } };
      },
    });
    facts.register(
      { start: (manager, rack, body, asked) => this.startOf(manager, rack, body, asked) },
      { last: true },
    );
  }

  /** All its pieces are in hand, or none; its first piece alone where the table is set up anew. */
  async start({ key, by, table, parts, because }: LoadAsked): Promise<FilingOutcome> {
    const batches = parts.map(({ batch }) => batch);
    return this.log.fileTogether({ key, by, asked: { table, parts }, batches }, async (manager) => {
      const bed = (await this.setup.beds(manager)).find(({ code }) => code === table);
      if (bed?.kind !== 'table') throw new Refused(refuse('bad-value', `there is no table '${table}'`));
      const chosen = await this.choose(manager, bed, parts);
      const { load, against } = await this.loadFor(manager, bed, chosen, because);
      const [first] = chosen;
      const cut = load.firstPiece && first ? [{ ...first, pieces: first.pieces.slice(0, 1) }] : chosen;
      return cut.map(({ batch, pieces, operation }) => ({
        batch,
        body: {
          ...{ type: 'start', operation, station: bed.station, pieces, bed: table, load },
          ...(because && against ? { because, facts: { against } } : {}),
        },
      }));
    });
  }

  /** The mark of a load to be started, and what of its first piece stands against cutting all of it. */
  private async loadFor(
    manager: EntityManager,
    bed: BedRow,
    parts: readonly (PartOfLoad & { state: BatchState })[],
    because: string | undefined,
  ): Promise<{ load: LoadMark; against: string | undefined }> {
    const program = await this.programOf(manager, parts);
    const against = await this.firstPieceDue(manager, bed, program, parts[0]);
    // A number once taken does not come back with a rollback.
    const [number] = await manager.query<{ n: string }[]>(
      isDryRun(manager)
        ? 'SELECT CASE WHEN is_called THEN last_value + 1 ELSE last_value END AS n FROM load_number'
        : `SELECT nextval('load_number') AS n`,
    );
    const firstPiece = against !== undefined && !because;
    return { load: { code: `L-${number?.n ?? ''}`, program, firstPiece }, against };
  }

  /** Why only a first piece may be cut on a table; undefined: it is set up and proved, or nothing is measured there. */
  private async firstPieceDue(
    manager: EntityManager,
    bed: BedRow,
    program: string,
    part: (PartOfLoad & { state: BatchState }) | undefined,
  ): Promise<string | undefined> {
    if (!part) return undefined;
    const route = await this.setup.routeOf(part.state, manager);
    const checks = operationOf(route, part.operation).checks ?? [];
    if (!checks.some((check) => check.firstPiece)) return undefined;
    const setUp = (await this.setUps(manager, [bed.code])).get(bed.code);
    if (setUp?.program !== program)
      return `${program} is new on ${bed.name}: its first piece is not measured`;
    return setUp.against ?? undefined;
  }

  /** What tables are set up for. */
  setUps(manager: EntityManager, tables: readonly string[]): Promise<Map<string, SetUp>> {
    return setUps(manager, tables, async (batch) => {
      const state = (await this.floor.find(batch, manager))?.state;
      return state ? this.setup.routeOf(state, manager) : null;
    });
  }

  /**
   * A start as it is filed: at a station with tables it makes a load, on the table named or the first that is free, those set up
   * for its program before the others. @throws Refused when none is free, with when the next one is.
   */
  private async startOf(
    manager: EntityManager,
    { state, route }: Rack,
    body: BodyOf<'start'>,
    when: { atMs: number },
  ): Promise<BodyOf<'start'>> {
    if (body.load) return body;
    const waiting = state.pieces.filter((piece) => {
      const operation = operationOf(route, piece.operation);
      return (
        piece.standing === 'waiting' &&
        operation.mode === 'load' &&
        (body.operation === undefined || operation.key === body.operation) &&
        (body.station === undefined || operation.stations.includes(body.station))
      );
    });
    const [key] = new Set(waiting.map((piece) => piece.operation));
    if (key === undefined || waiting.some((piece) => piece.operation !== key)) return body;
    const operation = operationOf(route, key);
    const tables = await this.tablesAt(manager, operation.stations);
    if (tables.length === 0) return body;
    const named = tables.find(({ bed }) => bed.code === body.bed);
    if (body.bed !== undefined && !named)
      throw new Refused(refuse('wrong-station', `'${body.bed}' is no table of ${operation.name}`));
    const all = waiting.map((piece) => piece.position);
    const wanted = body.pieces ?? all.slice(0, body.count ?? all.length);
    const part = { batch: state.code, pieces: wanted, operation: key, state };
    const program = await this.programOf(manager, [part]);
    const free = (named ? [named] : tables).filter(({ load }) => load === null);
    const setUp = await this.setUps(
      manager,
      tables.map(({ bed }) => bed.code),
    );
    const table = free.find(({ bed }) => setUp.get(bed.code)?.program === program) ?? free[0];
    if (!table)
      throw new Refused(
        refuse('over-places', await this.whenFree(manager, named ? [named] : tables, when.atMs)),
      );
    const { bed } = table;
    const isCounted = body.count !== undefined || body.pieces !== undefined;
    if (isCounted && wanted.length > bed.places)
      throw new Refused(
        refuse(
          'over-places',
          `${bed.name} has ${bed.places} places, ${wanted.length} do not fit: start ${bed.places}`,
        ),
      );
    const { load, against } = await this.loadFor(manager, bed, [part], body.because);
    if (load.firstPiece && isCounted && wanted.length > 1)
      throw new Refused(refuse('first-piece', `${against ?? ''}: start 1, measure it, then the rest`));
    const { count: _asked, ...rest } = body;
    return {
      ...rest,
      ...{ operation: key, station: bed.station, bed: bed.code, load },
      pieces: wanted.slice(0, load.firstPiece ? 1 : bed.places),
      ...(body.because && against ? { facts: { against } } : {}),
    };
  }

  /** The tables of some stations, locked for this filing, with the loads that lie on them. */
  private async tablesAt(manager: EntityManager, stations: readonly string[]): Promise<TableNow[]> {
    const beds = await lockBeds(manager, { tablesAt: stations });
    const lying = await piecesIn(
      manager,
      beds.map(({ code }) => code),
    );
    return beds
      .map((bed): TableNow => {
        const on = lying.filter((one) => one.bed === bed.code).map(({ piece }) => piece);
        const mark = on[0]?.load;
        const sinceMs = Math.min(...on.map((piece) => piece.sinceMs));
        return { bed, load: mark ? { code: mark.code, program: mark.program, sinceMs } : null };
      })
      .sort((a, b) => a.bed.position - b.bed.position);
  }

  /** 'Body table 1 and Body table 2 are cutting: Body table 1 is free Tue 14:20, when L-31 is off'. */
  private async whenFree(
    manager: EntityManager,
    tables: readonly TableNow[],
    nowMs: number,
  ): Promise<string> {
    const { calendar } = await this.setup.factory(manager);
    const programs = await this.programs.newest(manager);
    const ends = tables.flatMap(({ bed, load }) => {
      const program = programs.find((row) => programName(row) === load?.program);
      if (!load || !program) return [];
      const own = stationCalendar(calendar, bed.station);
      const endMs = addWorkingMinutes(own, load.sinceMs, program.loadMinutes + program.cycleMinutes);
      return [{ bed, load, endMs: Math.max(nowMs, endMs) }];
    });
    const names = tables.map(({ bed }) => bed.name).join(' and ');
    const cutting = `${names} ${tables.length === 1 ? 'is' : 'are'} cutting`;
    const [next] = ends.sort((a, b) => a.endMs - b.endMs);
    if (!next) return cutting;
    const time = factoryWords(nowMs, calendar.zone)(next.endMs);
    return `${cutting}: ${next.bed.name} is free ${next.endMs <= nowMs ? `as soon as ${next.load.code} is ended` : `${time}, when ${next.load.code} is off`}`;
  }

  /** The pieces meant, batch by batch: named, or the first that wait for this table's station. */
  private async choose(
    manager: EntityManager,
    bed: BedRow,
    parts: LoadAsked['parts'],
  ): Promise<(PartOfLoad & { state: BatchState })[]> {
    const codes = parts.map((part) => part.batch);
    if (new Set(codes).size < codes.length) throw new Refused(refuse('bad-value', 'a batch is named twice'));
    const chosen: (PartOfLoad & { state: BatchState })[] = [];
    for (const { batch, pieces, count } of parts) {
      const state = (await this.floor.find(batch, manager))?.state;
      if (!state) throw new Refused(refuse('unknown-batch', `there is no open batch ${batch}`));
      const { operations } = await this.setup.routeOf(state, manager);
      const here = operations.find(
        (operation) =>
          operation.mode === 'load' &&
          operation.stations.includes(bed.station) &&
          state.pieces.some((piece) => piece.operation === operation.key && piece.standing === 'waiting'),
      );
      if (!here)
        throw new Refused(
          refuse('nothing-here', `nothing of ${batch} waits for ${bed.name}: another may have started it`),
        );
      const waiting = state.pieces
        .filter((piece) => piece.operation === here.key && piece.standing === 'waiting')
        .map((piece) => piece.position);
      const wanted = pieces ?? waiting.slice(0, count ?? waiting.length);
      if (count !== undefined && wanted.length < count)
        throw new Refused(
          refuse('not-enough', `only ${waiting.length} of ${batch} wait for ${bed.name}, not ${count}`),
        );
      chosen.push({ batch, pieces: wanted, operation: here.key, state });
    }
    const sum = chosen.reduce((total, part) => total + part.pieces.length, 0);
    if (sum > bed.places)
      throw new Refused(
        refuse('over-places', `${bed.name} has ${bed.places} places, and the load ${sum} pieces`),
      );
    return chosen;
  }

  private async programOf(
    manager: EntityManager,
    chosen: readonly (PartOfLoad & { state: BatchState })[],
  ): Promise<string> {
    const programs = await this.programs.newest(manager);
    const names = chosen.map(({ state, operation }) => {
      const program = programs.find(
        (row) => row.model === state.model && row.kind === state.kind && row.operation === operation,
      );
      if (!program)
        throw new Refused(
          refuse('bad-value', `${state.model} ${state.kind} has no program for '${operation}' yet`),
        );
      return programName(program);
    });
    const [first] = names;
    if (first === undefined) throw new Refused(refuse('bad-value', 'a load needs pieces'));
    if (names.some((name) => name !== first))
      throw new Refused(
        refuse(
          'bad-value',
          `one load is one program: ${[...new Set(names)].join(' and ')} do not go together`,
        ),
      );
    return first;
  }

  /** All its pieces are done unless said otherwise. */
  async end({ key, by, load, scrap, because }: LoadEnd): Promise<FilingOutcome> {
    const batches = await batchesOfLoad(this.source, load);
    if (batches.length === 0) throw new NotFoundException(`there is no load ${load}`);
    return this.log.fileTogether({ key, by, asked: { load, scrap, because }, batches }, async (manager) => {
      const lying = await this.onTable(manager, load);
      if (!lying) throw new Refused(refuse('nothing-here', `${load} is off its table already`));
      await this.settleCycles(manager, load, lying);
      const bodies: { batch: string; body: EntryBody }[] = [];
      for (const { batch, pieces, operation } of lying.parts) {
        const lost = scrap.filter((one) => one.batch === batch);
        for (const { pieces: named, reason } of lost) {
          const strange = named.find((piece) => !pieces.includes(piece));
          if (strange !== undefined)
            throw new Refused(refuse('bad-value', `${batch}/${strange} is not in ${load}`));
          bodies.push({ batch, body: { type: 'scrap', operation, pieces: named, reason } });
        }
        const good = pieces.filter((piece) => !lost.some((one) => one.pieces.includes(piece)));
        if (good.length > 0)
          bodies.push({
            batch,
            body: { type: 'done', operation, pieces: good, ...(because ? { because } : {}) },
          });
      }
      return bodies;
    });
  }

  /** The machine's cycles of a load need no confirmation once it was ended, by hand or by them; one that still runs neither. */
  private async settleCycles(
    manager: EntityManager,
    load: string,
    { bed, program, sinceMs }: LyingLoad,
  ): Promise<void> {
    await manager
      .createQueryBuilder()
      .update(MachineCycleRow)
      .set({ settled: 'filed', load })
      .where({
        settled: IsNull(),
        path: bed,
        program,
        startedAt: MoreThanOrEqual(new Date(sinceMs - LOGGED_LATER_MS)),
      })
      .execute();
  }

  /** A load that lies on its table; null: it is off. */
  private async onTable(manager: EntityManager, load: string): Promise<LyingLoad | null> {
    const racks = await racksWith(manager, { load: { code: load } });
    const parts = racks.map(({ code, pieces }) => ({
      batch: code,
      pieces: pieces.filter((piece) => piece.load?.code === load),
    }));
    const all = parts.flatMap(({ pieces }) => pieces);
    const [first] = all;
    if (first?.bed === undefined || !first.load) return null;
    return {
      ...{ bed: first.bed, program: first.load.program },
      sinceMs: Math.min(...all.map(({ sinceMs }) => sinceMs)),
      parts: parts.flatMap(({ batch, pieces }) => {
        const operation = pieces[0]?.operation;
        return operation === undefined
          ? []
          : [{ batch, operation, pieces: pieces.map(({ position }) => position) }];
      }),
    };
  }
}
