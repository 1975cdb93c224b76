import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, Length, Max, Min } from 'class-validator';
import { IsDay } from '../http/instant.ts';
import { ConstraintDto, StationDto } from './floor.dto.ts';

const nullable = { nullable: true } as const;

export class ThroughputRowDto {
  /** Factory day, 'YYYY-MM-DD'. */
  @ApiProperty() day: string;
  @ApiProperty() station: string;
  /** Good pieces that left the station that day; one that left it again within the days asked for counts when it last did. */
  @ApiProperty() good: number;
  @ApiProperty() scrapped: number;
  @ApiProperty() reworked: number;
}

export class LoadDayDto {
  @ApiProperty() day: string;
  @ApiProperty() station: string;
  @ApiProperty() hoursWaiting: number;
  @ApiProperty() days: number;
}

export class NeedDto {
  @ApiProperty() station: string;
  /** Pieces it must let go a working day, in the next twenty, so that what is open can be in time. */
  @ApiProperty() aDay: number;
}

/** Pieces of one rack that left a station together. */
export class LeftPiecesDto {
  @ApiProperty() batch: string;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty() operation: string;
  @ApiProperty({ enum: ['good', 'scrapped', 'sent back'] }) ended: 'good' | 'scrapped' | 'sent back';
  /** Name of who had them in hand; null: nobody is named. */
  @ApiProperty({ type: String, ...nullable }) by: string | null;
  @ApiProperty({ type: String, ...nullable }) reason: string | null;
  @ApiProperty() atMs: number;
}

export class LeftDto {
  @ApiProperty() day: string;
  @ApiProperty() station: string;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [LeftPiecesDto] }) left: LeftPiecesDto[];
}

export class LeftQueryDto {
  /** Working days before today, as the page looks at them. */
  @ApiProperty({ type: 'integer', minimum: 1, maximum: 250, default: 20, required: false })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(250)
  days: number = 20;
  @ApiProperty() @IsString() @Length(1, 60) station: string;
  @IsDay() day: string;
}

export class FlowDto {
  @ApiProperty() fromDay: string;
  @ApiProperty() toDay: string;
  /** Working days in the window. */
  @ApiProperty({ type: [String] }) days: string[];
  @ApiProperty({ type: [StationDto] }) stations: StationDto[];
  @ApiProperty({ type: [ThroughputRowDto] }) throughput: ThroughputRowDto[];
  @ApiProperty({ type: [LoadDayDto] }) load: LoadDayDto[];
  @ApiProperty({ type: [NeedDto] }) need: NeedDto[];
  @ApiProperty({ type: ConstraintDto, ...nullable }) constraint: ConstraintDto | null;
}
