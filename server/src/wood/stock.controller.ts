import { Body, Controller, Delete, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import { ApiConflictResponse, ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import {
  BlankDto,
  BlankChoiceDto,
  KeepDto,
  TakeBlanksDto,
  WeighBackDto,
  WeighedPartDto,
  TakeBackWeighBackDto,
  WeighedViewDto,
} from './stock.dto.ts';
import { StockService } from './stock.service.ts';

@ApiTags('wood')
@Controller('stock')
export class StockController {
  constructor(private readonly stock: StockService) {}

  /** Blanks in stock. */
  @Get('blanks')
  @ApiOkResponse({ type: [BlankDto] })
  blanks(): Promise<BlankDto[]> {
    return this.stock.blanks();
  }

  /** Which blanks a batch should take, with the rule of thumb beside it. */
  @Get('choice/:batch')
  @ApiOkResponse({ type: BlankChoiceDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  choice(@Param('batch') batch: string): Promise<BlankChoiceDto> {
    return this.stock.choice(batch);
  }

  /** Takes blanks for a batch; halves of a pair together, or for a reason. */
  @Post('take')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async take(@Body() request: TakeBlanksDto): Promise<FiledDto> {
    return answer(await this.stock.take(request));
  }

  /** A piece weighed before and after: the model's keep fraction learns from it. */
  @Post('weigh-backs')
  @HttpCode(200)
  @ApiOkResponse({ type: KeepDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  @ApiConflictResponse({ type: ProblemDto })
  weighBack(@Body() weighed: WeighBackDto): Promise<KeepDto> {
    return this.stock.weighBack(weighed);
  }

  /** What was weighed back and counts, newest first. */
  @Get('weigh-backs')
  @ApiOkResponse({ type: [WeighedViewDto] })
  weighBacks(@Query() { model, kind }: WeighedPartDto): Promise<WeighedViewDto[]> {
    return this.stock.weighBacks(model, kind);
  }

  /** Takes a weigh-back out of what is learnt; the record keeps it. */
  @Delete('weigh-backs')
  @ApiOkResponse({ type: KeepDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  takeBackWeighBack(@Query() { by, model, kind, piece }: TakeBackWeighBackDto): Promise<KeepDto> {
    return this.stock.takeBackWeighBack(by, model, kind, piece);
  }
}
