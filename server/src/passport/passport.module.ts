import { Module } from '@nestjs/common';
import { FloorModule } from '../floor/floor.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { PassportController } from './passport.controller.ts';
import { OwnerPagesService } from './owner-pages.service.ts';
import { PassportService } from './passport.service.ts';

/** What is kept of one piece for ever, its parts and its wood included. */
@Module({
  imports: [SetupModule, FloorModule, WoodModule],
  controllers: [PassportController],
  providers: [PassportService, OwnerPagesService],
})
export class PassportModule {}
