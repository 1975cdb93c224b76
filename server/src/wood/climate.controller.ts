import { MINUTE_MS, parseClimateSheet } from '@ample-crane/core';
import {
  BadRequestException,
  Body,
  Controller,
  Get,
  HttpCode,
  Param,
  Post,
  Put,
  Query,
} from '@nestjs/common';
import { ApiBadRequestResponse, ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { DateTime } from 'luxon';
import { ProblemDto } from '../http/answers.dto.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import {
  BandDto,
  ClimateKeptDto,
  ClimateReadingsDto,
  ClimateSheetDto,
  CourseDto,
  CourseQueryDto,
  RoomDto,
} from './climate.dto.ts';
import { ClimateService } from './climate.service.ts';
import { RoomsService } from './rooms.service.ts';

/** Clocks of sensors differ a little. */
const SENSOR_SLACK_MS = 5 * MINUTE_MS;
/** Ways loggers write a time, besides ISO 8601. */
const TIME_FORMATS = [
  'yyyy-MM-dd HH:mm:ss',
  'yyyy-MM-dd HH:mm',
  'dd.MM.yyyy HH:mm:ss',
  'dd.MM.yyyy HH:mm',
  'dd/MM/yyyy HH:mm',
];

@ApiTags('wood')
@Controller('climate')
export class ClimateController {
  constructor(
    private readonly climate: ClimateService,
    private readonly rooms: RoomsService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** Rooms and booths: their air, its EMC against what they should hold, and how their sensors do. */
  @Get('rooms')
  @ApiOkResponse({ type: [RoomDto] })
  seen(): Promise<RoomDto[]> {
    return this.rooms.seen();
  }

  /** One room over the last days; long times in spans that keep the extremes. */
  @Get('rooms/:room')
  @ApiOkResponse({ type: CourseDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  course(@Param('room') room: string, @Query() { days }: CourseQueryDto): Promise<CourseDto> {
    return this.rooms.course(room, days);
  }

  /** The EMC a room should hold. */
  @Put('rooms/:room')
  @HttpCode(200)
  @ApiOkResponse({ type: [RoomDto] })
  @ApiBadRequestResponse({ type: ProblemDto })
  async setBand(@Param('room') room: string, @Body() band: BandDto): Promise<RoomDto[]> {
    await this.rooms.setBand(room, band);
    return this.rooms.seen();
  }

  /** Keeps readings of temperature and humidity; the same reading twice is one. */
  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: ClimateKeptDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  async keep(@Body() { readings }: ClimateReadingsDto): Promise<ClimateKeptDto> {
    const now = await this.clock.now();
    const rooms = new Set((await this.setup.rooms()).map(({ name }) => name));
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

  /** Keeps a climate logger's file. */
  @Post('sheet')
  @HttpCode(200)
  @ApiOkResponse({ type: ClimateKeptDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  async sheet(@Body() { room, sheet, goodRowsOnly }: ClimateSheetDto): Promise<ClimateKeptDto> {
    const now = await this.clock.now();
    const { calendar } = await this.setup.factory();
    if (!(await this.setup.rooms()).some(({ name }) => name === room))
      throw new BadRequestException(`there is no room '${room}'`);
    const { rows, problems } = parseClimateSheet(sheet);
    const faults = problems.map((p) => `row ${p.row}, column ${p.column}: ${p.message}`);
    const readings = rows.flatMap(({ row, time, ...air }) => {
      const atMs = instantOf(time, calendar.zone);
      if (atMs === null) faults.push(`row ${row}, column time: '${time}' is no date with a time`);
      else if (atMs > now + SENSOR_SLACK_MS) faults.push(`row ${row}, column time: ${time} is in the future`);
      else return [{ room, atMs, ...air }];
      return [];
    });
    if (readings.length === 0 || (faults.length > 0 && !goodRowsOnly))
      throw new BadRequestException(faults.length > 0 ? faults : ['the sheet holds no readings']);
    return { kept: await this.climate.keep(readings) };
  }
}

/** A logger's time; without a zone of its own it is factory time. */
function instantOf(text: string, zone: string): number | null {
  const iso = DateTime.fromISO(text, { zone });
  if (iso.isValid && /\d{4}-\d{2}-\d{2}/.test(text)) return iso.toMillis();
  for (const format of TIME_FORMATS) {
    const time = DateTime.fromFormat(text, format, { zone });
    if (time.isValid) return time.toMillis();
  }
  return null;
}
