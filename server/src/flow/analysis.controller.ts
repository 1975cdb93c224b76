import { Controller, Get, Param, ParseIntPipe, Query } from '@nestjs/common';
import { ApiBadRequestResponse, ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ProblemDto } from '../http/answers.dto.ts';
import {
  ConstraintPageDto,
  CumulativeDto,
  DayQueryDto,
  InHouseDto,
  LeadQueryDto,
  LeadTimeDto,
  LeadTimesDto,
  LogWholeDto,
  RosterDto,
  RosterQueryDto,
  SkillsDto,
  WindowQueryDto,
  WorkDto,
} from './analysis.dto.ts';
import { ConstraintService } from './constraint.service.ts';
import { LeadTimesService } from './lead-times.service.ts';
import { LogWholeService } from './log-whole.service.ts';
import { RosterService } from './roster.service.ts';
import { SkillsService } from './skills.service.ts';
import { WorkLogService } from './work-log.service.ts';

/** What the log says of the whole house over some weeks. */
@ApiTags('flow')
@ApiBadRequestResponse({ type: ProblemDto })
@Controller('flow')
export class AnalysisController {
  constructor(
    private readonly constraint: ConstraintService,
    private readonly leadTimes: LeadTimesService,
    private readonly whole: LogWholeService,
    private readonly skilled: SkillsService,
    private readonly worked: WorkLogService,
    private readonly rosters: RosterService,
  ) {}

  /** Which station or skill paces the factory, by three signs. */
  @Get('constraint')
  @ApiOkResponse({ type: ConstraintPageDto })
  pace(@Query() { days }: WindowQueryDto): Promise<ConstraintPageDto> {
    return this.constraint.view(days);
  }

  /** Where the lead time of what left went. */
  @Get('lead-times')
  @ApiOkResponse({ type: LeadTimesDto })
  lead(@Query() { days, model }: LeadQueryDto): Promise<LeadTimesDto> {
    return this.leadTimes.view(days, model);
  }

  /** How many instruments had come to each stage, or left, day by day. */
  @Get('cumulative')
  @ApiOkResponse({ type: CumulativeDto })
  cumulative(@Query() { days }: WindowQueryDto): Promise<CumulativeDto> {
    return this.leadTimes.cumulative(days);
  }

  /** The racks that were in each stage at the end of one of those days. */
  @Get('in-house')
  @ApiOkResponse({ type: InHouseDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  inHouse(@Query() { days, day }: DayQueryDto): Promise<InHouseDto> {
    return this.leadTimes.inHouse(days, day);
  }

  /** The lead time of one instrument, stay by stay. */
  @Get('lead-times/:batch/:position')
  @ApiOkResponse({ type: LeadTimeDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  leadOf(
    @Param('batch') batch: string,
    @Param('position', ParseIntPipe) position: number,
  ): Promise<LeadTimeDto> {
    return this.leadTimes.one({ batch, position });
  }

  /** Whether the log can be believed. */
  @Get('log-whole')
  @ApiOkResponse({ type: LogWholeDto })
  log(@Query() { days }: WindowQueryDto): Promise<LogWholeDto> {
    return this.whole.view(days);
  }

  /** What work takes and what it gives: times beside the route's, first passes, hours that were used. */
  @Get('work')
  @ApiOkResponse({ type: WorkDto })
  work(@Query() { days }: WindowQueryDto): Promise<WorkDto> {
    return this.worked.view(days);
  }

  /** Who works where today, or on a day soon. */
  @Get('roster')
  @ApiOkResponse({ type: RosterDto })
  roster(@Query() { day }: RosterQueryDto): Promise<RosterDto> {
    return this.rosters.view(day);
  }

  /** Who can do what, and what hangs on one or two. */
  @Get('skills')
  @ApiOkResponse({ type: SkillsDto })
  skills(@Query() { days }: WindowQueryDto): Promise<SkillsDto> {
    return this.skilled.view(days);
  }
}
