import {
  actionWords,
  csvOf,
  earliestEndMs,
  isRefusal,
  joinPartners,
  parseReadingsSheet,
  pieceCode,
  voidedBy,
  type BatchState,
  type CsvCell,
  type Refusal,
} from '@ample-crane/core';
import { BadRequestException, Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RacksService, type KnownBatch } from '../floor/racks.service.ts';
import { LogService } from '../log/log.service.ts';
import { toldLog } from '../log/logged.ts';
import type { FilingOutcome } from '../log/filing.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import type {
  BatchDto,
  BatchEntryDto,
  JoinPartnerDto,
  RackDto,
  ReadingsFileDto,
  ReadingsFiledDto,
  OpenBatchDto,
} from './batches.dto.ts';
import { HoldsService } from './holds.service.ts';

@Injectable()
export class BatchesService {
  constructor(
    private readonly source: DataSource,
    private readonly log: LogService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly holds: HoldsService,
    private readonly floor: RacksService,
  ) {}

  async batch(code: string): Promise<BatchDto> {
    const row = await this.row(code);
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const { rack, holds, climate } = await this.seen(row, nowMs);
    return {
      code,
      nowMs,
      zone: calendar.zone,
      seq: row.seq,
      state: row.state,
      route: rack?.route ?? (await this.setup.route(row.routeId)),
      holds,
      entries: await this.entries(code),
      climate: [...climate].map(([room, samples]) => ({ room, samples: [...samples] })),
      earliestMs: rack && earliestEndMs({ ...rack, calendar, nowMs, holds }),
    };
  }

  async rack(code: string): Promise<RackDto> {
    const { rack, holds, seq } = await this.seen(await this.row(code), await this.clock.now());
    if (!rack) throw new NotFoundException(`${code} is not open: its opening was taken back`);
    return { code, seq, ...rack, holds };
  }

  async partners(code: string): Promise<JoinPartnerDto[]> {
    const { model } = await this.row(code);
    return joinPartners({ code, model }, await this.floor.open());
  }

  /** A batch with its holds as they are judged now. */
  private async seen({ state, seq }: KnownBatch, nowMs: number) {
    const rack = state && { state, route: await this.setup.routeOf(state) };
    const evidence = await this.holds.evidenceFor(rack ? [rack] : [], nowMs);
    const holds = rack ? this.holds.see(rack, nowMs, evidence).map(({ dto }) => dto) : [];
    return { seq, rack, holds, climate: evidence.climate };
  }

  private async row(code: string): Promise<KnownBatch> {
    const row = await this.floor.find(code);
    if (!row) throw new NotFoundException(`there is no batch ${code}`);
    return row;
  }

  private async entries(batch: string): Promise<BatchEntryDto[]> {
    const log = await toldLog(this.source.manager, batch);
    const names = new Map((await this.setup.people()).map((person) => [person.code, person.name]));
    const voided = voidedBy(log);
    return log.toReversed().map(({ body, operation, station, pieces, ...entry }) => ({
      ...entry,
      ...{ type: body.type, operation, station, pieces },
      byName: names.get(entry.by) ?? entry.by,
      words: actionWords(body, pieces),
      voided: voided.has(entry.seq),
    }));
  }

  open({ key, by, kind, model, quantity, dueAt, ways, recipe }: OpenBatchDto): Promise<FilingOutcome> {
    const open = {
      type: 'open' as const,
      kind,
      model,
      quantity,
      dueMs: Date.parse(dueAt),
      ...(ways && Object.keys(ways).length > 0 ? { ways } : {}),
      ...(recipe === undefined ? {} : { recipe }),
    };
    return this.log.file({ key, by, batch: null, actions: [open] });
  }

  /** Files a sheet of readings: nothing when a row is bad, or the good rows when that is what is wanted. */
  async readings(
    code: string,
    { key, by, sheet, goodRowsOnly }: ReadingsFileDto,
  ): Promise<ReadingsFiledDto | Refusal> {
    const { state } = await this.row(code);
    if (!state) throw new NotFoundException(`${code} was taken back`);
    const { readings, problems } = parseReadingsSheet(sheet, { quantity: state.quantity });
    if (readings.length === 0 || (problems.length > 0 && !goodRowsOnly)) {
      const first = problems[0];
      const where = first
        ? `row ${first.row}, column ${first.column}: ${first.message}`
        : 'it holds no readings';
      throw new BadRequestException({
        message: `nothing was filed; ${where}`,
        problems,
        goodRows: readings.length,
      });
    }
    const told = readings.every((reading) => reading.position !== null);
    const temperatures = readings.flatMap((reading) =>
      reading.woodTemperatureC === null ? [] : [reading.woodTemperatureC],
    );
    const outcome = await this.log.file({
      key,
      by,
      batch: code,
      actions: [
        {
          type: 'read',
          valuesPct: readings.map((reading) => reading.readingPct),
          ...(told ? { pieces: readings.map((reading) => reading.position ?? 0) } : {}),
          ...(temperatures.length > 0 ? { woodTemperatureC: meanOf(temperatures) } : {}),
        },
      ],
    });
    return isRefusal(outcome) ? outcome : { ...outcome, problems };
  }

  /** Moisture readings of a batch as CSV: one row for each reading, oldest first. */
  async readingsCsv(code: string): Promise<string> {
    const { state } = await this.row(code);
    return csvOf(['read_at', 'piece', 'reading_pct', 'wood_temperature_c'], csvRows(state));
  }
}

const meanOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

function csvRows(state: BatchState | null): CsvCell[][] {
  return (state?.readings ?? []).flatMap((set) =>
    set.valuesPct.map((value, i) => {
      const position = set.positions[i];
      const piece = position === undefined || !state ? '' : pieceCode(state.code, position);
      return [new Date(set.atMs).toISOString(), piece, value, set.woodTemperatureC];
    }),
  );
}
