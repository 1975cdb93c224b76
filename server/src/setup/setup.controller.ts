import { METRIC } from '@ample-crane/core';
import { Body, Controller, Get, HttpCode, Param, Put } from '@nestjs/common';
import { ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ProblemDto } from '../http/answers.dto.ts';
import { ChangesService } from './changes.service.ts';
import { ChangeDto, ClockDto, SetSpeciesDto, SetupDto, SpeciesDto, UnitsDto } from './setup.dto.ts';
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
