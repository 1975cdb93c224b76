import { Module } from '@nestjs/common';
import { LiveModule } from '../live/live.module.ts';
import { LogModule } from '../log/log.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { RoutingModule } from '../routing/routing.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { MeasuringModule } from '../wood/measuring.module.ts';
import { BoothsService } from './booths.service.ts';
import { CoatingModule } from './coating.module.ts';
import { FinishCallsService } from './finish-calls.service.ts';
import { FinishingController } from './finishing.controller.ts';
import { MaterialsService } from './materials.service.ts';
import { PanelsAndMaterialsController } from './panels-and-materials.controller.ts';
import { PanelsService } from './panels.service.ts';
import { RacksInFinishService } from './racks-in-finish.service.ts';
import { RecipesService } from './recipes.service.ts';

/** Recipes, ladders, booths, test panels and materials. */
@Module({
  imports: [FloorModule, SetupModule, LiveModule, LogModule, RoutingModule, MeasuringModule, CoatingModule],
  controllers: [FinishingController, PanelsAndMaterialsController],
  providers: [
    RacksInFinishService,
    BoothsService,
    RecipesService,
    PanelsService,
    MaterialsService,
    FinishCallsService,
  ],
  exports: [FinishCallsService, RacksInFinishService],
})
export class FinishingModule {}
