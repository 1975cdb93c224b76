import { Body, Controller, Delete, Get, Header, HttpCode, Param, Post, Query } from '@nestjs/common';
import {
  ApiBadRequestResponse,
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiTags,
} from '@nestjs/swagger';
import { RouteDto } from './rack.dto.ts';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import { MoveBatchDto, RemovedDto, ReviseRouteDto, RouteSummaryDto } from './routes.dto.ts';
import { RoutesService, type RouteFile } from './routes.service.ts';

@ApiTags('routing')
@Controller()
export class RoutesController {
  constructor(private readonly routes: RoutesService) {}

  /** Every revision of every route, newest first. */
  @Get('routes')
  @ApiOkResponse({ type: [RouteSummaryDto] })
  list(): Promise<RouteSummaryDto[]> {
    return this.routes.list();
  }

  /** The newest routes of a model, one for each kind. */
  @Get('models/:model/routes')
  @ApiOkResponse({ type: [RouteDto] })
  @ApiNotFoundResponse({ type: ProblemDto })
  ofModel(@Param('model') model: string): Promise<RouteDto[]> {
    return this.routes.ofModel(model);
  }

  @Get('routes/:id')
  @ApiOkResponse({ type: RouteDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  route(@Param('id') id: string): Promise<RouteDto> {
    return this.routes.route(id);
  }

  /** A route as a file, in the published form. */
  @Get('routes/:id/route.json')
  @Header('content-type', 'application/json; charset=utf-8')
  @ApiOkResponse({ type: Object })
  @ApiNotFoundResponse({ type: ProblemDto })
  file(@Param('id') id: string): Promise<RouteFile> {
    return this.routes.file(id);
  }

  /** A new revision of a route, for batches opened from now on. */
  @Post('routes')
  @HttpCode(200)
  @ApiOkResponse({ type: RouteSummaryDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  @ApiConflictResponse({ type: RefusalDto })
  async revise(@Body() { key: _key, ...asked }: ReviseRouteDto): Promise<RouteSummaryDto> {
    return answer(await this.routes.revise(asked));
  }

  /** Moves a batch to another revision, or to other ways through its route. */
  @Post('batches/:code/route')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async move(@Param('code') batch: string, @Body() asked: MoveBatchDto): Promise<FiledDto> {
    return answer(await this.routes.move({ ...asked, batch, ways: asked.ways ?? {} }));
  }

  /** Takes a station out of use, unless something goes through it. */
  @Delete('stations/:code')
  @ApiOkResponse({ type: RemovedDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async removeStation(@Param('code') code: string, @Query() { by }: FilingKeyDto): Promise<RemovedDto> {
    return answer(await this.routes.removeStation(by, code));
  }
}
