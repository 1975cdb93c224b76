import { Module } from '@nestjs/common';
import { SetupModule } from '../setup/setup.module.ts';
import { CorrectionService } from './correction.service.ts';
import { FactsService } from './facts.service.ts';
import { FilingsService } from './filings.service.ts';
import { GivenUpService } from './given-up.service.ts';
import { JoiningService } from './joining.service.ts';
import { LogController } from './log.controller.ts';
import { LogService } from './log.service.ts';
import { OpeningService } from './opening.service.ts';
import { ReplayCheckService } from './replay-check.service.ts';
import { StaysService } from './stays.service.ts';
import { WorksService } from './works.service.ts';

@Module({
  imports: [SetupModule],
  controllers: [LogController],
  providers: [
    FilingsService,
    FactsService,
    WorksService,
    OpeningService,
    JoiningService,
    CorrectionService,
    LogService,
    ReplayCheckService,
    GivenUpService,
    StaysService,
  ],
  exports: [FilingsService, FactsService, WorksService, StaysService, LogService, ReplayCheckService],
})
export class LogModule {}
