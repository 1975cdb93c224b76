import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsDateString,
  IsNumber,
  IsString,
  Length,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';

export class ClimateReadingDto {
  @ApiProperty() @IsString() @Length(1, 60) room: string;
  @ApiProperty({ format: 'date-time' }) @IsDateString() at: string;
  @ApiProperty({ minimum: -40, maximum: 80 }) @IsNumber() @Min(-40) @Max(80) temperatureC: number;
  @ApiProperty({ minimum: 0, maximum: 100 }) @IsNumber() @Min(0) @Max(100) relativeHumidityPct: number;
}

export class ClimateReadingsDto {
  @ApiProperty({ type: [ClimateReadingDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(5000)
  @ValidateNested({ each: true })
  @Type(() => ClimateReadingDto)
  readings: ClimateReadingDto[];
}

export class ClimateKeptDto {
  /** Readings that were new. */
  @ApiProperty() kept: number;
}

export class RoomDto {
  @ApiProperty() room: string;
}
