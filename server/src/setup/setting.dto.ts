import { ApiPropertyOptional } from '@nestjs/swagger';
import { IsInt, Min } from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { Optional } from '../http/optional.ts';

/** A setting that somebody changes. */
export class SettingDto extends FilingKeyDto {
  /**
   * Number of the newest change, of whatever setting, that was known where this was filled in; 0: of none. Where the setting was
   * changed since, that is said and nothing is changed. Left out: it is not asked.
   */
  @ApiPropertyOptional({ type: 'integer', minimum: 0 })
  @Optional()
  @IsInt()
  @Min(0)
  lastChange?: number;
}
