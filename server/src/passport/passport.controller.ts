import {
  Body,
  Controller,
  Get,
  HttpCode,
  Param,
  ParseIntPipe,
  Post,
  Req,
  StreamableFile,
} from '@nestjs/common';
import {
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiProduces,
  ApiTags,
} from '@nestjs/swagger';
import type { Request } from 'express';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { OwnerPagesService } from './owner-pages.service.ts';
import { OwnerPageDto, OwnerViewDto, PassportDto } from './passport.dto.ts';
import { passportFile, passportPaper } from './passport-file.ts';
import { PassportService } from './passport.service.ts';

@ApiTags('passports')
@Controller()
export class PassportController {
  constructor(
    private readonly passports: PassportService,
    private readonly owners: OwnerPagesService,
  ) {}

  /** What is kept of a piece: evidence, coats, what rules were passed by; with its parts. */
  @Get('passports/:batch/:position')
  @ApiOkResponse({ type: PassportDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  passport(
    @Param('batch') batch: string,
    @Param('position', ParseIntPipe) position: number,
  ): Promise<PassportDto> {
    return this.passports.passport(batch, position);
  }

  /** The same as a file: docs/formats/passport.schema.json. */
  @Get('passports/:batch/:position/passport.json')
  @ApiOkResponse({ schema: { type: 'object', additionalProperties: true } })
  @ApiNotFoundResponse({ type: ProblemDto })
  async file(
    @Param('batch') batch: string,
    @Param('position', ParseIntPipe) position: number,
  ): Promise<object> {
    return passportFile(await this.passports.passport(batch, position));
  }

  /** The same on paper: PDF, with the address of its owner's page where there is one. */
  @Get('passports/:batch/:position/passport.pdf')
  @ApiProduces('application/pdf')
  @ApiOkResponse({ schema: { type: 'string', format: 'binary' } })
  @ApiNotFoundResponse({ type: ProblemDto })
  async paper(
    @Param('batch') batch: string,
    @Param('position', ParseIntPipe) position: number,
    @Req() request: Request,
  ): Promise<StreamableFile> {
    const [passport, token] = await Promise.all([
      this.passports.passport(batch, position),
      this.owners.tokenOf(batch, position),
    ]);
    const address =
      token === null ? null : `${request.protocol}://${request.headers.host ?? ''}/own/${token}`;
    return new StreamableFile(await passportPaper(passport, address), {
      type: 'application/pdf',
      disposition: 'inline; filename="passport.pdf"',
    });
  }

  /** Makes the owner's page of an instrument, once: asked again it is the same, so that it needs no answer kept. */
  @Post('passports/:batch/:position/owner')
  @HttpCode(200)
  @ApiOkResponse({ type: OwnerPageDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  @ApiConflictResponse({ type: RefusalDto })
  async owner(
    @Param('batch') batch: string,
    @Param('position', ParseIntPipe) position: number,
    @Body() { by }: FilingKeyDto,
  ): Promise<OwnerPageDto> {
    return { token: await this.owners.open(batch, position, by) };
  }

  /** What an owner is shown: no people, no racks. */
  @Get('owners/:token')
  @ApiOkResponse({ type: OwnerViewDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  ownersView(@Param('token') token: string): Promise<OwnerViewDto> {
    return this.owners.view(token);
  }
}
