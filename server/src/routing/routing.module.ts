import { Module } from '@nestjs/common';
import { LogModule } from '../log/log.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { MeasuringModule } from '../wood/measuring.module.ts';
import { BatchesController } from './batches.controller.ts';
import { BatchesService } from './batches.service.ts';
import { HoldsService } from './holds.service.ts';

@Module({
  imports: [SetupModule, LogModule, MeasuringModule],
  controllers: [BatchesController],
  providers: [BatchesService, HoldsService],
  exports: [HoldsService],
})
export class RoutingModule {}
