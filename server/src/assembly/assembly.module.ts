import { Module } from '@nestjs/common';
import { FloorModule } from '../floor/floor.module.ts';
import { LogModule } from '../log/log.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { AssemblyController } from './assembly.controller.ts';
import { BenchService } from './bench.service.ts';
import { FindingService } from './finding.service.ts';
import { SerialsService } from './serials.service.ts';
import { ShippingService } from './shipping.service.ts';

/** Benches and the settling shelf, serials, and what leaves. */
@Module({
  imports: [FloorModule, LogModule, SetupModule, WoodModule],
  controllers: [AssemblyController],
  providers: [BenchService, SerialsService, ShippingService, FindingService],
  exports: [FindingService],
})
export class AssemblyModule {}
