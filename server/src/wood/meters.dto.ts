import { MAY_BE } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { IsIn, IsNumber, IsString, Length, Matches, Max, MaxLength, Min } from 'class-validator';
import { Optional } from '../http/optional.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';

export class NewMeterDto {
  @ApiProperty()
  @Matches(/^[\w-]{1,40}$/, { message: 'code must be up to 40 letters, digits or -' })
  code: string;
  @ApiProperty() @IsString() @Length(1, 80) name: string;
  @ApiProperty({ enum: ['pin', 'pinless'] }) @IsIn(['pin', 'pinless']) kind: 'pin' | 'pinless';
  @ApiPropertyOptional() @Optional() @IsString() @MaxLength(200) note?: string;
}

export class NewSampleDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) species: string;
  /** As the meter showed it, %. */
  @ApiProperty() @IsNumber() @Min(MAY_BE.readingPct.least) @Max(MAY_BE.readingPct.most) readingPct: number;
  @ApiProperty() @IsNumber() @Min(MAY_BE.woodC.least) @Max(MAY_BE.woodC.most) woodTemperatureC: number;
  @ApiProperty() @IsNumber() @Min(MAY_BE.sampleG.least) @Max(MAY_BE.sampleG.most) wetG: number;
  /** After drying at 103 °C to constant mass. */
  @ApiProperty() @IsNumber() @Min(MAY_BE.sampleG.least) @Max(MAY_BE.sampleG.most) dryG: number;
}

export class UseLineDto extends FilingKeyDto {
  @ApiProperty() @IsString() @Length(1, 60) species: string;
}

export class SampleDto {
  @ApiProperty() atMs: number;
  @ApiProperty() by: string;
  @ApiProperty() readingPct: number;
  @ApiProperty() woodTemperatureC: number;
  @ApiProperty() wetG: number;
  @ApiProperty() dryG: number;
  @ApiProperty() ovenDryPct: number;
}

export class MeterFitDto {
  @ApiProperty() a: number;
  @ApiProperty() b: number;
  @ApiProperty() count: number;
  @ApiProperty() residualSdPct: number;
  @ApiProperty({ type: [Number] }) residualsPct: number[];
  @ApiProperty() fromPct: number;
  @ApiProperty() toPct: number;
}

export class MeterLineDto {
  @ApiProperty() a: number;
  @ApiProperty() b: number;
  @ApiProperty() samples: number;
  @ApiProperty() residualSdPct: number;
  @ApiProperty() atMs: number;
  @ApiProperty() by: string;
}

export class CalibrationDto {
  @ApiProperty() species: string;
  @ApiProperty({ type: [SampleDto] }) samples: SampleDto[];
  @ApiProperty({ type: MeterFitDto, nullable: true }) fit: MeterFitDto | null;
  @ApiProperty({ type: MeterLineDto, nullable: true }) line: MeterLineDto | null;
  @ApiProperty() stale: boolean;
}

export class MeterDto {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: ['pin', 'pinless'] }) kind: 'pin' | 'pinless';
  @ApiProperty() note: string;
  @ApiProperty({ type: [CalibrationDto] }) calibrations: CalibrationDto[];
}
