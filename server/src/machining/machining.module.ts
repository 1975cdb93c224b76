import { Module } from '@nestjs/common';
import { LiveModule } from '../live/live.module.ts';
import { LogModule } from '../log/log.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { ChecksController } from './checks.controller.ts';
import { ChecksService } from './checks.service.ts';
import { GaugeService } from './gauge.service.ts';
import { LoadsService } from './loads.service.ts';
import { MachinesService } from './machines.service.ts';
import { MillController } from './mill.controller.ts';
import { MillService } from './mill.service.ts';
import { MillViewsService } from './mill-views.service.ts';
import { ProgramsService } from './programs.service.ts';

/** Tables and their loads, programs and cutters, checks and charts, and the machines that tell what they do. */
@Module({
  imports: [FloorModule, SetupModule, LiveModule, LogModule],
  controllers: [MillController, ChecksController],
  providers: [
    MillService,
    LoadsService,
    ProgramsService,
    ChecksService,
    GaugeService,
    MachinesService,
    MillViewsService,
  ],
  exports: [MillViewsService, MachinesService, ProgramsService, ChecksService],
})
export class MachiningModule {}
