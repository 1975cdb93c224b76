import {
  MAY_BE,
  type MayBe,
  isRefusal,
  moistureWindow,
  parseReadingsSheet,
  sheetHeadings,
  type DryingOutlook,
  type LotAsked,
  type MoistureGate,
  type SheetColumns,
} from '@ample-crane/core';
import {
  BadRequestException,
  Body,
  Controller,
  Get,
  Header,
  HttpCode,
  Param,
  Post,
  Put,
} from '@nestjs/common';
import {
  ApiBadRequestResponse,
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiTags,
} from '@nestjs/swagger';
import { DataSource } from 'typeorm';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import { SetupService } from '../setup/setup.service.ts';
import { DryingService, type DryingView } from './drying.service.ts';
import {
  DryingDto,
  CutListDto,
  FileLotDto,
  LotDto,
  LotSheetDto,
  LotSheetFiledDto,
  LotSummaryDto,
  OutlookDto,
  ReceiveLotDto,
  RememberedColumnsDto,
  SheetColumnsAskedDto,
  SetWoodGateDto,
  WoodGateViewDto,
} from './lots.dto.ts';
import { LotViewsService } from './lot-views.service.ts';
import { LotsService, type LotDraft } from './lots.service.ts';

@ApiTags('wood')
@Controller()
export class LotsController {
  constructor(
    private readonly lots: LotsService,
    private readonly seen: LotViewsService,
    private readonly drying: DryingService,
    private readonly setup: SetupService,
    private readonly source: DataSource,
  ) {}

  /** Lots that are not used up, each with its verdict and when it will be ready. */
  @Get('lots')
  @ApiOkResponse({ type: [LotSummaryDto] })
  async list(): Promise<LotSummaryDto[]> {
    return (await this.seen.list()).map((lot) => ({ ...lot, ...outlookDto(lot.outlook) }));
  }

  /** Receives a lot. */
  @Post('lots')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async receive(@Body() { key, by, happenedAt, papers, ...lot }: ReceiveLotDto): Promise<FiledDto> {
    const draft = { ...lot, type: 'receive' as const, papers: papers ?? null };
    return answer(
      await this.lots.fileLot({ key, by, ...whenOf(happenedAt), entries: [{ lot: null, draft }] }),
    );
  }

  /** A lot with its boards, blanks, readings raw and corrected, verdict, forecast and log. */
  @Get('lots/:code')
  @ApiOkResponse({ type: LotDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async lot(@Param('code') code: string): Promise<LotDto> {
    const lot = await this.seen.lot(code);
    return { ...lot, drying: dryingDto(lot.drying) };
  }

  /** Files one entry on a lot. */
  @Post('lots/:code/entries')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async file(
    @Param('code') lot: string,
    @Body() { key, by, happenedAt, entry }: FileLotDto,
  ): Promise<FiledDto> {
    return answer(
      await this.lots.fileLot({ key, by, ...whenOf(happenedAt), entries: [{ lot, draft: draftOf(entry) }] }),
    );
  }

  /** Files a whole cut list, board by board, in one go: all of it, or nothing and the board that is wrong. */
  @Post('lots/:code/cut-list')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async cutList(@Param('code') lot: string, @Body() { key, by, cuts }: CutListDto): Promise<FiledDto> {
    const entries = cuts.map(({ board, pieces, matched }) => ({
      lot,
      draft: { type: 'cut' as const, board, matched, blanks: pieces.map((piece) => ({ ...piece })) },
    }));
    return answer(await this.lots.fileLot({ key, by, entries }));
  }

  /** Files a sheet of readings; the same sheet twice is filed once. */
  @Post('lots/:code/sheet')
  @HttpCode(200)
  @ApiOkResponse({ type: LotSheetFiledDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  async sheet(@Param('code') lot: string, @Body() request: LotSheetDto): Promise<LotSheetFiledDto> {
    const {
      by,
      sheet,
      columns,
      goodRowsOnly,
      meter = null,
      depth = 'shell',
      woodTemperatureC = null,
    } = request;
    const { state } = await this.seen.lot(lot);
    const { readings, problems } = parseReadingsSheet(sheet, {
      quantity: state.boards.length,
      ...(columns ? { columns } : {}),
    });
    if (readings.length === 0 || (problems.length > 0 && !goodRowsOnly)) {
      const [first] = problems;
      const why = first
        ? `row ${first.row}, column ${first.column}: ${first.message}`
        : 'it holds no readings';
      throw new BadRequestException({ message: `nothing was filed; ${why}`, problems });
    }
    const temperatures = readings.flatMap((r) => (r.woodTemperatureC === null ? [] : [r.woodTemperatureC]));
    const mean = temperatures.reduce((sum, t) => sum + t, 0) / temperatures.length;
    const draft = {
      type: 'lot-read' as const,
      ...{ meter, depth },
      woodTemperatureC: temperatures.length > 0 ? mean : woodTemperatureC,
      readings: readings.map(({ position, readingPct }) => ({ board: position, readingPct })),
    };
    const key = await this.lots.keyOfSheet(`${lot}\n${depth}\n${sheet.trim()}`);
    const outcome = await this.lots.fileLot({ key, by, entries: [{ lot, draft }] });
    if (isRefusal(outcome) && outcome.code === 'key-used')
      throw new BadRequestException(
        'this sheet was filed before, with another meter or wood temperature: take that back first',
      );
    if (columns && !isRefusal(outcome)) await this.remember(sheetHeadings(sheet), columns);
    const filed = answer(outcome);
    return filed.repeated
      ? { ...filed, sentence: `this sheet was filed before, nothing was added: ${filed.sentence}`, problems }
      : { ...filed, problems };
  }

  /** The readings of a lot as CSV. */
  @Get('lots/:code/readings.csv')
  @Header('content-type', 'text/csv; charset=utf-8')
  @ApiOkResponse({ content: { 'text/csv': { schema: { type: 'string' } } } })
  csv(@Param('code') code: string): Promise<string> {
    return this.seen.readingsCsv(code);
  }

  /** What was said the last time a sheet had these headings. */
  @Post('sheet-columns')
  @HttpCode(200)
  @ApiOkResponse({ type: RememberedColumnsDto })
  async remembered(@Body() { headings }: SheetColumnsAskedDto): Promise<RememberedColumnsDto> {
    const [row] = await this.source.query<{ columns: SheetColumns }[]>(
      'SELECT columns FROM sheet_columns WHERE headings = $1',
      [headings.join('\n')],
    );
    return { columns: row?.columns ?? null };
  }

  private async remember(headings: readonly string[], columns: SheetColumns): Promise<void> {
    await this.source.query(
      `INSERT INTO sheet_columns (headings, columns) VALUES ($1, $2)
       ON CONFLICT (headings) DO UPDATE SET columns = excluded.columns`,
      [headings.join('\n'), JSON.stringify(columns)],
    );
  }

  /** A rack that rests under a moisture rule: what its drying forecast is made from. */
  @Get('batches/:code/drying')
  @ApiOkResponse({ type: DryingDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async batch(@Param('code') code: string): Promise<DryingDto> {
    return dryingDto(await this.drying.ofBatch(code));
  }

  /** When lumber may be cut, and the window that comes to. */
  @Get('wood/gate')
  @ApiOkResponse({ type: WoodGateViewDto })
  async gate(): Promise<WoodGateViewDto> {
    const { woodGate } = await this.setup.factory();
    return { gate: woodGate, window: moistureWindow(woodGate) };
  }

  @Put('wood/gate')
  @HttpCode(200)
  @ApiOkResponse({ type: WoodGateViewDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  async setGate(@Body() { by, lastChange, gate }: SetWoodGateDto): Promise<WoodGateViewDto> {
    await this.lots.setGate({ by, lastChange }, checkedGate(gate));
    return this.gate();
  }
}

const whenOf = (happenedAt: string | undefined): { atMs?: number } =>
  happenedAt === undefined ? {} : { atMs: Date.parse(happenedAt) };

/** JSON knows no infinity: an open end is null. */
function outlookDto(outlook: DryingOutlook | 'never' | null): { outlook: OutlookDto | null; never: boolean } {
  if (outlook === null || outlook === 'never') return { outlook: null, never: outlook === 'never' };
  return {
    outlook: { ...outlook, high90: Number.isFinite(outlook.high90) ? outlook.high90 : null },
    never: false,
  };
}

const dryingDto = (seen: DryingView): DryingDto => ({ ...seen, ...outlookDto(seen.outlook) });

/** A gate of either school with numbers that can be; unknown fields are dropped. */
function checkedGate(gate: MoistureGate): MoistureGate {
  const number = (value: unknown, name: string, { least, most }: MayBe): number => {
    if (typeof value === 'number' && value >= least && value <= most) return value;
    throw new BadRequestException(`${name} must be ${least}…${most}`);
  };
  if (gate.school === 'fixed') {
    const lowPct = number(gate.lowPct, 'lowPct', MAY_BE.bandPct);
    const highPct = number(gate.highPct, 'highPct', MAY_BE.bandPct);
    if (!(lowPct < highPct)) throw new BadRequestException('the window must rise: the lower moisture first');
    return { school: 'fixed', lowPct, highPct };
  }
  if (gate.school !== 'destination') throw new BadRequestException("school must be 'fixed' or 'destination'");
  const air = gate.air as Partial<typeof gate.air> | undefined;
  return {
    school: 'destination',
    air: {
      temperatureC: number(air?.temperatureC, 'temperatureC', MAY_BE.gateC),
      relativeHumidityPct: number(air?.relativeHumidityPct, 'relativeHumidityPct', MAY_BE.gateRhPct),
    },
    tolerancePct: number(gate.tolerancePct, 'tolerancePct', MAY_BE.gateTolerancePct),
  };
}

/** An entry as it was asked for, as a draft: what was left out is said. */
function draftOf(entry: LotAsked): LotDraft {
  switch (entry.type) {
    case 'lot-read': {
      const { meter = null, woodTemperatureC = null, depth = 'shell', readings } = entry;
      const told = readings.map(({ board = null, readingPct }) => ({ board, readingPct }));
      return { ...entry, meter, woodTemperatureC, depth, readings: told };
    }
    case 'sort':
      return { type: 'sort', boards: entry.sorted };
    case 'cut': {
      const { pieces: blanks, matched = false, ...cut } = entry;
      return { ...cut, blanks, matched };
    }
    case 'lot-scrap': {
      const { boards = [], blanks = [] } = entry;
      return { ...entry, boards, blanks };
    }
    default:
      return entry;
  }
}
