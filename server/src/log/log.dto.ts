import { VERBS } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsNumber,
  IsObject,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateIf,
  ValidateNested,
} from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { IsInstant } from '../http/instant.ts';
import { Optional } from '../http/optional.ts';
import { PlainText } from '../http/plain-text.ts';

/** What may be filed one by one; a batch is opened by its own request, instruments arrive by joins. */
export const FILED_TYPES = [...VERBS, 'adjust', 'colour'] as const;
export type FiledType = (typeof FILED_TYPES)[number];

const reasoned = (entry: EntryDto): boolean => ['scrap', 'rework', 'hold'].includes(entry.type);

export class LabDto {
  @ApiProperty({ minimum: 0, maximum: 100 }) @IsNumber() @Min(0) @Max(100) l: number;
  @ApiProperty({ minimum: -160, maximum: 160 }) @IsNumber() @Min(-160) @Max(160) a: number;
  @ApiProperty({ minimum: -160, maximum: 160 }) @IsNumber() @Min(-160) @Max(160) b: number;
}

export class EntryDto {
  @ApiProperty({ enum: FILED_TYPES })
  @IsIn(FILED_TYPES)
  type: FiledType;

  /** Operation key. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 60)
  operation?: string;

  /** Station code. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 60)
  station?: string;

  @ApiPropertyOptional({ minimum: 1, maximum: 500 })
  @Optional()
  @IsInt()
  @Min(1)
  @Max(500)
  count?: number;

  /** Places on the rack, from 1. */
  @ApiPropertyOptional({ type: [Number] })
  @Optional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsInt({ each: true })
  @Min(1, { each: true })
  pieces?: number[];

  /** Why: for scrap, rework and hold. */
  @PlainText({ when: (entry: EntryDto) => reasoned(entry) || entry.reason !== undefined })
  reason?: string;

  /** Reason for acting against a hold or gate. */
  @PlainText({ optional: true })
  because?: string;

  /** Rework: operation key to go back to. Ship: to whom. Age: 'cold' or 'warm'. */
  @PlainText({ optional: true })
  to?: string;

  /** Moisture, %. */
  @ApiPropertyOptional({ type: [Number] })
  @ValidateIf((entry: EntryDto) => entry.type === 'read' || entry.valuesPct !== undefined)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsNumber({}, { each: true })
  valuesPct?: number[];

  @ApiPropertyOptional({ minimum: -20, maximum: 60 })
  @Optional()
  @IsNumber()
  @Min(-20)
  @Max(60)
  woodTemperatureC?: number;

  /** Read: code of the meter. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 40)
  meter?: string;

  /** Read: how deep the pins went. */
  @ApiPropertyOptional({ enum: ['shell', 'core'] })
  @Optional()
  @IsIn(['shell', 'core'])
  depth?: 'shell' | 'core';

  /** Action at fret 12, mm. */
  @ApiPropertyOptional({ type: [Number] })
  @ValidateIf((entry: EntryDto) => entry.type === 'measure' || entry.valuesMm !== undefined)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsNumber({}, { each: true })
  valuesMm?: number[];

  /** Wet film, µm. */
  @ApiPropertyOptional()
  @Optional()
  @IsNumber()
  wetUm?: number;

  /** Place: code of the table or press. */
  @ApiPropertyOptional()
  @ValidateIf((entry: EntryDto) => entry.type === 'place' || entry.bed !== undefined)
  @IsString()
  @Length(1, 40)
  bed?: string;

  /** Check: key of the check. */
  @ApiPropertyOptional()
  @ValidateIf((entry: EntryDto) => entry.type === 'check' || entry.check !== undefined)
  @IsString()
  @Length(1, 60)
  check?: string;

  /** Check: values in its unit. */
  @ApiPropertyOptional({ type: [Number] })
  @ValidateIf((entry: EntryDto) => entry.type === 'check' || entry.values !== undefined)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsNumber({}, { each: true })
  values?: number[];

  /** Check: load they were cut in, when it is not the one the pieces are in now. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 20)
  load?: string;

  /** Check: typed by a person, or sent by a gauge. */
  @ApiPropertyOptional({ enum: ['typed', 'gauge'] })
  @Optional()
  @IsIn(['typed', 'gauge'])
  source?: 'typed' | 'gauge';

  /** Adjust: planed down, or a shim glued on, and by how much. */
  @ApiPropertyOptional({ enum: ['plane', 'shim'] })
  @ValidateIf((entry: EntryDto) => entry.type === 'adjust' || entry.how !== undefined)
  @IsIn(['plane', 'shim'])
  how?: 'plane' | 'shim';

  @ApiPropertyOptional()
  @ValidateIf((entry: EntryDto) => entry.type === 'adjust' || entry.byMm !== undefined)
  @IsNumber()
  byMm?: number;

  /** Start and coat: code of the person who does it, when another one files it. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 60)
  who?: string;

  /** Coat: one wet film for each piece, µm. */
  @ApiPropertyOptional({ type: [Number] })
  @Optional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @IsNumber({}, { each: true })
  wetUms?: number[];

  /** Coat: which of the recipe's coats this is at its operation, from 1; another one than is due is refused. */
  @ApiPropertyOptional({ minimum: 1, maximum: 60 })
  @Optional()
  @IsInt()
  @Min(1)
  @Max(60)
  number?: number;

  /** Coat: code of the booth. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 40)
  booth?: string;

  /** Coat: lot of the material, or the mix it comes out of. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 20)
  lot?: string;

  /** Sand: film taken off, µm, when it was read before and after. */
  @ApiPropertyOptional({ minimum: 0, maximum: 500 })
  @Optional()
  @IsNumber()
  @Min(0)
  @Max(500)
  removalUm?: number;

  /** Sand: grits used. */
  @ApiPropertyOptional({ type: [Number] })
  @Optional()
  @IsArray()
  @ArrayMaxSize(10)
  @IsInt({ each: true })
  grits?: number[];

  /** Sand: only scuffed for the next coat. */
  @ApiPropertyOptional()
  @Optional()
  @IsIn([true])
  scuff?: true;

  /** Mark: the finish took no mark. */
  @ApiPropertyOptional()
  @ValidateIf((entry: EntryDto) => entry.type === 'mark' || entry.passed !== undefined)
  @IsBoolean()
  passed?: boolean;

  /** Colour: L*a*b* of each piece. */
  @ApiPropertyOptional({ type: [LabDto] })
  @ValidateIf((entry: EntryDto) => entry.type === 'colour' || entry.labs !== undefined)
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => LabDto)
  labs?: LabDto[];

  /** Rework: what brought it about. */
  @PlainText({ optional: true })
  cause?: string;

  /** Rework: whether the rest of the rack waits for the pieces; it goes on when left out. */
  @ApiPropertyOptional({ enum: ['waits', 'goes on'] })
  @Optional()
  @IsIn(['waits', 'goes on'])
  rest?: 'waits' | 'goes on';

  /** End of ageing: what was seen that made it enough. */
  @PlainText({ optional: true })
  seen?: string;

  /** End of cure: code of the test panel it rests on. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 20)
  panel?: string;

  /** Join: code of the other batch. */
  @ApiPropertyOptional()
  @ValidateIf((entry: EntryDto) => entry.type === 'join' || entry.partner !== undefined)
  @IsString()
  @Length(1, 20)
  partner?: string;

  /** Undo: sequence number of an entry of the filing to take back; the batch's last filing when left out. */
  @ApiPropertyOptional()
  @Optional()
  @IsInt()
  @Min(1)
  seq?: number;
}

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

  @ApiProperty({ type: [EntryDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => EntryDto)
  entries: EntryDto[];
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
