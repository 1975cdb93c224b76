import { Module } from '@nestjs/common';
import { SetupModule } from '../setup/setup.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { LogController } from './log.controller.ts';
import { LogService } from './log.service.ts';

@Module({
  imports: [SetupModule, WoodModule],
  controllers: [LogController],
  providers: [LogService],
  exports: [LogService],
})
export class LogModule {}
