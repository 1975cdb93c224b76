import { Module } from '@nestjs/common';
import { FloorModule } from '../floor/floor.module.ts';
import { LiveModule } from '../live/live.module.ts';
import { LogModule } from '../log/log.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { DryingService } from './drying.service.ts';
import { LotsController } from './lots.controller.ts';
import { LotsSeenService } from './lots-seen.service.ts';
import { LotsService } from './lots.service.ts';
import { MeasuringModule } from './measuring.module.ts';
import { StockController } from './stock.controller.ts';
import { StockService } from './stock.service.ts';

/** Lots of lumber, how they dry, and the blanks cut from them. */
@Module({
  imports: [FloorModule, SetupModule, LiveModule, MeasuringModule, LogModule],
  controllers: [LotsController, StockController],
  providers: [LotsService, LotsSeenService, DryingService, StockService],
  exports: [LotsService, LotsSeenService, StockService],
})
export class WoodModule {}
