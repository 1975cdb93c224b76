import { Body, Controller, Get, HttpCode, Param, Post } from '@nestjs/common';
import { ApiConflictResponse, ApiNotFoundResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { answer } from '../http/answers.ts';
import { ProblemDto, RefusalDto } from '../http/answers.dto.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import {
  MaterialsDto,
  MixMaterialDto,
  PanelDto,
  PanelsDto,
  ReceiveMaterialDto,
  SprayPanelDto,
  TurnMaterialDto,
  WeighPanelDto,
} from './finishing.dto.ts';
import { MaterialsService } from './materials.service.ts';
import { PanelsService } from './panels.service.ts';

const instant = (text: string | undefined): number | undefined =>
  text === undefined ? undefined : Date.parse(text);

/** Test panels and materials. */
@ApiTags('finishing')
@Controller('finish')
export class PanelsAndMaterialsController {
  constructor(
    private readonly panels: PanelsService,
    private readonly materials: MaterialsService,
  ) {}

  /** Test panels with their fitted curves, and the hours they offer their recipes. */
  @Get('panels')
  @ApiOkResponse({ type: PanelsDto })
  allPanels(): Promise<PanelsDto> {
    return this.panels.all();
  }

  /** A panel was sprayed with a batch. */
  @Post('panels')
  @HttpCode(200)
  @ApiOkResponse({ type: PanelDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async spray(@Body() { sprayedAt, ...request }: SprayPanelDto): Promise<PanelDto> {
    return answer(await this.panels.spray({ ...request, sprayedMs: instant(sprayedAt) }));
  }

  /** A panel was weighed. */
  @Post('panels/:code/weighings')
  @HttpCode(200)
  @ApiOkResponse({ type: PanelDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async weigh(@Param('code') panel: string, @Body() { at, ...request }: WeighPanelDto): Promise<PanelDto> {
    return answer(await this.panels.weigh({ ...request, panel, atMs: instant(at) }));
  }

  /** Lots of material, open mixes, and how long they last at the current plan. */
  @Get('materials')
  @ApiOkResponse({ type: MaterialsDto })
  allMaterials(): Promise<MaterialsDto> {
    return this.materials.all();
  }

  /** A lot came in. */
  @Post('materials/lots')
  @HttpCode(200)
  @ApiOkResponse({ type: MaterialsDto })
  @ApiConflictResponse({ type: RefusalDto })
  async receive(@Body() { key: _key, expiresAt, ...request }: ReceiveMaterialDto): Promise<MaterialsDto> {
    return answer(await this.materials.receive({ ...request, expiresMs: instant(expiresAt) ?? null }));
  }

  /** A lot was opened, or is used up. */
  @Post('materials/lots/:code')
  @HttpCode(200)
  @ApiOkResponse({ type: MaterialsDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async turn(@Param('code') code: string, @Body() { by, to }: TurnMaterialDto): Promise<MaterialsDto> {
    return answer(await this.materials.turn({ by, to, code }));
  }

  /** Something was mixed: its pot life runs. */
  @Post('materials/mixes')
  @HttpCode(200)
  @ApiOkResponse({ type: MaterialsDto })
  @ApiConflictResponse({ type: RefusalDto })
  async mix(@Body() request: MixMaterialDto): Promise<MaterialsDto> {
    return answer(await this.materials.mix({ ...request, because: request.because ?? null }));
  }

  /** A mix is used up or thrown away. */
  @Post('materials/mixes/:code/end')
  @HttpCode(200)
  @ApiOkResponse({ type: MaterialsDto })
  @ApiConflictResponse({ type: RefusalDto })
  @ApiNotFoundResponse({ type: ProblemDto })
  async endMix(@Param('code') code: string, @Body() { by }: FilingKeyDto): Promise<MaterialsDto> {
    return answer(await this.materials.endMix({ by, code }));
  }
}
