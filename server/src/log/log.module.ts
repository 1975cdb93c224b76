import { Module } from '@nestjs/common';
import { SetupModule } from '../setup/setup.module.ts';
import { FactsService } from './facts.service.ts';
import { GivenUpService } from './given-up.service.ts';
import { LogController } from './log.controller.ts';
import { LogService } from './log.service.ts';

@Module({
  imports: [SetupModule],
  controllers: [LogController],
  providers: [FactsService, LogService, GivenUpService],
  exports: [FactsService, LogService],
})
export class LogModule {}
