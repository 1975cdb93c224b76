import { instantOfClock, parseLine, type LineAction } from '@ample-crane/core';
import { Body, Controller, HttpCode, Post } from '@nestjs/common';
import {
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiTags,
  ApiUnprocessableEntityResponse,
} from '@nestjs/swagger';
import { DataSource } from 'typeorm';
import { answer, NotUnderstoodException } from '../http/answers.ts';
import { NotUnderstoodDto, RefusalDto } from '../http/answers.dto.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FilingAction } from './filing.ts';
import { FiledDto, FileEntriesDto, FileLineDto, type EntryDto } from './log.dto.ts';
import { LogService } from './log.service.ts';

@ApiTags('log')
@Controller('log')
export class LogController {
  constructor(
    private readonly log: LogService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly source: DataSource,
  ) {}

  /** Files entries on one batch: all of them or none. */
  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: RefusalDto })
  async file(@Body() request: FileEntriesDto): Promise<FiledDto> {
    const { key, by, batch, happenedAt } = request;
    const atMs = happenedAt === undefined ? {} : { atMs: Date.parse(happenedAt) };
    return answer(await this.log.file({ key, by, batch, ...atMs, actions: request.entries.map(actionOf) }));
  }

  /** Files what a typed or scanned line says. */
  @Post('line')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiUnprocessableEntityResponse({ type: NotUnderstoodDto })
  @ApiConflictResponse({ type: RefusalDto })
  async fileLine(@Body() request: FileLineDto): Promise<FiledDto> {
    const { key, by, line } = request;
    const [stations, batches] = await Promise.all([this.setup.stations(), this.batchCodes(line)]);
    const parsed = parseLine(line, { stations, batches });
    if ('notUnderstood' in parsed) throw new NotUnderstoodException(parsed.notUnderstood);
    const { batch, clock, actions } = parsed.understood;
    const { calendar } = await this.setup.factory();
    const atMs = clock === null ? {} : { atMs: instantOfClock(calendar, await this.clock.now(), clock) };
    return answer(await this.log.file({ key, by, batch, ...atMs, actions: actions.map(lineActionOf) }));
  }

  /** Open batches, and closed ones the line names itself (a shipment may be taken back). */
  private async batchCodes(line: string): Promise<string[]> {
    const named = [...line.slice(0, 500).matchAll(/\b([a-z])-?(\d+)\b/gi)].map(
      ([, letter = '', number = '']) => `${letter.toUpperCase()}-${number}`,
    );
    const rows = await this.source.query<{ code: string }[]>(
      'SELECT code FROM batch WHERE NOT closed OR code = ANY($1)',
      [named],
    );
    return [...rows.map((row) => row.code), ...(await this.log.otherCodes(named))];
  }
}

const lineActionOf = (action: LineAction): FilingAction =>
  action.type === 'undo' ? { type: 'undo' } : action;

/** A validated entry as an action; only what its type knows is taken over. */
function actionOf(entry: EntryDto): FilingAction {
  const { type, operation, station, count, pieces } = entry;
  const selection = defined({ operation, station, count, pieces });
  switch (type) {
    case 'start':
      return { type, ...selection, ...defined({ who: entry.who, bed: entry.bed, because: entry.because }) };
    case 'done':
      return { type, ...selection, ...defined({ because: entry.because }) };
    case 'release': {
      const { because, seen, panel } = entry;
      return { type, ...selection, ...defined({ because, seen, panel }) };
    }
    case 'scrap':
    case 'hold':
      return { type, ...selection, reason: entry.reason ?? '' };
    case 'rework':
      return {
        type,
        ...selection,
        reason: entry.reason ?? '',
        ...defined({ to: entry.to, cause: entry.cause, rest: entry.rest }),
      };
    case 'read': {
      const { woodTemperatureC, meter, depth, because } = entry;
      return {
        type,
        ...selection,
        valuesPct: entry.valuesPct ?? [],
        ...defined({ woodTemperatureC, meter, depth, because }),
      };
    }
    case 'coat': {
      const { wetUm, wetUms, number, booth, lot, who, because } = entry;
      return { type, ...selection, ...defined({ wetUm, wetUms, number, booth, lot, who, because }) };
    }
    case 'sand': {
      const { removalUm, grits, scuff } = entry;
      return { type, ...selection, ...defined({ removalUm, grits, scuff }) };
    }
    case 'mark':
      return { type, ...selection, passed: entry.passed ?? false };
    case 'colour':
      return { type, ...selection, labs: entry.labs ?? [] };
    case 'age':
      return {
        type,
        ...selection,
        to: entry.to === 'cold' ? 'cold' : 'warm',
        ...defined({ bed: entry.bed, because: entry.because }),
      };
    case 'measure':
      return { type, ...selection, valuesMm: entry.valuesMm ?? [] };
    case 'join':
      return { type, partner: entry.partner ?? '', ...defined({ count, station, because: entry.because }) };
    case 'place':
      return { type, ...selection, bed: entry.bed ?? '' };
    case 'check':
      return {
        type,
        ...selection,
        check: entry.check ?? '',
        values: entry.values ?? [],
        ...defined({ load: entry.load, source: entry.source }),
      };
    case 'adjust':
      return { type, ...selection, how: entry.how ?? 'plane', byMm: entry.byMm ?? 0 };
    case 'split':
      return { type, ...defined({ count, pieces, station }) };
    case 'ship':
      return { type, ...selection, ...defined({ to: entry.to, because: entry.because }) };
    case 'undo':
      return { type, ...defined({ seq: entry.seq }) };
  }
}

/** The given properties without those that are undefined. */
function defined<T extends object>(properties: T): { [K in keyof T]?: Exclude<T[K], undefined> } {
  return Object.fromEntries(Object.entries(properties).filter(([, value]) => value !== undefined)) as {
    [K in keyof T]?: Exclude<T[K], undefined>;
  };
}
