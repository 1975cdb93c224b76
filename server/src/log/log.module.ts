import { Module } from '@nestjs/common';
import { SetupModule } from '../setup/setup.module.ts';
import { CoatingModule } from '../finishing/coating.module.ts';
import { MeasuringModule } from '../wood/measuring.module.ts';
import { GivenUpService } from './given-up.service.ts';
import { LogController } from './log.controller.ts';
import { LogService } from './log.service.ts';

@Module({
  imports: [SetupModule, MeasuringModule, CoatingModule],
  controllers: [LogController],
  providers: [LogService, GivenUpService],
  exports: [LogService],
})
export class LogModule {}
