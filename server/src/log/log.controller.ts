import { randomUUID } from 'node:crypto';
import { instantOf, parseLine } from '@ample-crane/core';
import { Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import {
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiTags,
  ApiUnprocessableEntityResponse,
} from '@nestjs/swagger';
import { DataSource } from 'typeorm';
import { answer, NotUnderstoodException, RefusalException } from '../http/answers.ts';
import { NotUnderstoodDto, RefusalDto } from '../http/answers.dto.ts';
import { KeyOfTheLog } from '../http/once.interceptor.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FilingRequest } from './filing.ts';
import { GivenUpService } from './given-up.service.ts';
import {
  FiledDto,
  FileEntriesDto,
  FileLineDto,
  GivenUpDto,
  GiveUpDto,
  PreviewLineDto,
  TakeBackDto,
} from './log.dto.ts';
import { LogService } from './log.service.ts';

@ApiTags('log')
@Controller('log')
export class LogController {
  constructor(
    private readonly log: LogService,
    private readonly givenUp: GivenUpService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly source: DataSource,
  ) {}

  /** Files entries on one batch: all of them or none. */
  @Post()
  @KeyOfTheLog()
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: RefusalDto })
  async file(@Body() request: FileEntriesDto): Promise<FiledDto> {
    const { key, by, batch, happenedAt } = request;
    const atMs = happenedAt === undefined ? {} : { atMs: Date.parse(happenedAt) };
    return answer(await this.log.file({ key, by, batch, ...atMs, actions: request.entries }));
  }

  /** Files what a typed or scanned line says: of every batch it names, or of none. */
  @Post('line')
  @KeyOfTheLog()
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiUnprocessableEntityResponse({ type: NotUnderstoodDto })
  @ApiConflictResponse({ type: RefusalDto })
  async fileLine(@Body() { key, by, line }: FileLineDto): Promise<FiledDto> {
    return answer(await this.log.fileAll(await this.requestsOf({ key, by, line })));
  }

  /** What a line would do, or why it would be refused: the same filing, taken back before anybody sees it. */
  @Post('line/preview')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiUnprocessableEntityResponse({ type: NotUnderstoodDto })
  @ApiConflictResponse({ type: RefusalDto })
  async previewLine(@Body() { by, line }: PreviewLineDto): Promise<FiledDto> {
    return answer(
      await this.log.fileAll(await this.requestsOf({ key: randomUUID(), by, line }), { dry: true }),
    );
  }

  /** Takes a filing back, wherever it was filed and whatever it touched: by its key, so that no other is meant. */
  @Post('take-back')
  @KeyOfTheLog()
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: RefusalDto })
  async takeBack(@Body() { key, by, filing }: TakeBackDto): Promise<FiledDto> {
    return answer(await this.log.takeBack({ key, by, filing }));
  }

  /** Notes that its person gave up what a browser had kept and the rules then refused. */
  @Post('given-up')
  @HttpCode(200)
  @ApiOkResponse({ type: GivenUpDto })
  @ApiConflictResponse({ type: RefusalDto })
  async giveUp(@Body() { key, by, words, request, why }: GiveUpDto): Promise<GivenUpDto> {
    return answer(await this.givenUp.note({ key, by, words, request, why }));
  }

  /** What was given up, newest first. */
  @Get('given-up')
  @ApiOkResponse({ type: [GivenUpDto] })
  allGivenUp(): Promise<GivenUpDto[]> {
    return this.givenUp.newest();
  }

  private async requestsOf({
    key,
    by,
    line,
  }: {
    key: string;
    by: string;
    line: string;
  }): Promise<FilingRequest[]> {
    const [stations, people, racks, nowMs, { calendar }] = await Promise.all([
      this.setup.stations(),
      this.setup.people(),
      this.racksNamed(line),
      this.clock.happened(),
      this.setup.factory(),
    ]);
    const parsed = parseLine(line, {
      stations,
      people,
      batches: racks.map(({ code }) => code),
      operationsOf: (batch) => racks.find(({ code }) => code === batch)?.operations ?? [],
      units: people.find(({ code }) => code === by)?.units ?? undefined,
    });
    if ('notUnderstood' in parsed) throw new NotUnderstoodException(parsed.notUnderstood);
    const { also = [], ...first } = parsed.understood;
    return [first, ...also].map(({ batch, moment, actions }, i) => {
      const said = instantOf(moment, calendar, nowMs);
      if (typeof said === 'object') throw new RefusalException(said);
      return {
        key: i === 0 ? key : `${key}-${i + 1}`,
        ...{ by, batch, actions },
        ...(said === undefined ? {} : { atMs: said }),
      };
    });
  }

  /** Open batches, and closed ones the line names itself (a shipment may be taken back), with the operations of those named. */
  private async racksNamed(
    line: string,
  ): Promise<{ code: string; operations: { key: string; name: string }[] }[]> {
    const named = [...line.slice(0, 500).matchAll(/\b([a-z])-?(\d+)\b/gi)].map(
      ([, letter = '', number = '']) => `${letter.toUpperCase()}-${number}`,
    );
    const rows = await this.source.query<{ code: string; route_id: string }[]>(
      'SELECT code, route_id FROM batch WHERE NOT closed OR code = ANY($1)',
      [named],
    );
    const racks = await Promise.all(
      rows.map(async ({ code, route_id: routeId }) => ({
        code,
        operations: named.includes(code) ? (await this.setup.route(routeId)).operations : [],
      })),
    );
    const others = await this.log.otherCodes(named);
    return [...racks, ...others.map((code) => ({ code, operations: [] }))];
  }
}
