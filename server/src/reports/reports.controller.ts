import { Body, Controller, Get, Header, HttpCode, Param, Post, Query, StreamableFile } from '@nestjs/common';
import {
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiProduces,
  ApiProperty,
  ApiTags,
} from '@nestjs/swagger';
import { IsString, Length } from 'class-validator';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { CalendarFeedsService, type CalendarFeed } from './calendar-feeds.service.ts';
import { MorningSheetService } from './morning-sheet.service.ts';
import { htmlOfSheet, pdfOfSheet, type Sheet } from './sheet.ts';
import { WeeklyReviewService } from './weekly-review.service.ts';

class PersonQueryDto {
  @ApiProperty() @IsString() @Length(1, 60) person: string;
}

class CalendarFeedDto implements CalendarFeed {
  /** Part of an address that nobody can guess: '/api/calendars/TOKEN.ics'. */
  @ApiProperty() token: string;
  @ApiProperty() madeMs: number;
}

class OwnFeedDto {
  @ApiProperty({ type: CalendarFeedDto, nullable: true }) feed: CalendarFeedDto | null;
}

/** What leaves the house on paper and into calendars. */
@ApiTags('reports')
@Controller()
export class ReportsController {
  constructor(
    private readonly feeds: CalendarFeedsService,
    private readonly mornings: MorningSheetService,
    private readonly weeks: WeeklyReviewService,
  ) {}

  /** The calendar somebody subscribes to, if any. */
  @Get('calendar-feed')
  @ApiOkResponse({ type: OwnFeedDto })
  async feed(@Query() { person }: PersonQueryDto): Promise<OwnFeedDto> {
    return { feed: await this.feeds.of(person) };
  }

  /** A new address; the old one leads nowhere. Pressed twice the second one holds, so that it needs no answer kept. */
  @Post('calendar-feed')
  @HttpCode(200)
  @ApiOkResponse({ type: OwnFeedDto })
  @ApiConflictResponse({ type: RefusalDto })
  async make(@Body() { by }: FilingKeyDto): Promise<OwnFeedDto> {
    return { feed: await this.feeds.make(by) };
  }

  /** The address leads nowhere from now on. Done twice is done once. */
  @Post('calendar-feed/revoke')
  @HttpCode(200)
  @ApiOkResponse({ type: OwnFeedDto })
  @ApiConflictResponse({ type: RefusalDto })
  async revoke(@Body() { by }: FilingKeyDto): Promise<OwnFeedDto> {
    await this.feeds.revoke(by);
    return { feed: null };
  }

  /** Ends of holds, due days, absences and cutters to change, as an iCalendar object (RFC 5545) to subscribe to. */
  @Get('calendars/:token.ics')
  @Header('Content-Type', 'text/calendar; charset=utf-8')
  @ApiProduces('text/calendar')
  @ApiOkResponse({ schema: { type: 'string' } })
  @ApiNotFoundResponse({ type: ProblemDto })
  calendar(@Param('token') token: string): Promise<string> {
    return this.feeds.calendar(token);
  }

  /** One page for the morning: what paces, what is late, what comes free, what is short. PDF. */
  @Get('reports/morning.pdf')
  @ApiProduces('application/pdf')
  @ApiOkResponse({ schema: { type: 'string', format: 'binary' } })
  async morning(): Promise<StreamableFile> {
    return fileOf(await this.mornings.sheet(), 'morning');
  }

  /** The same as one HTML file that needs nothing else. */
  @Get('reports/morning.html')
  @Header('Content-Type', 'text/html; charset=utf-8')
  @Header('Content-Disposition', 'inline; filename="morning.html"')
  @ApiProduces('text/html')
  @ApiOkResponse({ schema: { type: 'string' } })
  async morningHtml(): Promise<string> {
    return htmlOfSheet(await this.mornings.sheet());
  }

  /** Four weeks looked back on, on one page. PDF. */
  @Get('reports/weekly.pdf')
  @ApiProduces('application/pdf')
  @ApiOkResponse({ schema: { type: 'string', format: 'binary' } })
  async weekly(): Promise<StreamableFile> {
    return fileOf(await this.weeks.sheet(), 'weekly');
  }

  /** The same as one HTML file that needs nothing else. */
  @Get('reports/weekly.html')
  @Header('Content-Type', 'text/html; charset=utf-8')
  @Header('Content-Disposition', 'inline; filename="weekly.html"')
  @ApiProduces('text/html')
  @ApiOkResponse({ schema: { type: 'string' } })
  async weeklyHtml(): Promise<string> {
    return htmlOfSheet(await this.weeks.sheet());
  }
}

const fileOf = async (sheet: Sheet, name: string): Promise<StreamableFile> =>
  new StreamableFile(await pdfOfSheet(sheet), {
    type: 'application/pdf',
    disposition: `inline; filename="${name}.pdf"`,
  });
