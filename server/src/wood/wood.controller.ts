import { MINUTE_MS } from '@ample-crane/core';
import { BadRequestException, Body, Controller, Get, HttpCode, Post } from '@nestjs/common';
import { ApiBadRequestResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ProblemDto } from '../http/answers.dto.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from './climate.service.ts';
import { ClimateKeptDto, ClimateReadingsDto, RoomDto } from './wood.dto.ts';

/** Clocks of sensors differ a little. */
const SENSOR_SLACK_MS = 5 * MINUTE_MS;

@ApiTags('wood')
@Controller('climate')
export class WoodController {
  constructor(
    private readonly climate: ClimateService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** Rooms and booths whose air is logged. */
  @Get('rooms')
  @ApiOkResponse({ type: [RoomDto] })
  async rooms(): Promise<RoomDto[]> {
    return [...new Set((await this.setup.stations()).map((station) => station.room))].map((room) => ({
      room,
    }));
  }

  /** Keeps readings of temperature and humidity; the same reading twice is one. */
  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: ClimateKeptDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  async keep(@Body() { readings }: ClimateReadingsDto): Promise<ClimateKeptDto> {
    const now = await this.clock.now();
    const rooms = new Set((await this.rooms()).map(({ room }) => room));
    const faults = readings.flatMap((reading, i) => {
      if (!rooms.has(reading.room)) return [`reading ${i + 1}: there is no room '${reading.room}'`];
      return Date.parse(reading.at) > now + SENSOR_SLACK_MS
        ? [`reading ${i + 1}: ${reading.at} is in the future`]
        : [];
    });
    if (faults.length > 0) throw new BadRequestException(faults);
    return {
      kept: await this.climate.keep(
        readings.map(({ at, ...reading }) => ({ ...reading, atMs: Date.parse(at) })),
      ),
    };
  }
}
