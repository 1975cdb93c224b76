import { Module } from '@nestjs/common';
import { FloorModule } from '../floor/floor.module.ts';
import { LiveModule } from '../live/live.module.ts';
import { LogModule } from '../log/log.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { ClimateController } from './climate.controller.ts';
import { ClimateService } from './climate.service.ts';
import { DryingService } from './drying.service.ts';
import { LotsController } from './lots.controller.ts';
import { LotViewsService } from './lot-views.service.ts';
import { LotsService } from './lots.service.ts';
import { MetersController } from './meters.controller.ts';
import { MetersService } from './meters.service.ts';
import { PapersService } from './papers.service.ts';
import { ReadingsService } from './readings.service.ts';
import { RecentAirService } from './recent-air.service.ts';
import { RoomsService } from './rooms.service.ts';
import { SensorsService } from './sensors.service.ts';
import { StockController } from './stock.controller.ts';
import { StockService } from './stock.service.ts';

/** Air and meters, lots of lumber, how they dry, and the blanks cut from them. */
@Module({
  imports: [FloorModule, SetupModule, LiveModule, LogModule],
  controllers: [ClimateController, MetersController, LotsController, StockController],
  providers: [
    ClimateService,
    RecentAirService,
    RoomsService,
    SensorsService,
    MetersService,
    PapersService,
    ReadingsService,
    LotsService,
    LotViewsService,
    DryingService,
    StockService,
  ],
  exports: [
    ClimateService,
    PapersService,
    RecentAirService,
    RoomsService,
    SensorsService,
    MetersService,
    ReadingsService,
    LotsService,
    LotViewsService,
    StockService,
  ],
})
export class WoodModule {}
