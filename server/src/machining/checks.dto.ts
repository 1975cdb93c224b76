import { RUN_RULES, type Check, type DimensionView, type RunRule } from '@ample-crane/core';
import { ApiProperty } from '@nestjs/swagger';
import { ArrayMaxSize, ArrayUnique, IsArray, IsIn, IsString, Length, Matches } from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { SettingDto } from '../setup/setting.dto.ts';
import type { CycleView, MachinePageView } from './machines.service.ts';

const nullable = { nullable: true } as const;
const RULES = Object.keys(RUN_RULES) as RunRule[];

export class DimensionDto {
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  /** See core's Check. */
  @ApiProperty({ type: Object }) check: Check;
}

export class DimensionSummaryDto extends DimensionDto {
  @ApiProperty() looks: number;
  @ApiProperty({ type: Number, ...nullable }) lastMs: number | null;
  /** What its chart says now: see core's DimensionView. */
  @ApiProperty({ type: Object }) view: DimensionView;
}

export class CheckPointDto {
  @ApiProperty() atMs: number;
  @ApiProperty() batch: string;
  @ApiProperty({ type: String, ...nullable }) load: string | null;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty({ type: [Number] }) values: number[];
  @ApiProperty() by: string;
  @ApiProperty({ enum: ['typed', 'gauge'] }) source: 'typed' | 'gauge';
}

export class ChartDto extends DimensionDto {
  @ApiProperty() zone: string;
  /** How many of the first points the limits rest on, once there are as many. */
  @ApiProperty() baseline: number;
  /** Pieces cut between two looks, on average. */
  @ApiProperty() piecesALook: number;
  @ApiProperty({ enum: RULES, isArray: true }) rules: RunRule[];
  @ApiProperty({ type: [CheckPointDto] }) points: CheckPointDto[];
}

export class SetRunRulesDto extends SettingDto {
  @ApiProperty({ enum: RULES, isArray: true })
  @IsArray()
  @ArrayMaxSize(RULES.length)
  @ArrayUnique()
  @IsIn(RULES, { each: true })
  rules: RunRule[];
}

export class RunRulesDto {
  @ApiProperty({ enum: RULES, isArray: true }) rules: RunRule[];
}

export class GaugeDto {
  @ApiProperty() value: number;
}

export class MachinePathDto {
  @ApiProperty() path: string;
  @ApiProperty({ type: String, ...nullable }) execution: string | null;
  @ApiProperty({ type: String, ...nullable }) program: string | null;
  @ApiProperty({ type: Number, ...nullable }) sinceMs: number | null;
}

export class CycleLoadDto {
  @ApiProperty() code: string;
  @ApiProperty() pieces: number;
}

export class CycleDto implements CycleView {
  @ApiProperty() id: string;
  @ApiProperty() path: string;
  @ApiProperty({ type: String, ...nullable }) program: string | null;
  @ApiProperty() startedMs: number;
  @ApiProperty({ type: Number, ...nullable }) endedMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) cutMinutes: number | null;
  @ApiProperty() heldMinutes: number;
  @ApiProperty({ enum: ['running', 'complete', 'broken off', 'lost'] }) outcome: CycleView['outcome'];
  @ApiProperty() note: string;
  @ApiProperty({ type: CycleLoadDto, ...nullable }) load: CycleLoadDto | null;
}

export class RealTimeDto {
  @ApiProperty() program: string;
  @ApiProperty() minutes: number;
  @ApiProperty() cycles: number;
}

export class MachineDto implements MachinePageView {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() station: string;
  @ApiProperty({ type: Number, ...nullable }) seenMs: number | null;
  @ApiProperty({ type: String, ...nullable }) trouble: string | null;
  @ApiProperty({ type: [MachinePathDto] }) paths: MachinePathDto[];
  @ApiProperty({ type: [CycleDto] }) open: CycleDto[];
  @ApiProperty({ type: [RealTimeDto] }) real: RealTimeDto[];
}

export class SetMachineDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Matches(/^[a-z0-9-]{1,40}$/) code: string;
  @ApiProperty() @IsString() @Length(1, 40) station: string;
  @ApiProperty() @IsString() @Length(1, 80) name: string;
  /** Where its agent answers: http://host:port */
  @ApiProperty() @IsString() @Matches(/^https?:\/\/[^\s/]+(\/[^\s]*)?$/) url: string;
}

export class SettledDto {
  /** What was done, in one sentence. */
  @ApiProperty() sentence: string;
}
