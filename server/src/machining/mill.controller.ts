import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiConflictResponse, ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import { LoadsService } from './loads.service.ts';
import {
  ChangeCutterDto,
  CutterChangeDto,
  CutterDto,
  EndLoadDto,
  MillDto,
  ProgramDto,
  ReviseProgramDto,
  StartLoadDto,
  StationNameDto,
} from './mill.dto.ts';
import { MillService } from './mill.service.ts';
import { ProgramsService } from './programs.service.ts';

@ApiTags('machining')
@Controller()
export class MillController {
  constructor(
    private readonly mills: MillService,
    private readonly loads: LoadsService,
    private readonly programs: ProgramsService,
  ) {}

  /** Stations with tables. */
  @Get('mill')
  @ApiOkResponse({ type: [StationNameDto] })
  stations(): Promise<StationNameDto[]> {
    return this.mills.stations();
  }

  /** Tables, what waits for them, cutters, and today's loads as proposed. */
  @Get('mill/:station')
  @ApiOkResponse({ type: MillDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  mill(@Param('station') station: string): Promise<MillDto> {
    return this.mills.mill(station);
  }

  /** Starts a load: all its pieces are in hand, or none. */
  @Post('loads')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async start(@Body() request: StartLoadDto): Promise<FiledDto> {
    return answer(await this.loads.start(request));
  }

  /** Ends a load: all its pieces are done unless said otherwise. */
  @Post('loads/:code/end')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async end(@Param('code') load: string, @Body() request: EndLoadDto): Promise<FiledDto> {
    return answer(await this.loads.end({ ...request, load }));
  }

  /** Programs, all revisions, newest first. */
  @Get('programs')
  @ApiOkResponse({ type: [ProgramDto] })
  allPrograms(): Promise<ProgramDto[]> {
    return this.programs.all();
  }

  /** A new revision of a program; its next load asks for a first piece. */
  @Post('programs')
  @HttpCode(200)
  @ApiOkResponse({ type: ProgramDto })
  @ApiConflictResponse({ type: RefusalDto })
  async revise(@Body() { key: _key, ...program }: ReviseProgramDto): Promise<ProgramDto> {
    return answer(await this.programs.revise(program));
  }

  /** Changes of a station's cutters, newest first. */
  @Get('mill/:station/cutter-changes')
  @ApiOkResponse({ type: [CutterChangeDto] })
  changes(@Param('station') station: string): Promise<CutterChangeDto[]> {
    return this.programs.changes(station);
  }

  /** A cutter changed: its minutes begin again. */
  @Post('mill/:station/cutter-changes')
  @HttpCode(200)
  @ApiOkResponse({ type: [CutterDto] })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async change(@Param('station') station: string, @Body() change: ChangeCutterDto): Promise<CutterDto[]> {
    return answer(await this.programs.change({ ...change, station }));
  }
}
