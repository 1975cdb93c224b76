import {
  MAY_BE,
  FIGURE_GRADES,
  WOOD_COLOURS,
  type WoodColour,
  MOST_BOARDS,
  type Air,
  type FigureGrade,
  type LotAsked,
  type LotJudgement,
  type LotState,
  type MoistureGate,
} from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { IsInstant } from '../http/instant.ts';
import { Optional } from '../http/optional.ts';
import { PlainText } from '../http/plain-text.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { SettingDto } from '../setup/setting.dto.ts';
import { FiledDto } from '../log/log.dto.ts';
import { IsLotEntry } from './lot-entry.ts';
import { AirDto, WindowDto } from './climate.dto.ts';

/** Blanks out of one board. */
const MOST_BLANKS = 100;

export class NewBoardDto {
  @ApiProperty({ minimum: 1, maximum: 10_000 })
  @IsNumber()
  @Min(MAY_BE.boardLengthMm.least)
  @Max(MAY_BE.boardLengthMm.most)
  lengthMm: number;
  @ApiProperty({ minimum: 1, maximum: 2_000 })
  @IsNumber()
  @Min(MAY_BE.boardWidthMm.least)
  @Max(MAY_BE.boardWidthMm.most)
  widthMm: number;
  @ApiPropertyOptional()
  @Optional()
  @IsNumber()
  @Min(MAY_BE.boardKg.least)
  @Max(MAY_BE.boardKg.most)
  weightKg?: number;
  @ApiPropertyOptional({ enum: FIGURE_GRADES }) @Optional() @IsIn(FIGURE_GRADES) grade?: FigureGrade;
  @ApiPropertyOptional({ enum: WOOD_COLOURS }) @Optional() @IsIn(WOOD_COLOURS) colour?: WoodColour;
}

export class ReceiveLotDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) species: string;
  @ApiProperty({ minimum: 1, maximum: 300 })
  @IsNumber()
  @Min(MAY_BE.boardThicknessMm.least)
  @Max(MAY_BE.boardThicknessMm.most)
  thicknessMm: number;
  @ApiProperty({ minimum: 0 }) @IsNumber() @Min(0) @Max(100_000) boardFeet: number;
  /** The supplier's own reference. */
  @PlainText({ least: 0 }) supplier: string;
  /** Reference of the papers of a protected species. */
  @PlainText({ optional: true })
  papers?: string;
  @ApiProperty() @IsBoolean() endsSealed: boolean;
  @ApiProperty({ enum: ['green', 'air-dried', 'kiln-dried'] })
  @IsIn(['green', 'air-dried', 'kiln-dried'])
  dryness: 'green' | 'air-dried' | 'kiln-dried';
  @ApiProperty() @IsString() @Length(1, 60) room: string;
  @IsInstant({ optional: true }) happenedAt?: string;
  @ApiProperty({ type: [NewBoardDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_BOARDS)
  @ValidateNested({ each: true })
  @Type(() => NewBoardDto)
  boards: NewBoardDto[];
}

export class NewBlankDto {
  /** Kind letter of what it is to become. */
  @ApiProperty() @IsString() @Matches(/^[A-Z]$/) kind: string;
  @ApiProperty()
  @IsNumber()
  @Min(MAY_BE.boardLengthMm.least)
  @Max(MAY_BE.boardLengthMm.most)
  lengthMm: number;
  @ApiProperty() @IsNumber() @Min(MAY_BE.boardWidthMm.least) @Max(MAY_BE.boardWidthMm.most) widthMm: number;
  @ApiProperty()
  @IsNumber()
  @Min(MAY_BE.boardThicknessMm.least)
  @Max(MAY_BE.boardThicknessMm.most)
  thicknessMm: number;
  @ApiProperty() @IsNumber() @Min(MAY_BE.blankKg.least) @Max(MAY_BE.blankKg.most) weightKg: number;
}

/** What one board of a cut list is cut into. */
export class BoardCutDto {
  @ApiProperty() @IsInt() @Min(1) board: number;
  @ApiProperty({ type: [NewBlankDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_BLANKS)
  @ValidateNested({ each: true })
  @Type(() => NewBlankDto)
  pieces: NewBlankDto[];
  /** Two halves opened like a book: they stay together. */
  @ApiProperty() @IsBoolean() matched: boolean;
}

export class CutListDto extends FilingKeyDto {
  @ApiProperty({ type: [BoardCutDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_BOARDS)
  @ValidateNested({ each: true })
  @Type(() => BoardCutDto)
  cuts: BoardCutDto[];
}

export class FileLotDto extends FilingKeyDto {
  /** When it happened; now when left out. */
  @IsInstant({ optional: true }) happenedAt?: string;
  @IsLotEntry() entry: LotAsked;
}

export class SheetColumnsDto {
  @ApiProperty() @IsString() @Length(1, 200) reading: string;
  @ApiProperty({ type: String, nullable: true }) @IsOptional() @IsString() @MaxLength(200) position:
    string | null;
  @ApiProperty({ type: String, nullable: true }) @IsOptional() @IsString() @MaxLength(200) temperature:
    string | null;
}

export class LotSheetDto {
  @ApiProperty() @IsString() @Length(1, 60) by: string;
  @ApiProperty() @IsString() @MaxLength(200_000) sheet: string;
  @ApiPropertyOptional({ type: String, nullable: true }) @IsOptional() @IsString() @Length(1, 40) meter?:
    string | null;
  @ApiPropertyOptional({ enum: ['shell', 'core'] }) @Optional() @IsIn(['shell', 'core']) depth?:
    'shell' | 'core';
  /** Wood temperature where the sheet gives none. */
  @ApiPropertyOptional({ type: Number, nullable: true }) @IsOptional() @IsNumber() woodTemperatureC?:
    number | null;
  @ApiPropertyOptional() @Optional() @IsBoolean() goodRowsOnly?: boolean;
  /** Which heading stands for what; remembered for the next sheet with these headings. */
  @ApiPropertyOptional({ type: SheetColumnsDto })
  @Optional()
  @ValidateNested()
  @Type(() => SheetColumnsDto)
  columns?: SheetColumnsDto;
}

export class SheetColumnsAskedDto {
  @ApiProperty({ type: [String] }) @IsArray() @ArrayMaxSize(60) @IsString({ each: true }) headings: string[];
}

export class RememberedColumnsDto {
  @ApiProperty({ type: SheetColumnsDto, nullable: true }) columns: SheetColumnsDto | null;
}

export class SetWoodGateDto extends SettingDto {
  /** { school: 'fixed', lowPct, highPct } or { school: 'destination', air, tolerancePct }. */
  @ApiProperty({ type: 'object', additionalProperties: true }) @IsObject() gate: MoistureGate;
}

export class WoodGateViewDto {
  /** As it was set: see SetWoodGateDto. */
  @ApiProperty({ type: 'object', additionalProperties: true }) gate: MoistureGate;
  /** The window it comes to. */
  @ApiProperty({ type: WindowDto }) window: WindowDto;
}

export class OutlookDto {
  /** Hours from now. */
  @ApiProperty() median: number;
  @ApiProperty() low90: number;
  /** Null: one time in twenty it does not get there within five years. */
  @ApiProperty({ type: Number, nullable: true }) high90: number | null;
}

export class LotSummaryDto {
  @ApiProperty() code: string;
  @ApiProperty() species: string;
  @ApiProperty() thicknessMm: number;
  @ApiProperty() room: string;
  @ApiProperty() dryness: string;
  @ApiProperty() receivedMs: number;
  @ApiProperty() stacked: number;
  @ApiProperty() toCut: number;
  @ApiProperty() cut: number;
  @ApiProperty() blanksInStock: number;
  @ApiProperty() papersMissing: boolean;
  @ApiProperty({ enum: ['pass', 'wait', 'sort', 'reject', 'unread'] })
  verdict: 'pass' | 'wait' | 'sort' | 'reject' | 'unread';
  @ApiProperty() sentence: string;
  @ApiProperty({ type: Number, nullable: true }) meanPct: number | null;
  @ApiProperty({ type: Number, nullable: true }) readMs: number | null;
  @ApiProperty() passing: number;
  /** Hours from now until the gate; null with `never` true: not in this room; null otherwise: nothing to go by. */
  @ApiProperty({ type: OutlookDto, nullable: true }) outlook: OutlookDto | null;
  @ApiProperty() never: boolean;
}

export class DryingReadingDto {
  @ApiProperty() atMs: number;
  @ApiProperty({ type: Number, nullable: true }) board: number | null;
  @ApiProperty({ enum: ['shell', 'core'] }) depth: 'shell' | 'core';
  @ApiProperty() readingPct: number;
  @ApiProperty() correctedPct: number;
}

export class DryingDto {
  @ApiProperty() subject: string;
  @ApiProperty() nowMs: number;
  @ApiProperty() room: string;
  @ApiProperty({ type: [DryingReadingDto] }) readings: DryingReadingDto[];
  /** Readings that count for nothing until they are confirmed. */
  @ApiProperty({ type: [DryingReadingDto] }) setAside: DryingReadingDto[];
  @ApiProperty({ type: [AirDto] }) climate: AirDto[];
  /** Air assumed of the days to come: { temperatureC, relativeHumidityPct }. */
  @ApiProperty({ type: Object, nullable: true }) air: Air | null;
  @ApiProperty({ type: WindowDto }) window: WindowDto;
  /** How far the boards that come last lie from the mean. */
  @ApiProperty() marginPct: number;
  @ApiProperty() thicknessMm: number;
  @ApiProperty({ type: String, nullable: true }) species: string | null;
  @ApiProperty() basicSpecificGravity: number;
  @ApiProperty({ type: Number, nullable: true }) tauDays: number | null;
  @ApiProperty({ type: Number, nullable: true }) oldRuleMs: number | null;
  @ApiProperty({ type: OutlookDto, nullable: true }) outlook: OutlookDto | null;
  @ApiProperty() never: boolean;
}

export class LotEntryViewDto {
  @ApiProperty() seq: number;
  /** Kind of entry: 'undo' takes back. */
  @ApiProperty() type: string;
  @ApiProperty() atMs: number;
  @ApiProperty() by: string;
  @ApiProperty() byName: string;
  @ApiProperty() words: string;
  @ApiProperty() voided: boolean;
}

export class LotDto {
  @ApiProperty({ type: Object }) state: LotState;
  @ApiProperty() usedUp: boolean;
  @ApiProperty() papersMissing: boolean;
  @ApiProperty({ type: Object }) judged: LotJudgement;
  @ApiProperty() sentence: string;
  @ApiProperty({ type: DryingDto }) drying: DryingDto;
  /** Newest first. */
  @ApiProperty({ type: [LotEntryViewDto] }) entries: LotEntryViewDto[];
}

export class LotSheetProblemDto {
  @ApiProperty() row: number;
  @ApiProperty() column: string;
  @ApiPropertyOptional({ enum: ['no-readings-column'] }) code?: 'no-readings-column';
  @ApiProperty() message: string;
}

export class LotSheetFiledDto extends FiledDto {
  @ApiProperty({ type: [LotSheetProblemDto] }) problems: LotSheetProblemDto[];
}
