import { METRIC } from '@ample-crane/core';
import { BadRequestException, Body, Controller, Get, HttpCode, Param, Put } from '@nestjs/common';
import {
  ApiBadRequestResponse,
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiTags,
} from '@nestjs/swagger';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { ChangesService } from './changes.service.ts';
import {
  ChangeDto,
  ClockDto,
  SetAwayDto,
  SetSkillDto,
  SetSpeciesDto,
  SetTrainingDto,
  SetupDto,
  SkilledDto,
  SpeciesDto,
  TrainingTimeDto,
  UnitsDto,
} from './setup.dto.ts';
import { daysBetween } from './days.ts';
import { FactoryClock } from './factory-clock.ts';
import { SetupService } from './setup.service.ts';

@ApiTags('setup')
@Controller()
export class SetupController {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly changes: ChangesService,
  ) {}

  /** The factory's time. */
  @Get('clock')
  @ApiOkResponse({ type: ClockDto })
  async now(): Promise<ClockDto> {
    return { nowMs: await this.clock.now() };
  }

  /** People, models and kinds: what forms and pickers offer. */
  @Get('setup')
  @ApiOkResponse({ type: SetupDto })
  async all(): Promise<SetupDto> {
    const [people, models, kinds, openable, species, rooms, { calendar, hourRates }] = await Promise.all([
      this.setup.people(),
      this.setup.models(),
      this.setup.kinds(),
      this.setup.openable(),
      this.setup.species(),
      this.setup.rooms(),
      this.setup.factory(),
    ]);
    return {
      people: people.map((person) => ({ ...person, units: person.units ?? METRIC })),
      calendar,
      hourRates,
      kinds,
      species,
      rooms: rooms.map(({ name }) => name),
      models: models.map((model) => ({
        ...model,
        model: model.name,
        kinds: openable.find((r) => r.model === model.name)?.kinds ?? [],
      })),
    };
  }

  /** The units somebody reads and types in, on every device they are chosen at. Put again it is the same: it needs no key. */
  @Put('setup/people/:code/units')
  @ApiOkResponse({ type: UnitsDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async chooseUnits(@Param('code') code: string, @Body() units: UnitsDto): Promise<UnitsDto> {
    await this.setup.chooseUnits(code, units);
    return units;
  }

  /** How well somebody can do something from now on. */
  @Put('setup/people/:code/skill')
  @ApiOkResponse({ type: SkilledDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async setSkill(
    @Param('code') code: string,
    @Body() { skill, degree, ...told }: SetSkillDto,
  ): Promise<SkilledDto> {
    let stands: SkilledDto = { skills: [], learning: [], teaches: [] };
    await this.changes.change({ ...told, setting: 'skills', name: code }, async (manager) => {
      const { before, after } = await this.setup.setDegree(manager, code, skill, degree);
      stands = after;
      return { before, after };
    });
    return stands;
  }

  /** How long it takes until somebody can do something alone. */
  @Put('setup/skills')
  @ApiOkResponse({ type: TrainingTimeDto })
  @ApiConflictResponse({ type: RefusalDto })
  async setTraining(@Body() { skill, trainingDays, ...told }: SetTrainingDto): Promise<TrainingTimeDto> {
    await this.changes.change({ ...told, setting: 'training', name: skill }, async (manager) => {
      const before = await this.setup.setTrainingDays(manager, skill, trainingDays);
      return { before: before === null ? null : { days: before }, after: { days: trainingDays } };
    });
    return { skill, trainingDays };
  }

  /** Somebody is away on some days, or here again on them. Days that are told twice are told once. */
  @Put('setup/people/:code/absences')
  @ApiOkResponse({ type: [String] })
  @ApiBadRequestResponse({ type: ProblemDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async setAway(
    @Param('code') code: string,
    @Body() { fromDay, toDay, away, ...told }: SetAwayDto,
  ): Promise<string[]> {
    const days = daysBetween(fromDay, toDay);
    if (days.length === 0)
      throw new BadRequestException(`${toDay} is before ${fromDay}, or more than a year after it`);
    await this.changes.change({ ...told, setting: 'absence', name: code }, async (manager) => {
      const before = await this.setup.setAway(manager, code, { days, away });
      return { before: { days: before }, after: { days: away ? days : [] } };
    });
    return away ? days : [];
  }

  /** Adds a species, or changes what is known of one. */
  @Put('setup/species')
  @HttpCode(200)
  @ApiOkResponse({ type: [SpeciesDto] })
  async setSpecies(@Body() { by, species }: SetSpeciesDto): Promise<SpeciesDto[]> {
    const name = species.name.trim();
    await this.changes.change({ by, setting: 'species', name }, (manager) =>
      this.setup.setSpecies(manager, { ...species, name }),
    );
    return this.setup.species();
  }

  /** Who changed what everything is judged by, newest first. */
  @Get('setup/changes')
  @ApiOkResponse({ type: [ChangeDto] })
  newest(): Promise<ChangeDto[]> {
    return this.changes.newest();
  }
}
