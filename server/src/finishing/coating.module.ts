import { Module } from '@nestjs/common';
import { SetupModule } from '../setup/setup.module.ts';
import { MeasuringModule } from '../wood/measuring.module.ts';
import { CoatingService } from './coating.service.ts';
import { PanelFitsService } from './panel-fits.service.ts';
import { RecipeBookService } from './recipe-book.service.ts';

/** What the log needs to know of finishing while it files: recipes, booths, materials, panels. */
@Module({
  imports: [SetupModule, MeasuringModule],
  providers: [RecipeBookService, CoatingService, PanelFitsService],
  exports: [RecipeBookService, CoatingService, PanelFitsService],
})
export class CoatingModule {}
