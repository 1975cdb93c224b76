import type { BatchState, JoinPartner } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { IsBoolean, IsInt, IsObject, IsString, Length, Matches, Max, MaxLength, Min } from 'class-validator';
import { HoldDto, RouteDto } from './rack.dto.ts';
import { IsInstant } from '../http/instant.ts';
import { Optional } from '../http/optional.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { FiledDto } from '../log/log.dto.ts';

export class OpenBatchDto extends FilingKeyDto {
  /** Kind letter. */
  @ApiProperty() @IsString() @Matches(/^[A-Z]$/, { message: 'kind must be one capital letter' }) kind: string;
  @ApiProperty() @IsString() @Length(1, 60) model: string;
  @ApiProperty({ minimum: 1, maximum: 500 }) @IsInt() @Min(1) @Max(500) quantity: number;
  @IsInstant() dueAt: string;
  /** Ways chosen where the route forks: key of the fork → key of the first operation; the usual ones when left out. */
  @ApiPropertyOptional({ type: 'object', additionalProperties: { type: 'string' } })
  @Optional()
  @IsObject()
  ways?: Record<string, string>;
  /** Name of its finish recipe; the model's usual one when left out. */
  @ApiPropertyOptional() @Optional() @IsString() @Length(1, 60) recipe?: string;
}

export class ReadingsFileDto extends FilingKeyDto {
  /** CSV, or cells pasted from a spreadsheet. */
  @ApiProperty() @IsString() @MaxLength(200_000) sheet: string;
  /** File the rows that are good although others are not. */
  @ApiProperty({ required: false, default: false }) @Optional() @IsBoolean() goodRowsOnly?: boolean;
}

export class SheetProblemDto {
  @ApiProperty() row: number;
  @ApiProperty() column: string;
  @ApiProperty() message: string;
}

export class ReadingsFiledDto extends FiledDto {
  /** Rows left out, when only the good ones were wanted. */
  @ApiProperty({ type: [SheetProblemDto] }) problems: SheetProblemDto[];
}

export class SheetRefusedDto {
  @ApiProperty() message: string;
  @ApiProperty({ type: [SheetProblemDto] }) problems: SheetProblemDto[];
  @ApiProperty() goodRows: number;
}

export class BatchEntryDto {
  @ApiProperty() seq: number;
  @ApiProperty() type: string;
  @ApiProperty() atMs: number;
  @ApiProperty() filedMs: number;
  @ApiProperty() by: string;
  @ApiProperty() byName: string;
  /** What it did, in a few words. */
  @ApiProperty() words: string;
  @ApiProperty({ type: String, nullable: true }) operation: string | null;
  @ApiProperty({ type: String, nullable: true }) station: string | null;
  @ApiProperty() pieces: number;
  /** Taken back by a later entry. */
  @ApiProperty() voided: boolean;
}

export class ClimateSampleDto {
  @ApiProperty() atMs: number;
  @ApiProperty() temperatureC: number;
  @ApiProperty() relativeHumidityPct: number;
}

export class RoomClimateDto {
  @ApiProperty() room: string;
  /** Hourly means, oldest first. */
  @ApiProperty({ type: [ClimateSampleDto] }) samples: ClimateSampleDto[];
}

/** A rack that another one may be joined with. */
export class JoinPartnerDto implements JoinPartner {
  @ApiProperty() batch: string;
  /** Kind letter. */
  @ApiProperty() kind: string;
}

/** A rack as the log bar works on it. */
export class RackDto {
  @ApiProperty() code: string;
  /** Its highest entry. */
  @ApiProperty() seq: number;
  @ApiProperty({ type: Object }) state: BatchState;
  @ApiProperty({ type: RouteDto }) route: RouteDto;
  @ApiProperty({ type: [HoldDto] }) holds: HoldDto[];
}

export class BatchDto {
  @ApiProperty() code: string;
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() seq: number;
  /** Null when its opening was taken back. */
  @ApiProperty({ type: Object, nullable: true }) state: BatchState | null;
  @ApiProperty({ type: RouteDto }) route: RouteDto;
  @ApiProperty({ type: [HoldDto] }) holds: HoldDto[];
  /** Newest first. */
  @ApiProperty({ type: [BatchEntryDto] }) entries: BatchEntryDto[];
  @ApiProperty({ type: [RoomClimateDto] }) climate: RoomClimateDto[];
  @ApiProperty({ type: Number, nullable: true }) earliestMs: number | null;
}
