import { Module } from '@nestjs/common';
import { FactoryClock } from './factory-clock.ts';
import { SetupController } from './setup.controller.ts';
import { SetupService } from './setup.service.ts';

@Module({
  controllers: [SetupController],
  providers: [SetupService, FactoryClock],
  exports: [SetupService, FactoryClock],
})
export class SetupModule {}
