import { Module } from '@nestjs/common';
import { LogModule } from '../log/log.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { RoutingModule } from '../routing/routing.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { FittingController } from './fitting.controller.ts';
import { MeetingService } from './meeting.service.ts';
import { PairingService } from './pairing.service.ts';
import { PressesService } from './presses.service.ts';

/** Presses and clamps, who meets whom, and pairs by measurement. */
@Module({
  imports: [FloorModule, SetupModule, LogModule, RoutingModule, WoodModule],
  controllers: [FittingController],
  providers: [PressesService, MeetingService, PairingService],
  exports: [MeetingService],
})
export class FittingModule {}
