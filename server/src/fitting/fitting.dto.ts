import type { Check, GapWindow, MeetingForecast, MeetingSide } from '@ample-crane/core';
import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsString,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import type { BedView, ComingView, LyingView } from './presses.service.ts';

const nullable = { nullable: true } as const;

export class LyingDto implements LyingView {
  @ApiProperty() batch: string;
  @ApiProperty() model: string;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty({ type: [Number] }) pieces: number[];
  @ApiProperty() sinceMs: number;
  @ApiProperty({ type: Number, ...nullable }) endMs: number | null;
}

export class BedDto implements BedView {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: ['table', 'press', 'carousel', 'rack', 'mould'] }) kind: BedView['kind'];
  @ApiProperty() station: string;
  @ApiProperty() stationName: string;
  @ApiProperty() places: number;
  @ApiProperty() free: number;
  @ApiProperty({ type: Number, ...nullable }) nextFreeMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) allFreeMs: number | null;
  @ApiProperty({ type: [LyingDto] }) lying: LyingDto[];
}

export class ComingDto extends LyingDto implements ComingView {
  /** On its hold without a place, or still at the work before it. */
  @ApiProperty({ enum: ['unplaced', 'next'] }) state: 'unplaced' | 'next';
  @ApiProperty() station: string;
  @ApiProperty() inHand: boolean;
}

export class PressesDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [BedDto] }) beds: BedDto[];
  @ApiProperty({ type: [ComingDto] }) coming: ComingDto[];
}

export class MeetingsDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  /** See core's MeetingSide, with the name of the join. */
  @ApiProperty({ type: [Object] }) sides: (MeetingSide & { joinName: string })[];
  /** See core's MeetingForecast. */
  @ApiProperty({ type: Object }) forecast: MeetingForecast;
}

export class MeetDto {
  @ApiProperty() @IsString() @Length(1, 20) host: string;
  @ApiProperty() @IsString() @Length(1, 20) guest: string;
}

export class TellMeetingsDto extends FilingKeyDto {
  @ApiProperty({ type: [MeetDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => MeetDto)
  meets: MeetDto[];
}

export class PairingPieceDto {
  @ApiProperty() position: number;
  @ApiProperty({ type: Number, ...nullable }) valueMm: number | null;
  @ApiProperty({ type: String, ...nullable }) partner: string | null;
  @ApiProperty({ type: Number, ...nullable }) gapMm: number | null;
  /** Line of the order it is built for; null: for stock. */
  @ApiProperty({ type: String, ...nullable }) line: string | null;
}

export class PairingSideDto {
  @ApiProperty() batch: string;
  /** See core's Check. */
  @ApiProperty({ type: Object }) check: Check;
  @ApiProperty({ type: [PairingPieceDto] }) pieces: PairingPieceDto[];
  @ApiProperty({ type: Number, ...nullable }) moisturePct: number | null;
  @ApiProperty({ type: Number, ...nullable }) movesMm: number | null;
}

export class PairingDto {
  @ApiProperty() model: string;
  @ApiProperty() joinName: string;
  @ApiProperty({ type: Object }) windowMm: GapWindow;
  @ApiProperty({ type: Number, ...nullable }) roomEmcPct: number | null;
  @ApiProperty({ type: PairingSideDto }) host: PairingSideDto;
  @ApiProperty({ type: PairingSideDto }) guest: PairingSideDto;
}

export class PairDto {
  @ApiProperty() @IsInt() @Min(1) @Max(500) host: number;
  @ApiProperty() @IsInt() @Min(1) @Max(500) guest: number;
}

export class FilePairsDto extends FilingKeyDto {
  /** Pairs by places on the racks; none undoes the pairing of the two batches. */
  @ApiProperty({ type: [PairDto] })
  @IsArray()
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => PairDto)
  pairs: PairDto[];

  /** Allow for what the wood will do until they are joined. */
  @ApiProperty() @IsBoolean() allow: boolean;
}
