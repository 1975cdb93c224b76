import { Module } from '@nestjs/common';
import { SetupModule } from '../setup/setup.module.ts';
import { ClimateController } from './climate.controller.ts';
import { ClimateService } from './climate.service.ts';
import { MetersController } from './meters.controller.ts';
import { MetersService } from './meters.service.ts';
import { ReadingsService } from './readings.service.ts';
import { RecentAirService } from './recent-air.service.ts';
import { RoomsService } from './rooms.service.ts';
import { SensorsService } from './sensors.service.ts';

/** Air and meters: what the log itself needs to judge holds and correct readings. */
@Module({
  imports: [SetupModule],
  controllers: [ClimateController, MetersController],
  providers: [ClimateService, RecentAirService, RoomsService, SensorsService, MetersService, ReadingsService],
  exports: [ClimateService, RecentAirService, RoomsService, SensorsService, MetersService, ReadingsService],
})
export class MeasuringModule {}
