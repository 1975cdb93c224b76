import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiConflictResponse, ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import { FilePairsDto, MeetingsDto, PairingDto, PressesDto, TellMeetingsDto } from './fitting.dto.ts';
import { MeetingService } from './meeting.service.ts';
import { PairingService } from './pairing.service.ts';
import { PressesService } from './presses.service.ts';

@ApiTags('fitting')
@Controller()
export class FittingController {
  constructor(
    private readonly beds: PressesService,
    private readonly meeting: MeetingService,
    private readonly pairs: PairingService,
  ) {}

  /** Presses, carousels and moulds: what lies in each, when it comes free, and what wants a place. */
  @Get('presses')
  @ApiOkResponse({ type: PressesDto })
  presses(): Promise<PressesDto> {
    return this.beds.presses();
  }

  /** Who meets whom, who waits, and which changes of partners help. */
  @Get('meetings')
  @ApiOkResponse({ type: MeetingsDto })
  meetings(): Promise<MeetingsDto> {
    return this.meeting.meetings();
  }

  /** Says which batches shall meet. */
  @Post('meetings')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async tell(@Body() request: TellMeetingsDto): Promise<FiledDto> {
    return answer(await this.meeting.tell(request));
  }

  /** What was measured of two batches that will join, and how they are paired. */
  @Get('pairings/:host/:guest')
  @ApiOkResponse({ type: PairingDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  pairing(@Param('host') host: string, @Param('guest') guest: string): Promise<PairingDto> {
    return this.pairs.pairing(host, guest);
  }

  /** Files who is paired with whom, in place of any pairing of the two before. */
  @Post('pairings/:host/:guest')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async pair(
    @Param('host') host: string,
    @Param('guest') guest: string,
    @Body() { key, by, pairs, allow }: FilePairsDto,
  ): Promise<FiledDto> {
    return answer(await this.pairs.pair({ key, by, host, guest, pairs, allow }));
  }
}
