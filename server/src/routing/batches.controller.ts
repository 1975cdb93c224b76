import { Body, Controller, Get, Header, HttpCode, Param, Post } from '@nestjs/common';
import {
  ApiBadRequestResponse,
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiTags,
} from '@nestjs/swagger';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import {
  BatchDto,
  JoinPartnerDto,
  OpenBatchDto,
  RackDto,
  ReadingsFileDto,
  ReadingsFiledDto,
  SheetRefusedDto,
} from './batches.dto.ts';
import { BatchesService } from './batches.service.ts';

@ApiTags('batches')
@Controller('batches')
export class BatchesController {
  constructor(private readonly batches: BatchesService) {}

  /** Opens a new batch on the newest revision of its route. */
  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async open(@Body() request: OpenBatchDto): Promise<FiledDto> {
    return answer(await this.batches.open(request));
  }

  /** A batch with its pieces, holds, route and log. */
  @Get(':code')
  @ApiOkResponse({ type: BatchDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  batch(@Param('code') code: string): Promise<BatchDto> {
    return this.batches.batch(code);
  }

  /** The rack of an open batch as it stands: state, route by its ways, holds. */
  @Get(':code/rack')
  @ApiOkResponse({ type: RackDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  rack(@Param('code') code: string): Promise<RackDto> {
    return this.batches.rack(code);
  }

  /** Open racks of its model that stand at their side of a join. */
  @Get(':code/partners')
  @ApiOkResponse({ type: [JoinPartnerDto] })
  @ApiNotFoundResponse({ type: ProblemDto })
  partners(@Param('code') code: string): Promise<JoinPartnerDto[]> {
    return this.batches.partners(code);
  }

  /** Files a sheet of moisture readings (CSV or pasted cells). */
  @Post(':code/readings')
  @HttpCode(200)
  @ApiOkResponse({ type: ReadingsFiledDto })
  @ApiBadRequestResponse({ type: SheetRefusedDto })
  async readings(@Param('code') code: string, @Body() request: ReadingsFileDto): Promise<ReadingsFiledDto> {
    return answer(await this.batches.readings(code, request));
  }

  /** The batch's moisture readings as CSV. */
  @Get(':code/readings.csv')
  @Header('content-type', 'text/csv; charset=utf-8')
  @ApiOkResponse({ content: { 'text/csv': { schema: { type: 'string' } } } })
  readingsCsv(@Param('code') code: string): Promise<string> {
    return this.batches.readingsCsv(code);
  }
}
