import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { IsObject, IsString, Length, Matches } from 'class-validator';
import { IsInstant } from './instant.ts';
import { Optional } from './optional.ts';

export class FilingKeyDto {
  /** Made by the client, one for each thing it files: the same key twice is filed once. */
  @ApiProperty({ minLength: 8, maxLength: 80 })
  @IsString()
  @Matches(/^[\w-]{8,80}$/, { message: 'key must be 8 to 80 letters, digits, - or _' })
  key: string;

  /** Code of the person who files. */
  @ApiProperty()
  @IsString()
  @Length(1, 60)
  by: string;

  /**
   * When its person touched, factory time, when it is sent later than that: it counts as having happened then. A moment within
   * the request itself goes before it.
   */
  @IsInstant({ optional: true }) touchedAt?: string;

  /** Highest entry of each batch or lot named, as its person saw it: a bare correction takes back nothing later than that. */
  @ApiPropertyOptional({ type: 'object', additionalProperties: { type: 'integer' } })
  @Optional()
  @IsObject()
  seen?: Record<string, number>;
}
