import { csvOf } from '@ample-crane/core';
import { Body, Controller, Get, Header, HttpCode, NotFoundException, Param, Post, Put } from '@nestjs/common';
import { ApiConflictResponse, ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { SetupService } from '../setup/setup.service.ts';
import {
  ChartDto,
  DimensionSummaryDto,
  GaugeDto,
  MachineDto,
  RunRulesDto,
  SetRunRulesDto,
  SetMachineDto,
  SettledDto,
} from './checks.dto.ts';
import { BASELINE_POINTS, ChecksService } from './checks.service.ts';
import { GaugeService } from './gauge.service.ts';
import { MachinesService } from './machines.service.ts';
import { SettleCycleDto } from './mill.dto.ts';

@ApiTags('machining')
@Controller()
export class ChecksController {
  constructor(
    private readonly checks: ChecksService,
    private readonly setup: SetupService,
    private readonly gauge: GaugeService,
    private readonly machines: MachinesService,
  ) {}

  /** Every dimension that is measured, with what its chart says now. */
  @Get('checks')
  @ApiOkResponse({ type: [DimensionSummaryDto] })
  all(): Promise<DimensionSummaryDto[]> {
    return this.checks.summaries();
  }

  /** Switches run rules on and off, for the whole factory. */
  @Put('checks/rules')
  @HttpCode(200)
  @ApiOkResponse({ type: RunRulesDto })
  async setRules(@Body() { by, lastChange, rules }: SetRunRulesDto): Promise<RunRulesDto> {
    await this.checks.setRules({ by, lastChange }, rules);
    return { rules };
  }

  /** The looks at one dimension, for its chart. */
  @Get('checks/:model/:kind/:check')
  @ApiOkResponse({ type: ChartDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async chart(
    @Param('model') model: string,
    @Param('kind') kind: string,
    @Param('check') check: string,
  ): Promise<ChartDto> {
    const dimension = await this.checks.dimension(model, kind, check);
    const [{ calendar, runRules }, { points, piecesALook }] = await Promise.all([
      this.setup.factory(),
      this.checks.chart(dimension),
    ]);
    return {
      ...dimension,
      piecesALook,
      zone: calendar.zone,
      baseline: BASELINE_POINTS,
      rules: runRules,
      points,
    };
  }

  /** The looks at one dimension as CSV: one row for each value. */
  @Get('checks/:model/:kind/:check/values.csv')
  @Header('content-type', 'text/csv; charset=utf-8')
  @ApiOkResponse({ content: { 'text/csv': { schema: { type: 'string' } } } })
  async csv(
    @Param('model') model: string,
    @Param('kind') kind: string,
    @Param('check') key: string,
  ): Promise<string> {
    const { check } = await this.checks.dimension(model, kind, key);
    const points = await this.checks.points(model, kind, key);
    const rows = points.flatMap((point) =>
      point.values.map((value, i) => [
        new Date(point.atMs).toISOString(),
        point.batch,
        point.positions[i],
        point.load,
        value,
        check.unit,
        point.source,
      ]),
    );
    return csvOf(['measured_at', 'batch', 'piece', 'load', 'value', 'unit', 'source'], rows);
  }

  /** One value from the gauge at the bench. */
  @Post('checks/:model/:kind/:check/gauge')
  @HttpCode(200)
  @ApiOkResponse({ type: GaugeDto })
  @ApiConflictResponse({ type: RefusalDto })
  async read(
    @Param('model') model: string,
    @Param('kind') kind: string,
    @Param('check') key: string,
  ): Promise<GaugeDto> {
    const { check } = await this.checks.dimension(model, kind, key);
    return answer(await this.gauge.read(check));
  }

  /** Machines that tell what they do, with cycles nobody has confirmed. */
  @Get('machines')
  @ApiOkResponse({ type: [MachineDto] })
  allMachines(): Promise<MachineDto[]> {
    return this.machines.machines();
  }

  /** Adds a machine that speaks MTConnect, or tells where it is now. */
  @Put('machines')
  @HttpCode(200)
  @ApiOkResponse({ type: [MachineDto] })
  @ApiNotFoundResponse({ type: ProblemDto })
  async setMachine(@Body() { by, code, station, name, url }: SetMachineDto): Promise<MachineDto[]> {
    if (!(await this.setup.stations()).some((one) => one.code === station))
      throw new NotFoundException(`there is no station '${station}'`);
    await this.machines.set(by, { code, station, name, url });
    return this.machines.machines();
  }

  /** The operator says what a cycle was. */
  @Post('machines/cycles/:id/settle')
  @HttpCode(200)
  @ApiOkResponse({ type: SettledDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async settle(@Param('id') id: string, @Body() told: SettleCycleDto): Promise<SettledDto> {
    const { sentence } = answer(await this.machines.settle(id, told));
    return { sentence };
  }
}
