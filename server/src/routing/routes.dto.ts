import type { Operation } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsInt,
  IsObject,
  IsString,
  Length,
  Matches,
  Min,
} from 'class-validator';
import { Optional } from '../http/optional.ts';
import { PlainText } from '../http/plain-text.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';

export class RouteSummaryDto {
  @ApiProperty() id: string;
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() revision: number;
  @ApiProperty() note: string;
  @ApiProperty({ type: String, nullable: true }) person: string | null;
  @ApiProperty() madeMs: number;
  /** How many it has. */
  @ApiProperty() operations: number;
  @ApiProperty() newest: boolean;
  /** Open batches that work by this revision. */
  @ApiProperty({ type: [String] }) batches: string[];
}

export class ReviseRouteDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) model: string;
  @ApiProperty() @IsString() @Matches(/^[A-Z]$/) kind: string;

  /** Held against docs/formats/route.schema.json. */
  @ApiProperty({ type: [Object] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(200)
  @IsObject({ each: true })
  operations: Operation[];

  /** What changed. */
  @PlainText({ least: 0, most: 600 }) note: string;

  /** The revision it was drawn from; 0 for a first one. */
  @ApiProperty() @IsInt() @Min(0) from: number;
}

export class MoveBatchDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 80) routeId: string;

  /** Key of a fork → key of the first operation of the way taken. */
  @ApiPropertyOptional({ type: 'object', additionalProperties: { type: 'string' } })
  @Optional()
  @IsObject()
  ways?: Record<string, string>;

  @PlainText() reason: string;
}

export class RemovedDto {
  @ApiProperty() removed: string;
}
