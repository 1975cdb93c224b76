import { DAY_MS, instantFromIso, instantsShowing, MINUTE_MS, parseClimateSheet } from '@ample-crane/core';
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
/** Readings from longer ago say nothing about wood that is here; each month of them would be a table. */
const OLDEST_MS = 3 * 365 * DAY_MS;
/** Ways loggers write what their clock shows, besides instants of ISO 8601. */
const TIME_FORMATS = [
  "yyyy-MM-dd'T'HH:mm:ss",
  "yyyy-MM-dd'T'HH:mm:ss.SSS",
  "yyyy-MM-dd'T'HH:mm",
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
  async setBand(
    @Param('room') room: string,
    @Body() { by, lastChange, lowPct, highPct }: BandDto,
  ): Promise<RoomDto[]> {
    await this.rooms.setBand({ by, lastChange }, room, { lowPct, highPct });
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
      const wrong = strangeTime(Date.parse(reading.at), now);
      return wrong ? [`reading ${i + 1}: ${reading.at} ${wrong}`] : [];
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
    const instants = loggedInstants(
      rows.map(({ time }) => time),
      calendar.zone,
    );
    const readings = rows.flatMap(({ row, time, ...air }, i) => {
      const instant = instants[i] ?? 'is no date with a time';
      const wrong = typeof instant === 'string' ? instant : strangeTime(instant, now);
      if (typeof instant === 'number' && wrong === null) return [{ room, atMs: instant, ...air }];
      faults.push(`row ${row}, column time: '${time}' ${wrong}`);
      return [];
    });
    if (readings.length === 0 || (faults.length > 0 && !goodRowsOnly))
      throw new BadRequestException(faults.length > 0 ? faults : ['the sheet holds no readings']);
    return { kept: await this.climate.keep(readings) };
  }
}

/** What is wrong with the time of a reading, to go behind it; null when nothing is. */
function strangeTime(atMs: number, nowMs: number): string | null {
  if (atMs > nowMs + SENSOR_SLACK_MS) return 'is in the future';
  return atMs < nowMs - OLDEST_MS ? 'is more than three years ago' : null;
}

/** What a logger's time may mean: instants in order, more than one when the clocks were put back; of a bad one, what is wrong. */
function meant(text: string, zone: string): number[] | string {
  const whole = instantFromIso(text);
  if (whole !== null) return [whole];
  for (const format of TIME_FORMATS) {
    // Read in UTC, where every time of day comes once: it is what the logger's clock showed.
    const shown = DateTime.fromFormat(text, format, { zone: 'utc' });
    if (!shown.isValid) continue;
    const { year, month, day, hour, minute, second } = shown;
    const instants = instantsShowing({ year, month, day, hour, minute, second }, zone);
    return instants.length > 0 ? instants : 'did not come: the clocks were put forward over it';
  }
  return 'is no date with a time';
}

/**
 * The instants of a logger's rows, in their order; of a row that has none, what is wrong. In the hour that comes twice a row is
 * of the first time until the rows begin anew; a sheet that begins in it cannot be told.
 */
function loggedInstants(times: readonly string[], zone: string): (number | string)[] {
  const all = times.map((text) => meant(text, zone));
  const certain = all.flatMap((one) => (typeof one !== 'string' && one.length === 1 ? one : []));
  const backwards = (certain[0] ?? 0) > (certain.at(-1) ?? 0);
  let before: number | undefined;
  return all.map((one) => {
    if (typeof one === 'string') return one;
    const [first = NaN, second] = backwards ? one.toReversed() : one;
    if (second === undefined) return (before = first);
    if (before === undefined)
      return 'came twice, and nothing before it says which is meant: begin the sheet an hour sooner, or write the offset';
    const goesOn = backwards ? first < before : first > before;
    return (before = goesOn ? first : second);
  });
}
