import { BadRequestException, Controller, Get, Query } from '@nestjs/common';
import { ApiOkResponse, ApiQuery, ApiTags } from '@nestjs/swagger';
import { BoardDto, FlowDto } from './board.dto.ts';
import { BoardService } from './board.service.ts';
import { FlowService } from './flow.service.ts';

const LONGEST_WINDOW_DAYS = 250;
const USUAL_WINDOW_DAYS = '20';

@ApiTags('flow')
@Controller()
export class FlowController {
  constructor(
    private readonly boards: BoardService,
    private readonly flows: FlowService,
  ) {}

  /** The Now board: racks, holds, rope, constraint and calls in one request. */
  @Get('board')
  @ApiOkResponse({ type: BoardDto })
  board(): Promise<BoardDto> {
    return this.boards.board();
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
