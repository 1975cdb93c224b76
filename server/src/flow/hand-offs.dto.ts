import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, Max, Min } from 'class-validator';
import { Optional } from '../http/optional.ts';
import type { CountedFaults, HandOff, HandOffsView } from './hand-offs.service.ts';

const nullable = { nullable: true } as const;

export class HandOffsQueryDto {
  /** Faults of so many days are counted. */
  @ApiProperty({ required: false }) @Optional() @Type(() => Number) @IsInt() @Min(1) @Max(400) days?: number;
}

export class BehindDto {
  @ApiProperty() key: string;
  @ApiProperty() name: string;
}

export class OriginDto {
  /** 'B/colour'. */
  @ApiProperty() place: string;
  @ApiProperty() name: string;
}

export class HandOffDto implements HandOff {
  @ApiProperty() batch: string;
  @ApiProperty() model: string;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty() station: string;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty({ type: [String] }) pieces: string[];
  @ApiProperty() sinceMs: number;
  @ApiProperty() dueMs: number;
  /** Operations they can go back to, nearest first; the last is this one itself. */
  @ApiProperty({ type: [BehindDto] }) behind: BehindDto[];
  /** Operations that may have caused what is found. */
  @ApiProperty({ type: [OriginDto] }) origins: OriginDto[];
}

export class FaultReasonDto {
  @ApiProperty() reason: string;
  @ApiProperty() pieces: number;
}

export class CountedFaultsDto implements CountedFaults {
  @ApiProperty() found: string;
  @ApiProperty() foundName: string;
  /** Null: nobody said. */
  @ApiProperty({ type: String, ...nullable }) caused: string | null;
  @ApiProperty({ type: String, ...nullable }) causedName: string | null;
  @ApiProperty() sentBack: number;
  @ApiProperty() scrapped: number;
  /** Most frequent first. */
  @ApiProperty({ type: [FaultReasonDto] }) reasons: FaultReasonDto[];
}

export class HandOffsDto implements HandOffsView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() days: number;
  @ApiProperty({ type: [HandOffDto] }) arriving: HandOffDto[];
  @ApiProperty({ type: [CountedFaultsDto] }) counted: CountedFaultsDto[];
}
