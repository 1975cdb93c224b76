import { BadRequestException, Body, Controller, Put } from '@nestjs/common';
import { ApiBadRequestResponse, ApiConflictResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { daysBetween } from '../setup/days.ts';
import { CalendarDto, SetClosedDto, SetOvertimeDto, SetShiftsDto } from './calendar.dto.ts';
import { CalendarService } from './calendar.service.ts';

/** When the house works. It is read with the rest of set-up. */
@ApiTags('setup')
@ApiBadRequestResponse({ type: ProblemDto })
@ApiConflictResponse({ type: RefusalDto })
@Controller('setup/calendar')
export class CalendarController {
  constructor(private readonly calendars: CalendarService) {}

  /** Some days are closed, or worked again. Days that are told twice are told once. */
  @Put('closed')
  @ApiOkResponse({ type: CalendarDto })
  async setClosed(@Body() { fromDay, toDay, closed, ...told }: SetClosedDto): Promise<CalendarDto> {
    const [first, ...others] = daysBetween(fromDay, toDay);
    if (first === undefined)
      throw new BadRequestException(`${toDay} is before ${fromDay}, or more than a year after it`);
    return { calendar: await this.calendars.close(told, [first, ...others], closed) };
  }

  /** An extra span is worked, by the house or by some stations, or not after all. */
  @Put('overtime')
  @ApiOkResponse({ type: CalendarDto })
  async setOvertime(@Body() asked: SetOvertimeDto): Promise<CalendarDto> {
    const { date, start, end, stations, worked, ...told } = asked;
    const extra = { date, start, end, ...(stations ? { stations: [...new Set(stations)].toSorted() } : {}) };
    return { calendar: await this.calendars.overtime(told, extra, worked) };
  }

  /** Other shifts from a day on. */
  @Put('shifts')
  @ApiOkResponse({ type: CalendarDto })
  async setShifts(@Body() { fromDay, shifts, ...told }: SetShiftsDto): Promise<CalendarDto> {
    return { calendar: await this.calendars.shifts(told, shifts, fromDay) };
  }
}
