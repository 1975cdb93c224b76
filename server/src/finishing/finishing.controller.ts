import { Body, Controller, Get, HttpCode, Param, Post, Query } from '@nestjs/common';
import {
  ApiBadRequestResponse,
  ApiConflictResponse,
  ApiNotFoundResponse,
  ApiOkResponse,
  ApiTags,
} from '@nestjs/swagger';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import { BoothsService } from './booths.service.ts';
import {
  BoothDto,
  BoothsDto,
  FinishListDto,
  FinishRackPageDto,
  ReadRecipeDto,
  RecipeDto,
  RecipesDto,
  RefinishDto,
  ReviseRecipeDto,
  SendBackDto,
  SendBackQueryDto,
} from './finishing.dto.ts';
import { RacksInFinishService } from './racks-in-finish.service.ts';
import { RecipesService } from './recipes.service.ts';

@ApiTags('finishing')
@Controller('finish')
export class FinishingController {
  constructor(
    private readonly racks: RacksInFinishService,
    private readonly booths: BoothsService,
    private readonly recipes: RecipesService,
  ) {}

  /** The ready list: every rack in finish with its ladders. */
  @Get('racks')
  @ApiOkResponse({ type: FinishListDto })
  list(): Promise<FinishListDto> {
    return this.racks.list();
  }

  /** One rack with its evidence: panels, recipe, who can do what. */
  @Get('racks/:code')
  @ApiOkResponse({ type: FinishRackPageDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  rack(@Param('code') code: string): Promise<FinishRackPageDto> {
    return this.racks.rack(code);
  }

  /** What it costs when pieces go back: the rack waits for them, or goes on. */
  @Get('racks/:code/send-back')
  @ApiOkResponse({ type: SendBackDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  sendBack(@Param('code') code: string, @Query() question: SendBackQueryDto): Promise<SendBackDto> {
    return this.racks.sendBack(code, question);
  }

  /** A rack goes on by another recipe, for a reason that stays. */
  @Post('racks/:code/recipe')
  @HttpCode(200)
  @ApiOkResponse({ type: FiledDto })
  @ApiConflictResponse({ type: RefusalDto })
  async refinish(@Param('code') batch: string, @Body() request: RefinishDto): Promise<FiledDto> {
    return answer(await this.racks.refinish({ ...request, batch }));
  }

  /** Booths: their air through the day and forecast, what waits for them, their filters. */
  @Get('booths')
  @ApiOkResponse({ type: BoothsDto })
  allBooths(): Promise<BoothsDto> {
    return this.booths.all();
  }

  /** The filters of a booth were changed. */
  @Post('booths/:code/filters')
  @HttpCode(200)
  @ApiOkResponse({ type: BoothDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async changeFilters(@Param('code') booth: string, @Body() change: FilingKeyDto): Promise<BoothDto> {
    return answer(await this.booths.changeFilters({ ...change, booth }));
  }

  /** Recipes, all revisions, with the air of the season. */
  @Get('recipes')
  @ApiOkResponse({ type: RecipesDto })
  allRecipes(): Promise<RecipesDto> {
    return this.recipes.all();
  }

  /** A recipe as a file of its own: docs/formats/recipe.schema.json. */
  @Get('recipes/:id/file')
  @ApiOkResponse({ type: Object })
  @ApiNotFoundResponse({ type: ProblemDto })
  file(@Param('id') id: string): Promise<object> {
    return this.recipes.file(id);
  }

  /** What a recipe file holds, before it is filed. */
  @Post('recipes/read')
  @HttpCode(200)
  @ApiOkResponse({ type: Object })
  @ApiBadRequestResponse({ type: ProblemDto })
  read(@Body() { file }: ReadRecipeDto): object {
    return this.recipes.read(file);
  }

  /** A new recipe, or a new revision of one. */
  @Post('recipes')
  @HttpCode(200)
  @ApiOkResponse({ type: RecipeDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiBadRequestResponse({ type: ProblemDto })
  async revise(@Body() { key: _key, ...request }: ReviseRecipeDto): Promise<RecipeDto> {
    return answer(await this.recipes.revise(request));
  }
}
