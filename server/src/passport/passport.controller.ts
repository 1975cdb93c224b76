import { Controller, Get, Param, ParseIntPipe } from '@nestjs/common';
import { ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ProblemDto } from '../http/answers.dto.ts';
import { PassportDto } from './passport.dto.ts';
import { PassportService } from './passport.service.ts';

@ApiTags('passports')
@Controller('passports')
export class PassportController {
  constructor(private readonly passports: PassportService) {}

  /** What is kept of a piece: evidence, coats, what rules were passed by; with its parts. */
  @Get(':batch/:position')
  @ApiOkResponse({ type: PassportDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  passport(
    @Param('batch') batch: string,
    @Param('position', ParseIntPipe) position: number,
  ): Promise<PassportDto> {
    return this.passports.passport(batch, position);
  }
}
