import { MAY_BE } from '@ample-crane/core';
import { ApiProperty } from '@nestjs/swagger';
import { IsNumber, Max, Min, ValidateIf } from 'class-validator';
import { SettingDto } from '../setup/setting.dto.ts';

const { least, most } = MAY_BE.leadDays;

export class WantedLeadDto extends SettingDto {
  /** Days by the calendar; null: none is wanted any more. */
  @ApiProperty({ type: Number, minimum: least, maximum: most, nullable: true })
  @ValidateIf(({ days }: WantedLeadDto) => days !== null)
  @IsNumber()
  @Min(least)
  @Max(most)
  days: number | null;
}
