import type { AskedEntry } from '@ample-crane/core';
import { ApiProperty } from '@nestjs/swagger';
import { IsObject, IsString, Length, Matches } from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { IsInstant } from '../http/instant.ts';
import { PlainText } from '../http/plain-text.ts';
import { IsFiledEntries } from './filed-entries.ts';

export class TakeBackDto extends FilingKeyDto {
  /** Key of the filing to take back. */
  @ApiProperty({ minLength: 8, maxLength: 80 })
  @IsString()
  @Matches(/^[\w-]{8,80}$/, { message: 'filing must be the key of a filing' })
  filing: string;
}

export class GiveUpDto extends FilingKeyDto {
  /** What it was, in words. */
  @PlainText({ most: 500 }) words: string;
  /** As it would have been filed. */
  @ApiProperty({ type: 'object', additionalProperties: true }) @IsObject() request: Record<string, unknown>;
  /** Why it was refused. */
  @PlainText({ most: 500 }) why: string;
}

export class GivenUpDto {
  @ApiProperty() key: string;
  @ApiProperty() by: string;
  @ApiProperty() words: string;
  @ApiProperty() why: string;
  @ApiProperty() touchedMs: number;
  @ApiProperty() givenUpMs: number;
}

export class FileEntriesDto extends FilingKeyDto {
  @ApiProperty()
  @IsString()
  @Length(1, 20)
  batch: string;

  /** When it happened, factory time with its offset; now when left out. */
  @IsInstant({ optional: true })
  happenedAt?: string;

  @IsFiledEntries()
  entries: AskedEntry[];
}

export class FileLineDto extends FilingKeyDto {
  /** As typed or scanned. */
  @ApiProperty({ maxLength: 500 })
  @IsString()
  line: string;
}

export class PreviewLineDto {
  /** Code of the person who would file it. */
  @ApiProperty()
  @IsString()
  @Length(1, 60)
  by: string;

  @ApiProperty({ maxLength: 500 })
  @IsString()
  line: string;
}

export class FiledEntryDto {
  @ApiProperty() batch: string;
  @ApiProperty() seq: number;
}

export class FiledDto {
  /** What was done, in one sentence. */
  @ApiProperty() sentence: string;
  @ApiProperty({ type: [FiledEntryDto] }) entries: FiledEntryDto[];
  @ApiProperty() filedMs: number;
  /** True when this key had been filed before: nothing was added. */
  @ApiProperty() repeated: boolean;
}

export class LastFiledDto {
  @ApiProperty() key: string;
  @ApiProperty() batch: string;
  @ApiProperty() sentence: string;
  @ApiProperty() filedMs: number;
}
