import { Module } from '@nestjs/common';
import { FinishingModule } from '../finishing/finishing.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { LogModule } from '../log/log.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { BatchesController } from './batches.controller.ts';
import { BatchesService } from './batches.service.ts';
import { MachiningModule } from '../machining/machining.module.ts';
import { RoutesController } from './routes.controller.ts';
import { RoutesService } from './routes.service.ts';
import { HoldsService } from './holds.service.ts';

@Module({
  imports: [SetupModule, LogModule, FloorModule, WoodModule, FinishingModule, MachiningModule],
  controllers: [BatchesController, RoutesController],
  providers: [BatchesService, HoldsService, RoutesService],
  exports: [HoldsService, RoutesService],
})
export class RoutingModule {}
