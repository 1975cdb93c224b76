import { Module } from '@nestjs/common';
import { SetupModule } from '../setup/setup.module.ts';
import { ClimateService } from './climate.service.ts';
import { WoodController } from './wood.controller.ts';

@Module({
  imports: [SetupModule],
  controllers: [WoodController],
  providers: [ClimateService],
  exports: [ClimateService],
})
export class WoodModule {}
