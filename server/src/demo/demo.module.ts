import { Module } from '@nestjs/common';
import { LogModule } from '../log/log.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { MeasuringModule } from '../wood/measuring.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { DemoService } from './demo.service.ts';

@Module({ imports: [SetupModule, LogModule, MeasuringModule, WoodModule], providers: [DemoService] })
export class DemoModule {}
