import { Module } from '@nestjs/common';
import { SetupModule } from '../setup/setup.module.ts';
import { RacksService } from './racks.service.ts';

/** The open racks, read once for all who look at the whole floor. */
@Module({
  imports: [SetupModule],
  providers: [RacksService],
  exports: [RacksService],
})
export class FloorModule {}
