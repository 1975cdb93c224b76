import type { BenchVerdict, Check, Measured, MeasuredOf, SetupPractice, Standing } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional, IntersectionType } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsInt,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { Optional } from '../http/optional.ts';
import { PlainText } from '../http/plain-text.ts';
import { SettingDto } from '../setup/setting.dto.ts';
import type {
  BenchLine,
  BenchView,
  FiledSheet,
  MeasuredPart,
  OthersOfModel,
  SheetView,
} from './bench.service.ts';
import type { Found, FoundInstrument, FoundOrder, FoundPart, FoundShipment } from './finding.service.ts';
import type { NextSerial } from './serials.service.ts';
import type { LedgerLine } from './ledger-line.ts';
import { MOST_SHIPPED, type LeavingLine, type LedgerView } from './shipping.service.ts';

const nullable = { nullable: true } as const;
const VERDICTS = ['pass', 'measure', 'adjust', 'back', 'wait'] as const;

export class BenchLineDto implements BenchLine {
  /** 'I-212/03' */
  @ApiProperty() piece: string;
  @ApiProperty() batch: string;
  @ApiProperty() position: number;
  @ApiProperty() model: string;
  @ApiProperty({ type: String, ...nullable }) serial: string | null;
  /** Key and name of the operation it stands at. */
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  /** It stands on the settling shelf. */
  @ApiProperty() settling: boolean;
  /** See core's Standing. */
  @ApiProperty({ type: String }) standing: Standing;
  @ApiProperty() sinceMs: number;
  /** When its settling is over. */
  @ApiProperty({ type: Number, ...nullable }) endsMs: number | null;
  @ApiProperty() dueMs: number;
  @ApiProperty({ enum: VERDICTS }) verdict: BenchVerdict;
  @ApiProperty() words: string;
  /** Where two people look at it: codes of those who have. */
  @ApiProperty({ type: [String] }) by: string[];
}

export class BenchDto implements BenchView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  /** What wants a hand first. */
  @ApiProperty({ type: [BenchLineDto] }) lines: BenchLineDto[];
}

export class ReadDto {
  @ApiProperty() name: string;
  /** 'mm', 'cents', 'kg'; 'yes': looked at, 1 is yes. */
  @ApiProperty() unit: string;
  @ApiProperty() value: number;
}

export class FiledSheetDto implements FiledSheet {
  @ApiProperty() atMs: number;
  @ApiProperty() byName: string;
  @ApiProperty() operationName: string;
  @ApiProperty({ type: String, ...nullable }) note: string | null;
  @ApiProperty({ type: [ReadDto] }) read: ReadDto[];
}

export class SetupPracticeDto implements SetupPractice {
  @ApiProperty() scaleMm: number;
  @ApiProperty() saddleMmPerTurn: number;
}

export class MeasuredOfDto implements MeasuredOf {
  @ApiProperty() atMs: number;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  /** Key of the check. */
  @ApiProperty() check: string;
  @ApiProperty() name: string;
  @ApiProperty() unit: string;
  @ApiProperty() value: number;
}

export class MeasuredPartDto implements MeasuredPart {
  @ApiProperty() piece: string;
  @ApiProperty() kindName: string;
  @ApiProperty({ type: [MeasuredOfDto] }) read: MeasuredOfDto[];
}

export class SheetDto implements SheetView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() piece: string;
  @ApiProperty() batch: string;
  @ApiProperty() position: number;
  @ApiProperty() model: string;
  @ApiProperty({ type: String, ...nullable }) serial: string | null;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty({ enum: ['attended', 'gate', 'hold'] }) mode: 'attended' | 'gate' | 'hold';
  @ApiProperty({ type: String, ...nullable }) caution: string | null;
  /** Key of the operation it goes back to. */
  @ApiProperty({ type: String, ...nullable }) reworkTo: string | null;
  @ApiProperty() givesSerial: boolean;
  /** How many people look at it here. */
  @ApiProperty() eyes: number;
  /** See core's Standing. */
  @ApiProperty({ type: String }) standing: Standing;
  @ApiProperty() sinceMs: number;
  @ApiProperty({ type: Number, ...nullable }) endsMs: number | null;
  @ApiProperty({ enum: VERDICTS }) verdict: BenchVerdict;
  @ApiProperty() words: string;
  @ApiProperty({ type: [String] }) by: string[];
  /** See core's Check. */
  @ApiProperty({ type: [Object] }) checks: Check[];
  /** What counts of it here so far, by key of the check. */
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' } }) values: Measured;
  /** What it was before it settled. */
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' } }) before: Measured;
  /** How far each may have moved since. */
  @ApiProperty({ type: 'object', additionalProperties: { type: 'number' } }) drifts: Record<string, number>;
  /** Length of its strings, mm, and what a turn of a saddle's screw gives, mm. */
  @ApiProperty() practice: SetupPracticeDto;
  /** Its sheets, oldest first. */
  @ApiProperty({ type: [FiledSheetDto] }) sheets: FiledSheetDto[];
  /** Values of other instruments of its model here, newest last, by key of the check. */
  @ApiProperty({
    type: 'object',
    additionalProperties: { type: 'array', items: { type: 'number' } },
  })
  others: OthersOfModel;
  /** What its parts measured while they were on their own. */
  @ApiProperty({ type: [MeasuredPartDto] }) parts: MeasuredPartDto[];
}

export class ModelLettersDto {
  @PlainText({ most: 60 }) model: string;
  /** Capitals and digits; none: not said. */
  @ApiProperty({ pattern: '^[A-Z0-9]{0,6}$' })
  @IsString()
  @Matches(/^[A-Z0-9]{0,6}$/, { message: 'letters of a model are up to six capitals or digits' })
  letters: string;
}

const SERIAL = /^[A-Z0-9 .\-/]{1,24}$/;
const serialWords = { message: 'a serial has capitals, digits, blank, . - / only, 24 at most' };

export class SerialRangeDto {
  @ApiProperty({ maxLength: 24 }) @IsString() @Matches(SERIAL, serialWords) from: string;
  @ApiProperty({ maxLength: 24 }) @IsString() @Matches(SERIAL, serialWords) to: string;
}

export class NextSerialDto implements NextSerial {
  @ApiProperty() model: string;
  @ApiProperty({ type: String, ...nullable }) serial: string | null;
  /** Why it gets none. */
  @ApiProperty({ type: String, ...nullable }) problem: string | null;
}

export class SerialPreviewDto {
  /** What keeps the pattern from being used. */
  @ApiProperty({ type: [String] }) problems: string[];
  /** The next of each model. */
  @ApiProperty({ type: [NextSerialDto] }) next: NextSerialDto[];
}

export class SerialsDto extends SerialPreviewDto {
  @ApiProperty() pattern: string;
  @ApiProperty({ type: [ModelLettersDto] }) letters: ModelLettersDto[];
  @ApiProperty({ type: [SerialRangeDto] }) onPaper: SerialRangeDto[];
  /** How many were ever given. */
  @ApiProperty() given: number;
}

/** How serials would be made: looked at, nothing is filed. */
export class SerialSettingDto {
  /** Fixed text and tokens in braces: see docs/assembly.md. */
  @ApiProperty({ minLength: 1, maxLength: 60 })
  @IsString()
  @Length(1, 60)
  pattern: string;

  @ApiProperty({ type: [ModelLettersDto] })
  @IsArray()
  @ArrayMaxSize(200)
  @ArrayUnique(({ model }: ModelLettersDto) => model)
  @ValidateNested({ each: true })
  @Type(() => ModelLettersDto)
  letters: ModelLettersDto[];

  @ApiProperty({ type: [SerialRangeDto] })
  @IsArray()
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => SerialRangeDto)
  onPaper: SerialRangeDto[];
}

/** How serials are to be made from now on. */
export class SetSerialsDto extends IntersectionType(SettingDto, SerialSettingDto) {}

export class LedgerQueryDto {
  /** So many days back. */
  @ApiPropertyOptional({ type: 'integer', minimum: 1, maximum: 1000, default: 30 })
  @Optional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(1000)
  days?: number;

  /** Only what left with this filing, whenever that was. */
  @ApiPropertyOptional({ minLength: 1, maxLength: 80 })
  @Optional()
  @IsString()
  @Length(1, 80)
  filing?: string;
}

export class LedgerLineDto implements LedgerLine {
  @ApiProperty() atMs: number;
  @ApiProperty() piece: string;
  @ApiProperty() batch: string;
  @ApiProperty() position: number;
  @ApiProperty({ type: String, ...nullable }) serial: string | null;
  @ApiProperty() model: string;
  @ApiProperty({ type: String, ...nullable }) to: string | null;
  @ApiProperty({ type: String, ...nullable }) order: string | null;
  @ApiProperty({ type: String, ...nullable }) carrier: string | null;
  @ApiProperty({ type: String, ...nullable }) contents: string | null;
  /** Papers of its protected wood, with the species. */
  @ApiProperty({ type: String, ...nullable }) papers: string | null;
  @ApiProperty() by: string;
  /** Reason it left against a rule. */
  @ApiProperty({ type: String, ...nullable }) because: string | null;
  /** Key of the filing it left with. */
  @ApiProperty() filing: string;
}

export class LedgerDto implements LedgerView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  /** Newest first. */
  @ApiProperty({ type: [LedgerLineDto] }) lines: LedgerLineDto[];
  /** More left in that time: these are the newest. */
  @ApiProperty() more: boolean;
}

export class LeavingLineDto implements LeavingLine {
  @ApiProperty() piece: string;
  @ApiProperty() batch: string;
  @ApiProperty() position: number;
  @ApiProperty({ type: String, ...nullable }) serial: string | null;
  @ApiProperty() model: string;
  @ApiProperty() sinceMs: number;
  @ApiProperty() dueMs: number;
  /** What speaks against it. */
  @ApiProperty({ type: String, ...nullable }) against: string | null;
  /** Line of the order it is built for; null: for stock. */
  @ApiProperty({ type: String, ...nullable }) line: string | null;
  /** Papers of its protected wood, with the species. */
  @ApiProperty({ type: String, ...nullable }) papers: string | null;
}

const LONGEST_NUMBER = 60;

export class ShipDto extends FilingKeyDto {
  /** 'I-212/03' */
  @ApiProperty({ type: [String], minItems: 1, maxItems: MOST_SHIPPED })
  @IsArray()
  @ArrayMinSize(1, { message: 'name at least one instrument' })
  @ArrayMaxSize(MOST_SHIPPED)
  @ArrayUnique()
  @IsString({ each: true })
  @Length(1, 20, { each: true })
  pieces: string[];

  @PlainText() to: string;
  @PlainText({ most: LONGEST_NUMBER, optional: true }) order?: string;
  @PlainText({ most: LONGEST_NUMBER, optional: true }) carrier?: string;
  @PlainText({ optional: true }) contents?: string;
  /** Reason for shipping what a rule speaks against. */
  @PlainText({ optional: true }) because?: string;
}

export class FindQueryDto {
  /** A serial from its beginning, an order, a customer. */
  @ApiProperty({ minLength: 1, maxLength: 80 })
  @IsString()
  @Length(1, 80)
  said: string;
}

export class FoundInstrumentDto implements FoundInstrument {
  @ApiProperty() serial: string;
  @ApiProperty() piece: string;
  @ApiProperty() batch: string;
  @ApiProperty() position: number;
  @ApiProperty() model: string;
  /** See core's Standing. */
  @ApiProperty({ type: String }) standing: Standing;
}

export class FoundShipmentDto implements FoundShipment {
  @ApiProperty() filing: string;
  @ApiProperty() atMs: number;
  @ApiProperty() to: string;
  @ApiProperty({ type: String, ...nullable }) order: string | null;
  /** How many instruments. */
  @ApiProperty() pieces: number;
}

export class FoundOrderDto implements FoundOrder {
  @ApiProperty() code: string;
  @ApiProperty({ type: String, ...nullable }) customer: string | null;
  @ApiProperty({ type: String, ...nullable }) reference: string | null;
}

export class FoundPartDto implements FoundPart {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
}

export class FoundDto implements Found {
  @ApiProperty({ type: [FoundPartDto] }) parts: FoundPartDto[];
  @ApiProperty({ type: [FoundInstrumentDto] }) instruments: FoundInstrumentDto[];
  /** Newest first. */
  @ApiProperty({ type: [FoundShipmentDto] }) shipments: FoundShipmentDto[];
  /** Newest first. */
  @ApiProperty({ type: [FoundOrderDto] }) orders: FoundOrderDto[];
}
