import { Body, Controller, Put } from '@nestjs/common';
import { ApiBadRequestResponse, ApiConflictResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { ChangesService } from '../setup/changes.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { WantedLeadDto } from './lead-wanted.dto.ts';

/** How long an instrument should take, from its first board to its case. */
@ApiTags('setup')
@ApiBadRequestResponse({ type: ProblemDto })
@ApiConflictResponse({ type: RefusalDto })
@Controller('setup/lead-time')
export class LeadWantedController {
  constructor(
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
  ) {}

  /** Sets the lead time that is wanted: with what leaves a day it caps what is in the house. */
  @Put()
  @ApiOkResponse({ type: WantedLeadDto })
  async set(@Body() asked: WantedLeadDto): Promise<WantedLeadDto> {
    const { days, ...told } = asked;
    await this.changes.change({ ...told, setting: 'lead time', name: '' }, async (manager) => {
      const before = await this.setup.setFactory(manager, { wantedLeadDays: days });
      return { before: { days: before.wantedLeadDays }, after: { days } };
    });
    return asked;
  }
}
