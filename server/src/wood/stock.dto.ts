import { MAY_BE } from '@ample-crane/core';
import type { BlankDemand, BlanksChosen, FigureGrade, KeepFraction, WoodColour } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsInt,
  IsNumber,
  IsString,
  Length,
  Matches,
  Max,
  Min,
} from 'class-validator';
import { Optional } from '../http/optional.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import type { WishedDemand } from './stock.service.ts';

export class BlankDto {
  @ApiProperty() id: string;
  @ApiProperty() lot: string;
  @ApiProperty() board: number;
  @ApiProperty() kind: string;
  @ApiProperty() species: string;
  @ApiProperty() lengthMm: number;
  @ApiProperty() widthMm: number;
  @ApiProperty() thicknessMm: number;
  @ApiProperty() weightKg: number;
  @ApiProperty() grade: string;
  @ApiPropertyOptional() colour?: string;
  @ApiProperty({ type: String, nullable: true }) matchedWith: string | null;
  @ApiProperty({ type: Number, nullable: true }) moisturePct: number | null;
}

export class UnitDto {
  @ApiProperty() id: string;
  @ApiProperty({ type: [String] }) blanks: string[];
  @ApiProperty() lot: string;
  @ApiProperty() kind: string;
  @ApiProperty() species: string;
  @ApiProperty() weightKg: number;
  @ApiProperty({ type: String }) grade: FigureGrade;
  @ApiPropertyOptional({ type: String }) colour?: WoodColour;
  @ApiProperty({ type: Number, nullable: true }) moisturePct: number | null;
}

export class AlongDto {
  @ApiProperty() batch: string;
  @ApiProperty() model: string;
  @ApiProperty() count: number;
}

export class BlankChoiceDto {
  @ApiProperty() batch: string;
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() quantity: number;
  @ApiProperty({ type: [String] }) taken: string[];
  @ApiProperty({ type: Object }) demand: BlankDemand;
  @ApiProperty({ type: [Object] }) wished: WishedDemand[];
  @ApiProperty() wanting: number;
  @ApiProperty({ type: Object }) keep: KeepFraction;
  @ApiProperty({ type: Object }) chosen: BlanksChosen;
  @ApiProperty({ type: Object }) thumb: BlanksChosen;
  @ApiProperty({ type: [UnitDto] }) units: UnitDto[];
  @ApiProperty({ type: [AlongDto] }) along: AlongDto[];
}

export class TakeBlanksDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 20) batch: string;
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(1000)
  @IsString({ each: true })
  @Matches(/^[A-Z]-\d+\/\d+\.\d+$/, { each: true, message: 'a blank is named like W-74/12.1' })
  blanks: string[];
  /** Place of the piece each blank becomes, the halves of a pair the same; left out: those without wood, in their order. */
  @ApiPropertyOptional({ type: [Number] })
  @Optional()
  @IsArray()
  @ArrayMaxSize(1000)
  @IsInt({ each: true })
  @Min(1, { each: true })
  pieces?: number[];
  /** Reason for parting a matched pair. */
  @ApiPropertyOptional() @Optional() @IsString() @Length(1, 200) because?: string;
}

export class WeighBackDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) model: string;
  @ApiProperty() @Matches(/^[A-Z]$/) kind: string;
  @ApiProperty() @IsString() @Length(1, 40) piece: string;
  @ApiProperty() @IsNumber() @Min(MAY_BE.blankKg.least) @Max(MAY_BE.blankKg.most) blankKg: number;
  @ApiProperty() @IsNumber() @Min(MAY_BE.blankKg.least) @Max(MAY_BE.blankKg.most) finishedKg: number;
}

export class WeighedPartDto {
  @ApiProperty() @IsString() @Length(1, 60) model: string;
  @ApiProperty() @Matches(/^[A-Z]$/) kind: string;
}

export class TakeBackWeighBackDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) model: string;
  @ApiProperty() @Matches(/^[A-Z]$/) kind: string;
  @ApiProperty() @IsString() @Length(1, 40) piece: string;
}

export class WeighedViewDto {
  @ApiProperty() piece: string;
  @ApiProperty() blankKg: number;
  @ApiProperty() finishedKg: number;
}

export class KeepDto {
  @ApiProperty() mean: number;
  @ApiProperty() sd: number;
  @ApiProperty() count: number;
}
