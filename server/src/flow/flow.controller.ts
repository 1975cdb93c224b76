import { STAGES, type Stage } from '@ample-crane/core';
import {
  BadRequestException,
  Body,
  Controller,
  Get,
  HttpCode,
  NotFoundException,
  Param,
  Post,
  Query,
  Req,
  Res,
} from '@nestjs/common';
import { ApiConflictResponse, ApiNotFoundResponse, ApiOkResponse, ApiQuery, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { ProblemDto } from '../http/answers.dto.ts';
import { sendShared } from '../live/written-once.ts';
import {
  AnswerCallDto,
  BoardDto,
  BoardQueryDto,
  CallAnswerDto,
  RackLineDto,
  StageRowDto,
} from './board.dto.ts';
import { BoardService } from './board.service.ts';
import { FloorDto } from './floor.dto.ts';
import { FloorService } from './floor.service.ts';
import { FlowDto, LeftDto, LeftQueryDto } from './flow.dto.ts';
import { FlowService } from './flow.service.ts';
import { HandOffsDto, HandOffsQueryDto } from './hand-offs.dto.ts';
import { HandOffsService } from './hand-offs.service.ts';

const LONGEST_WINDOW_DAYS = 250;
const USUAL_WINDOW_DAYS = '20';
const USUAL_FAULT_DAYS = 28;

@ApiTags('flow')
@Controller()
export class FlowController {
  constructor(
    private readonly floors: FloorService,
    private readonly boards: BoardService,
    private readonly flows: FlowService,
    private readonly handOffs: HandOffsService,
  ) {}

  /** What stands around every page: clock, rope, constraint, last filing, and the names a line may use. */
  @Get('floor')
  @ApiOkResponse({ type: FloorDto })
  async floor(@Req() request: Request, @Res() response: Response): Promise<void> {
    await sendShared(await this.floors.floor(), request, response);
  }

  /** What waits to be accepted by the next department, and what was found where and caused where. */
  @Get('hand-offs')
  @ApiOkResponse({ type: HandOffsDto })
  handedOver(@Query() { days = USUAL_FAULT_DAYS }: HandOffsQueryDto): Promise<HandOffsDto> {
    return this.handOffs.view(days);
  }

  /** The Now board: the first racks and holds of every station, of all open racks or of those asked for, and all calls. */
  @Get('board')
  @ApiOkResponse({ type: BoardDto })
  async board(
    @Query() { model, person, order, late }: BoardQueryDto,
    @Req() request: Request,
    @Res() response: Response,
  ): Promise<void> {
    const all = [model, person, order, late].every((one) => one === undefined);
    const asked = { model, person, order, late: late === 'yes' };
    await sendShared(all ? await this.boards.board() : await this.boards.boardOf(asked), request, response);
  }

  /** Puts a call off until a time, gives it to somebody, or brings it back. */
  @Post('calls/answers')
  @HttpCode(200)
  @ApiOkResponse({ type: CallAnswerDto })
  @ApiConflictResponse({ type: ProblemDto })
  answer(@Body() said: AnswerCallDto): Promise<CallAnswerDto> {
    return this.boards.answer(said);
  }

  /** One stage: its stations with everything that stands at them. */
  @Get('stages/:stage')
  @ApiOkResponse({ type: [StageRowDto] })
  @ApiNotFoundResponse({ type: ProblemDto })
  stage(@Param('stage') stage: string): Promise<StageRowDto[]> {
    const known = STAGES.find((one): one is Stage => one === stage);
    if (!known) throw new NotFoundException(`there is no stage '${stage}': ${STAGES.join(', ')}`);
    return this.boards.stage(known);
  }

  /** Every open rack: where its hindmost pieces stand, what they wait for, and by when they are due. */
  @Get('racks')
  @ApiOkResponse({ type: [RackLineDto] })
  list(): Promise<RackLineDto[]> {
    return this.boards.list();
  }

  /** The racks behind one day of a station. */
  @Get('flow/left')
  @ApiOkResponse({ type: LeftDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  left(@Query() { days, station, day }: LeftQueryDto): Promise<LeftDto> {
    return this.flows.left(days, { station, day });
  }

  /** Good pieces per day by station. */
  @Get('flow')
  @ApiQuery({ name: 'days', required: false, type: Number, description: 'working days before today, 1–250' })
  @ApiOkResponse({ type: FlowDto })
  flow(@Query('days') asked: string = USUAL_WINDOW_DAYS): Promise<FlowDto> {
    const days = Number(asked);
    if (!Number.isInteger(days) || days < 1 || days > LONGEST_WINDOW_DAYS) {
      throw new BadRequestException(`days must be 1 to ${LONGEST_WINDOW_DAYS}, not '${asked}'`);
    }
    return this.flows.flow(days);
  }
}
