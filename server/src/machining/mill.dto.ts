import { MAY_BE } from '@ample-crane/core';
import type { Check, LoadPlan, LoadsQuestion } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { Optional } from '../http/optional.ts';
import { PlainText } from '../http/plain-text.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';

const nullable = { nullable: true } as const;

// ---- what is seen -----------------------------------------------------------------------------------------------

export class StationNameDto {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
}

export class LoadPartDto {
  @ApiProperty() batch: string;
  @ApiProperty() model: string;
  @ApiProperty({ type: [Number] }) pieces: number[];
}

export class MeasuredDto {
  @ApiProperty() check: string;
  @ApiProperty({ type: [Number] }) values: number[];
}

export class LoadViewDto {
  @ApiProperty() code: string;
  @ApiProperty() program: string;
  /** The table was set up for it: the first piece is measured before it is done. */
  @ApiProperty() firstPiece: boolean;
  @ApiProperty() startedMs: number;
  @ApiProperty() endMs: number;
  @ApiProperty({ type: [LoadPartDto] }) parts: LoadPartDto[];
  /** What stands against its end; null: nothing. */
  @ApiProperty({ type: String, ...nullable }) against: string | null;
  /** Checks of its operation: see core's Check. */
  @ApiProperty({ type: [Object] }) checks: Check[];
  @ApiProperty({ type: [MeasuredDto] }) measured: MeasuredDto[];
  @ApiProperty({ type: String, ...nullable }) caution: string | null;
}

export class TableDto {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() places: number;
  @ApiProperty({ type: String, ...nullable }) program: string | null;
  @ApiProperty({ type: LoadViewDto, ...nullable }) load: LoadViewDto | null;
}

export class WaitingDto {
  @ApiProperty() batch: string;
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty({ type: String, ...nullable }) program: string | null;
  @ApiProperty({ type: [Number] }) pieces: number[];
  @ApiProperty() sinceMs: number;
  @ApiProperty() neededMs: number;
  @ApiProperty() dueMs: number;
  @ApiProperty({ type: String, ...nullable }) caution: string | null;
}

export class ShareDto {
  @ApiProperty() low: number;
  @ApiProperty() high: number;
}

export class CutterDto {
  @ApiProperty() station: string;
  @ApiProperty() tool: string;
  @ApiProperty() lifeMinutes: number;
  @ApiProperty() changeMinutes: number;
  @ApiProperty() cost: number;
  @ApiProperty() usedMinutes: number;
  @ApiProperty({ type: Number, ...nullable }) changedMs: number | null;
  @ApiProperty({ type: ShareDto, ...nullable }) costPerPiece: ShareDto | null;
}

export class MillDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() station: string;
  @ApiProperty() stationName: string;
  @ApiProperty({ type: [TableDto] }) tables: TableDto[];
  @ApiProperty({ type: [WaitingDto] }) waiting: WaitingDto[];
  @ApiProperty({ type: [CutterDto] }) cutters: CutterDto[];
  /** Everything a plan needs: see core's LoadsQuestion and LoadPlan. */
  @ApiProperty({ type: Object }) question: LoadsQuestion;
  @ApiProperty({ type: Object }) plan: LoadPlan;
  @ApiProperty({ type: Object }) firstCome: LoadPlan;
}

export class ToolDto {
  @ApiProperty() @IsString() @Length(1, 60) tool: string;
  @ApiProperty() @IsNumber() @Min(MAY_BE.minutes.least) @Max(MAY_BE.minutes.most) minutes: number;
}

export class ProgramDto {
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() operation: string;
  @ApiProperty() revision: number;
  @ApiProperty() setUpMinutes: number;
  @ApiProperty() loadMinutes: number;
  @ApiProperty() cycleMinutes: number;
  @ApiProperty({ type: [ToolDto] }) tools: ToolDto[];
  @ApiProperty() note: string;
  @ApiProperty({ type: String, ...nullable }) person: string | null;
  @ApiProperty({ type: String, format: 'date-time' }) madeAt: Date;
}

export class CutterChangeDto {
  @ApiProperty() station: string;
  @ApiProperty() tool: string;
  @ApiProperty() usedMinutes: number;
  @ApiProperty() reason: string;
  @ApiProperty() person: string;
  @ApiProperty({ type: String, format: 'date-time' }) at: Date;
}

// ---- what is asked ----------------------------------------------------------------------------------------------

export class LoadPartAskedDto {
  @ApiProperty() @IsString() @Length(1, 20) batch: string;

  /** Places on the rack; the first so many that wait when left out. */
  @ApiPropertyOptional({ type: [Number] })
  @Optional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsInt({ each: true })
  @Min(1, { each: true })
  pieces?: number[];

  @ApiPropertyOptional() @Optional() @IsInt() @Min(1) @Max(500) count?: number;
}

export class StartLoadDto extends FilingKeyDto {
  /** Code of the table. */
  @ApiProperty() @IsString() @Length(1, 40) table: string;

  @ApiProperty({ type: [LoadPartAskedDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(60)
  @ValidateNested({ each: true })
  @Type(() => LoadPartAskedDto)
  parts: LoadPartAskedDto[];

  /** Reason for cutting all of it before its first piece is measured. */
  @PlainText({ optional: true })
  because?: string;
}

export class LostDto {
  @ApiProperty() @IsString() @Length(1, 20) batch: string;

  @ApiProperty({ type: [Number] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsInt({ each: true })
  @Min(1, { each: true })
  pieces: number[];

  @PlainText() reason: string;
}

export class EndLoadDto extends FilingKeyDto {
  /** Pieces that did not come off good. */
  @ApiProperty({ type: [LostDto] })
  @IsArray()
  @ArrayMaxSize(60)
  @ValidateNested({ each: true })
  @Type(() => LostDto)
  scrap: LostDto[];

  /** Reason for ending it although its first piece has not passed. */
  @PlainText({ optional: true })
  because?: string;
}

export class ChangeCutterDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) tool: string;
  @PlainText() reason: string;
}

export class ReviseProgramDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) model: string;
  @ApiProperty() @IsString() @Matches(/^[A-Z]$/) kind: string;
  @ApiProperty() @IsString() @Length(1, 60) operation: string;
  @ApiProperty() @IsNumber() @Min(MAY_BE.minutes.least) @Max(MAY_BE.minutes.most) setUpMinutes: number;
  @ApiProperty() @IsNumber() @Min(MAY_BE.minutes.least) @Max(MAY_BE.minutes.most) loadMinutes: number;
  @ApiProperty()
  @IsNumber()
  @Min(MAY_BE.cycleMinutes.least)
  @Max(MAY_BE.cycleMinutes.most)
  cycleMinutes: number;

  @ApiProperty({ type: [ToolDto] })
  @IsArray()
  @ArrayMaxSize(60)
  @ValidateNested({ each: true })
  @Type(() => ToolDto)
  tools: ToolDto[];

  @PlainText({ least: 0, most: 400 }) note: string;

  /** The newest revision as it was seen; 0 for a first one. */
  @ApiProperty() @IsInt() @Min(0) from: number;
}

export class SettleCycleDto extends EndLoadDto {
  /** 'load': it was the load on its table, which ends with it. 'nothing': it counts for nothing. */
  @ApiProperty({ enum: ['load', 'nothing'] }) @IsIn(['load', 'nothing']) as: 'load' | 'nothing';
}
