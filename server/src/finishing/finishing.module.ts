import { Module } from '@nestjs/common';
import { LiveModule } from '../live/live.module.ts';
import { LogModule } from '../log/log.module.ts';
import { FloorModule } from '../floor/floor.module.ts';
import { SetupModule } from '../setup/setup.module.ts';
import { WoodModule } from '../wood/wood.module.ts';
import { BoothAirService } from './booth-air.service.ts';
import { BoothsService } from './booths.service.ts';
import { CoatingService } from './coating.service.ts';
import { PanelFitsService } from './panel-fits.service.ts';
import { RecipeBookService } from './recipe-book.service.ts';
import { FinishCallsService } from './finish-calls.service.ts';
import { FinishingController } from './finishing.controller.ts';
import { MaterialsService } from './materials.service.ts';
import { PanelsAndMaterialsController } from './panels-and-materials.controller.ts';
import { PanelsService } from './panels.service.ts';
import { RacksInFinishService } from './racks-in-finish.service.ts';
import { RecipesService } from './recipes.service.ts';

/** Recipes, ladders, booths, test panels and materials. */
@Module({
  imports: [FloorModule, SetupModule, LiveModule, LogModule, WoodModule],
  controllers: [FinishingController, PanelsAndMaterialsController],
  providers: [
    RecipeBookService,
    PanelFitsService,
    BoothAirService,
    CoatingService,
    RacksInFinishService,
    BoothsService,
    RecipesService,
    PanelsService,
    MaterialsService,
    FinishCallsService,
  ],
  exports: [FinishCallsService, PanelFitsService, RacksInFinishService],
})
export class FinishingModule {}
