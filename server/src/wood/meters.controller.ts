import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiConflictResponse, ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ProblemDto } from '../http/answers.dto.ts';
import { MeterDto, MeterFitDto, NewMeterDto, NewSampleDto, UseLineDto } from './meters.dto.ts';
import { MetersService } from './meters.service.ts';

@ApiTags('wood')
@Controller('meters')
export class MetersController {
  constructor(private readonly meters: MetersService) {}

  /** Meters with their samples, what those say, and the line in use, by species. */
  @Get()
  @ApiOkResponse({ type: [MeterDto] })
  seen(): Promise<MeterDto[]> {
    return this.meters.seen();
  }

  /** Registers a meter. */
  @Post()
  @HttpCode(200)
  @ApiOkResponse({ type: [MeterDto] })
  @ApiConflictResponse({ type: ProblemDto })
  async register(@Body() { note = '', ...meter }: NewMeterDto): Promise<MeterDto[]> {
    await this.meters.register({ ...meter, note });
    return this.meters.seen();
  }

  /** Keeps an oven-dry sample. */
  @Post(':code/samples')
  @HttpCode(200)
  @ApiOkResponse({ type: [MeterDto] })
  @ApiNotFoundResponse({ type: ProblemDto })
  async sample(@Param('code') meter: string, @Body() sample: NewSampleDto): Promise<MeterDto[]> {
    await this.meters.addSample({ ...sample, meter });
    return this.meters.seen();
  }

  /** Puts the line fitted from the samples into use; needs three samples. */
  @Post(':code/line')
  @HttpCode(200)
  @ApiOkResponse({ type: MeterFitDto })
  @ApiConflictResponse({ type: ProblemDto })
  useLine(@Param('code') meter: string, @Body() { by, species }: UseLineDto): Promise<MeterFitDto> {
    return this.meters.useLine(meter, species, by);
  }
}
