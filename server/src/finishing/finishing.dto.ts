import { MAY_BE } from '@ample-crane/core';
import type {
  AirNow,
  BatchState,
  BoothHour,
  BoothLimits,
  FinishView,
  ListedView,
  PanelFit,
  Recipe,
  RescaledHours,
  Route,
  SendBackChoice,
  SendBackCosts,
  Supply,
} from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Transform } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { IsInstant } from '../http/instant.ts';
import { Optional } from '../http/optional.ts';
import { PlainText } from '../http/plain-text.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import type { BoothPageView } from './booths.service.ts';
import type { MaterialLotView, MaterialPageView, MixPageView } from './materials.service.ts';

const nullable = { nullable: true } as const;

// ---- racks ------------------------------------------------------------------------------------------------------

export class PanelReadyDto {
  @ApiProperty() code: string;
  @ApiProperty() curedMs: number;
}

class OnFinishDto {
  @ApiProperty() batch: string;
  @ApiProperty() kind: string;
  @ApiProperty() model: string;
  @ApiProperty() quantity: number;
  @ApiProperty() dueMs: number;
  @ApiProperty({ type: String, ...nullable }) recipe: string | null;
  @ApiProperty({ type: String, ...nullable }) recipeTitle: string | null;
  @ApiProperty({ type: Number, ...nullable }) targetUm: number | null;
  @ApiProperty({ type: Number, ...nullable }) minimumUm: number | null;
  /** Panels sprayed with it that can tell when they are cured. */
  @ApiProperty({ type: [PanelReadyDto] }) panels: PanelReadyDto[];
}

export class FinishRackDto extends OnFinishDto {
  /** Groups of pieces that stand together, each with its ladder. */
  @ApiProperty({ type: [Object] }) views: FinishView[];
}

/** One of many: its ladders are told in short. */
export class ListedRackDto extends OnFinishDto {
  @ApiProperty({ type: [Object] }) views: ListedView[];
}

export class FinishListDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [ListedRackDto] }) racks: ListedRackDto[];
}

export class WeighingDto {
  @ApiProperty() atMs: number;
  /** Since it was sprayed. */
  @ApiProperty() hours: number;
  @ApiProperty() grams: number;
  @ApiProperty() person: string;
}

export class PanelDto {
  @ApiProperty() code: string;
  @ApiProperty() batch: string;
  @ApiProperty() recipe: string;
  @ApiProperty() step: string;
  @ApiProperty() material: string;
  @ApiProperty() filmUm: number;
  @ApiProperty() room: string;
  @ApiProperty() sprayedMs: number;
  @ApiProperty({ type: [WeighingDto] }) weighings: WeighingDto[];
  /** See core's PanelFit; null: not enough weighings to tell. */
  @ApiProperty({ type: Object, ...nullable }) fit: PanelFit | null;
  @ApiProperty({ type: String, ...nullable }) notEnough: string | null;
  @ApiProperty({ type: Number, ...nullable }) curedMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) referenceHours: number | null;
  @ApiProperty({ type: Number, ...nullable }) lostPct: number | null;
}

export class RecipeChoiceDto {
  @ApiProperty() id: string;
  @ApiProperty() title: string;
}

export class DefectDto {
  @ApiProperty() defect: string;
  /** Operation it goes back to. */
  @ApiProperty() backTo: string;
  /** Operation it may be found at. */
  @ApiProperty() at: string;
}

export class AblePersonDto {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty({ type: [String] }) skills: string[];
}

export class FreezerDto {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() places: number;
  @ApiProperty() station: string;
}

export class FinishRackPageDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() seq: number;
  /** See core's BatchState. */
  @ApiProperty({ type: Object }) state: BatchState;
  /** See core's Route. */
  @ApiProperty({ type: Object }) route: Route;
  @ApiProperty({ type: FinishRackDto }) rack: FinishRackDto;
  @ApiProperty({ type: [PanelDto] }) panels: PanelDto[];
  /** Recipes it may be moved to. */
  @ApiProperty({ type: [RecipeChoiceDto] }) recipes: RecipeChoiceDto[];
  @ApiProperty({ type: [DefectDto] }) defects: DefectDto[];
  @ApiProperty({ type: [String] }) cautions: string[];
  @ApiProperty({ type: [AblePersonDto] }) able: AblePersonDto[];
  @ApiProperty({ type: [FreezerDto] }) freezers: FreezerDto[];
}

export class SendBackQueryDto {
  /** Operation the pieces are at. */
  @ApiProperty() @IsString() @Length(1, 60) from: string;
  /** Operation they go back to. */
  @ApiProperty() @IsString() @Length(1, 60) to: string;
  /** Places on the rack, with commas. */
  @ApiProperty({ type: String })
  @Transform(({ value }) => String(value).split(',').map(Number))
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsInt({ each: true })
  @Min(1, { each: true })
  pieces: number[];
}

export class SendBackChoiceDto implements SendBackChoice {
  @ApiProperty() rackEndMs: number;
  @ApiProperty() sentEndMs: number;
  @ApiProperty() rackLateDays: number;
  @ApiProperty() sentLateDays: number;
}

export class GoesOnDto extends SendBackChoiceDto {
  /** Of stations that are set up a second time. */
  @ApiProperty() setUpMinutes: number;
}

export class SendBackDto implements SendBackCosts {
  @ApiProperty() backMs: number;
  @ApiProperty() loopDays: number;
  @ApiProperty() rest: number;
  @ApiProperty({ type: SendBackChoiceDto }) waits: SendBackChoiceDto;
  @ApiProperty({ type: GoesOnDto }) goesOn: GoesOnDto;
}

export class RefinishDto extends FilingKeyDto {
  /** Name of the recipe; its newest revision is taken. */
  @ApiProperty() @IsString() @Length(1, 60) recipe: string;
  @PlainText()
  reason: string;
}

// ---- booths -----------------------------------------------------------------------------------------------------

export class BoothDto implements BoothPageView {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() station: string;
  @ApiProperty() room: string;
  /** See core's BoothLimits. */
  @ApiProperty({ type: Object }) limits: BoothLimits;
  /** Its air now, judged: see core's BoothJudgement; null: not logged. */
  @ApiProperty({ type: Object, ...nullable }) now: BoothPageView['now'];
  @ApiProperty({ type: [Object] }) logged: BoothPageView['logged'];
  /** Hours to come: see core's BoothHour. */
  @ApiProperty({ type: [Object] }) ahead: BoothHour[];
  @ApiProperty({ type: Number, ...nullable }) closesMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) opensMs: number | null;
  @ApiProperty({ type: [Object] }) racks: BoothPageView['racks'];
  @ApiProperty({ type: Object, ...nullable }) first: BoothPageView['first'];
  @ApiProperty() filterHours: number;
  @ApiProperty() filterLifeHours: number;
  @ApiProperty({ type: Number, ...nullable }) filterChangedMs: number | null;
}

export class BoothsDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [BoothDto] }) booths: BoothDto[];
}

// ---- recipes ----------------------------------------------------------------------------------------------------

export class RecipeDto {
  @ApiProperty() id: string;
  @ApiProperty() name: string;
  @ApiProperty() revision: number;
  @ApiProperty() newest: boolean;
  /** See core's Recipe. */
  @ApiProperty({ type: Object }) recipe: Recipe;
  @ApiProperty() note: string;
  @ApiProperty({ type: String, ...nullable }) person: string | null;
  @ApiProperty() madeMs: number;
  /** Open racks that work by this revision. */
  @ApiProperty({ type: [String] }) batches: string[];
  /** Model and kind it is the usual finish of. */
  @ApiProperty({ type: [String] }) usualOf: string[];
}

export class RecipesDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  /** Mean air of the last two weeks where racks cure. */
  @ApiProperty({ type: Object }) season: AirNow;
  @ApiProperty({ type: String, ...nullable }) room: string | null;
  @ApiProperty({ type: [RecipeDto] }) recipes: RecipeDto[];
}

export class ReviseRecipeDto extends FilingKeyDto {
  /** A recipe file: docs/formats/recipe.schema.json. */
  @ApiProperty({ type: Object }) @IsObject() recipe: object;
  @ApiProperty() @IsString() @MaxLength(600) note: string;
  /** The newest revision as it was seen; 0 for a new recipe. */
  @ApiProperty({ minimum: 0 }) @IsInt() @Min(0) @Max(10_000) from: number;
}

export class ReadRecipeDto {
  @ApiProperty({ type: Object }) @IsObject() file: object;
}

// ---- panels -----------------------------------------------------------------------------------------------------

export class PanelOfferDto {
  @ApiProperty() recipe: string;
  @ApiProperty() step: string;
  @ApiProperty() material: string;
  @ApiProperty() hoursNow: number;
  /** See core's RescaledHours. */
  @ApiProperty({ type: Object }) offered: RescaledHours;
}

export class PanelsDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [PanelDto] }) panels: PanelDto[];
  @ApiProperty({ type: [PanelOfferDto] }) offers: PanelOfferDto[];
}

export class SprayPanelDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 20) batch: string;
  /** Step of its recipe. */
  @ApiProperty() @IsString() @Length(1, 60) step: string;
  /** Dry film on it, µm; what the recipe lays when left out. */
  @ApiPropertyOptional() @Optional() @IsNumber() @Min(0.1) @Max(1000) filmUm?: number;
  @IsInstant({ optional: true }) sprayedAt?: string;
  /** Its weight right after it was sprayed. */
  @ApiPropertyOptional()
  @Optional()
  @IsNumber()
  @Min(MAY_BE.panelG.least)
  @Max(MAY_BE.panelG.most)
  grams?: number;
}

export class WeighPanelDto extends FilingKeyDto {
  @ApiProperty() @IsNumber() @Min(MAY_BE.panelG.least) @Max(MAY_BE.panelG.most) grams: number;
  @IsInstant({ optional: true }) at?: string;
}

// ---- materials --------------------------------------------------------------------------------------------------

export class MaterialLotDto implements MaterialLotView {
  @ApiProperty() code: string;
  @ApiProperty() material: string;
  @ApiProperty() litres: number;
  @ApiProperty() leftLitres: number;
  @ApiProperty() receivedMs: number;
  @ApiProperty({ type: Number, ...nullable }) openedMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) finishedMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) expiresMs: number | null;
}

export class AdditionDto {
  @ApiProperty() material: string;
  @ApiProperty({ type: String, ...nullable }) lot: string | null;
  @ApiProperty() litres: number;
}

export class MixDto implements MixPageView {
  @ApiProperty() code: string;
  @ApiProperty() material: string;
  @ApiProperty({ type: String, ...nullable }) lot: string | null;
  @ApiProperty({ type: [AdditionDto] }) additions: AdditionDto[];
  @ApiProperty() litres: number;
  @ApiProperty() leftLitres: number;
  @ApiProperty() mixedMs: number;
  @ApiProperty() endsMs: number;
  @ApiProperty({ type: Number, ...nullable }) endedMs: number | null;
  @ApiProperty() person: string;
}

export class MaterialDto implements MaterialPageView {
  @ApiProperty() material: string;
  @ApiProperty() leadDays: number;
  @ApiProperty({ type: Object, ...nullable }) mix: MaterialPageView['mix'];
  /** See core's Supply. */
  @ApiProperty({ type: Object }) supply: Supply;
  @ApiProperty({ type: [MaterialLotDto] }) lots: MaterialLotDto[];
}

export class MaterialsDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [MaterialDto] }) materials: MaterialDto[];
  @ApiProperty({ type: [MixDto] }) mixes: MixDto[];
}

export class ReceiveMaterialDto extends FilingKeyDto {
  @ApiProperty()
  @IsString()
  @Matches(/^[A-Z0-9-]{1,20}$/, { message: 'code must be 1 to 20 capitals, digits or dashes' })
  code: string;
  @ApiProperty() @IsString() @Length(1, 60) material: string;
  @ApiProperty() @IsNumber() @Min(MAY_BE.litres.least) @Max(MAY_BE.litres.most) litres: number;
  @IsInstant({ optional: true }) expiresAt?: string;
}

export class TurnMaterialDto extends FilingKeyDto {
  @ApiProperty({ enum: ['open', 'finished'] }) @IsIn(['open', 'finished']) to: 'open' | 'finished';
}

export class MixMaterialDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) material: string;
  @ApiProperty() @IsNumber() @Min(MAY_BE.litres.least) @Max(MAY_BE.litres.most) litres: number;
  /** Why it is mixed of a lot that is empty, closed or past its date. */
  @ApiPropertyOptional() @Optional() @IsString() @Length(1, 200) because?: string;
}
