import { MAY_BE } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsNumber,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { SettingDto } from '../setup/setting.dto.ts';
import { IsInstant } from '../http/instant.ts';
import { Optional } from '../http/optional.ts';

export class ClimateReadingDto {
  @ApiProperty() @IsString() @Length(1, 60) room: string;
  @IsInstant() at: string;
  @ApiProperty({ minimum: -40, maximum: 80 })
  @IsNumber()
  @Min(MAY_BE.airC.least)
  @Max(MAY_BE.airC.most)
  temperatureC: number;
  @ApiProperty({ minimum: 0, maximum: 100 })
  @IsNumber()
  @Min(MAY_BE.airRhPct.least)
  @Max(MAY_BE.airRhPct.most)
  relativeHumidityPct: number;
  /** Of the work, where the sensor measures it. */
  @ApiPropertyOptional({ minimum: -40, maximum: 80 })
  @Optional()
  @IsNumber()
  @Min(-40)
  @Max(80)
  surfaceC?: number;
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

export class ClimateSheetDto {
  @ApiProperty() @IsString() @Length(1, 60) room: string;
  /** CSV of a logger: time, temperature, humidity. Times without a zone are factory time. */
  @ApiProperty() @IsString() @MaxLength(900_000) sheet: string;
  /** Keep the rows that are good although others are not. */
  @ApiPropertyOptional() @Optional() @IsBoolean() goodRowsOnly?: boolean;
}

export class BandDto extends SettingDto {
  @ApiProperty({ minimum: 0, maximum: 30 })
  @IsNumber()
  @Min(MAY_BE.bandPct.least)
  @Max(MAY_BE.bandPct.most)
  lowPct: number;
  @ApiProperty({ minimum: 0, maximum: 30 })
  @IsNumber()
  @Min(MAY_BE.bandPct.least)
  @Max(MAY_BE.bandPct.most)
  highPct: number;
}

export class CourseQueryDto {
  @ApiPropertyOptional({ type: Number, minimum: 1, maximum: 800, default: 30 })
  @Optional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(800)
  days = 30;
}

export class AirDto {
  @ApiProperty() atMs: number;
  @ApiProperty() temperatureC: number;
  @ApiProperty() relativeHumidityPct: number;
}

export class WindowDto {
  @ApiProperty() lowPct: number;
  @ApiProperty() highPct: number;
}

export class DriftDto {
  @ApiProperty() sinceMs: number;
  @ApiProperty() hours: number;
  @ApiProperty() damp: boolean;
  @ApiProperty() emcPct: number;
}

export class SensorHealthDto {
  @ApiProperty({ enum: ['well', 'silent', 'stuck', 'never heard'] }) state:
    'well' | 'silent' | 'stuck' | 'never heard';
  @ApiProperty() words: string;
}

export class SensorTroubleDto {
  @ApiProperty() nonsense: number;
  @ApiProperty({ type: String, nullable: true }) nonsenseSaid: string | null;
  @ApiProperty({ type: Number, nullable: true }) nonsenseMs: number | null;
  /** Readings that had to be dropped because the database was away too long. */
  @ApiProperty() dropped: number;
  @ApiProperty({ type: Number, nullable: true }) clockOffMs: number | null;
  @ApiProperty({ type: Number, nullable: true }) clockMs: number | null;
}

export class RoomDto {
  @ApiProperty() room: string;
  @ApiProperty() holdsWood: boolean;
  /** EMC it should hold, %. */
  @ApiProperty({ type: WindowDto }) band: WindowDto;
  @ApiProperty({ type: AirDto, nullable: true }) air: AirDto | null;
  @ApiProperty({ type: Number, nullable: true }) emcPct: number | null;
  @ApiProperty({ type: DriftDto, nullable: true }) drift: DriftDto | null;
  /** Humidity that would hold the middle of the band. */
  @ApiProperty({ type: Number, nullable: true }) wantedRhPct: number | null;
  @ApiProperty({ type: Number, nullable: true }) lastMs: number | null;
  @ApiProperty({ type: SensorHealthDto }) health: SensorHealthDto;
  @ApiProperty({ type: SensorTroubleDto, nullable: true }) trouble: SensorTroubleDto | null;
}

export class ClimateSpanDto extends AirDto {
  @ApiProperty() lowC: number;
  @ApiProperty() highC: number;
  @ApiProperty() lowRhPct: number;
  @ApiProperty() highRhPct: number;
}

export class CourseDto {
  @ApiProperty() hoursASpan: number;
  /** Means with their extremes, oldest first. */
  @ApiProperty({ type: [ClimateSpanDto] }) spans: ClimateSpanDto[];
}
