import { refuse, type BatchState, type EntryBody } from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { BatchRow, BedRow } from '../database/entities.ts';
import type { FilingOutcome } from '../log/filing.ts';
import { LogService } from '../log/log.service.ts';
import { Refused } from '../log/refused.ts';
import { SetupService } from '../setup/setup.service.ts';
import { programName, ProgramsService } from './programs.service.ts';
import { lastPrograms } from './last-programs.ts';

export interface LoadAsked {
  key: string;
  by: string;
  /** Code of the table. */
  table: string;
  /** Pieces by batch; the first so many that wait when only a count is given. */
  parts: { batch: string; pieces?: number[]; count?: number }[];
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

interface PartOfLoad {
  batch: string;
  pieces: number[];
  operation: string;
}

/** Loads of a table: several batches start and end together, in one filing. */
@Injectable()
export class LoadsService {
  constructor(
    private readonly source: DataSource,
    private readonly log: LogService,
    private readonly setup: SetupService,
    private readonly programs: ProgramsService,
  ) {}

  /** All its pieces are in hand, or none. */
  async start({ key, by, table, parts }: LoadAsked): Promise<FilingOutcome> {
    return this.log.fileTogether({ key, by, asked: { table, parts } }, async (manager) => {
      const bed = await manager.getRepository(BedRow).findOneBy({ code: table });
      if (bed?.kind !== 'table') throw new Refused(refuse('bad-value', `there is no table '${table}'`));
      const chosen = await this.choose(manager, bed, parts);
      const [number] = await manager.query<{ n: string }[]>(`SELECT nextval('load_number') AS n`);
      const program = await this.programOf(manager, chosen);
      const load = {
        code: `L-${number?.n ?? ''}`,
        program,
        firstPiece: (await lastPrograms(manager, [table])).get(table) !== program,
      };
      return chosen.map(({ batch, pieces, operation }) => ({
        batch,
        body: { type: 'start', operation, station: bed.station, pieces, bed: table, load },
      }));
    });
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
      const state = (await manager.getRepository(BatchRow).findOneBy({ code: batch }))?.state;
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
    if (!(await this.wasStarted(load))) throw new NotFoundException(`there is no load ${load}`);
    return this.log.fileTogether({ key, by, asked: { load, scrap, because } }, async (manager) => {
      const parts = await this.onTable(manager, load);
      if (parts.length === 0) throw new Refused(refuse('nothing-here', `${load} is off its table already`));
      const bodies: { batch: string; body: EntryBody }[] = [];
      for (const { batch, pieces, operation } of parts) {
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

  private async wasStarted(load: string): Promise<boolean> {
    const rows = await this.source.query<unknown[]>(
      `SELECT 1 FROM log_entry WHERE type = 'start' AND body ? 'load' AND body->'load'->>'code' = $1 LIMIT 1`,
      [load],
    );
    return rows.length > 0;
  }

  private async onTable(manager: EntityManager, load: string): Promise<PartOfLoad[]> {
    const rows = await manager
      .getRepository(BatchRow)
      .createQueryBuilder('b')
      .where(`NOT b.closed AND b.state -> 'pieces' @> :part::jsonb`, {
        part: JSON.stringify([{ load: { code: load } }]),
      })
      .orderBy('b.code')
      .getMany();
    return rows.flatMap(({ code, state }) => {
      const pieces = state?.pieces.filter((piece) => piece.load?.code === load) ?? [];
      const operation = pieces[0]?.operation;
      return operation === undefined
        ? []
        : [{ batch: code, pieces: pieces.map((piece) => piece.position), operation }];
    });
  }
}
