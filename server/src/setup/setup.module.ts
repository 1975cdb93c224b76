import { Module } from '@nestjs/common';
import { ChangesService } from './changes.service.ts';
import { FactoryClock } from './factory-clock.ts';
import { SetupController } from './setup.controller.ts';
import { SetupService } from './setup.service.ts';

@Module({
  controllers: [SetupController],
  providers: [SetupService, FactoryClock, ChangesService],
  exports: [SetupService, FactoryClock, ChangesService],
})
export class SetupModule {}
