import type {
  BillLine,
  BinStanding,
  BilledPart,
  Coming,
  Given,
  NewPartAsked,
  PartAsked,
  ShortRack,
  TermForecast,
} from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsObject,
  IsString,
  Max,
  MaxLength,
  Min,
} from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { IsInstant } from '../http/instant.ts';
import { Optional } from '../http/optional.ts';
import { FiledDto } from '../log/log.dto.ts';
import { SettingDto } from '../setup/setting.dto.ts';
import type { BinAhead, KitsView, NamedShortage, PickLine, PickView, RackAhead } from './kits.service.ts';
import type { LineWeight } from './weights.service.ts';
import { IsNewPart, IsPartEntry } from './part-entry.ts';
import type { PartEntryView } from './parts.service.ts';
import type { StockedPart } from './store.service.ts';

const nullable = { nullable: true } as const;
const BIN_STANDINGS: BinStanding[] = ['none', 'short', 'whole', 'otherwise'];

export class PurchaseDto implements Coming {
  @ApiProperty() number: number;
  @ApiProperty() quantity: number;
  @ApiProperty() orderedMs: number;
  @ApiProperty() expectedMs: number;
  @ApiProperty({ type: String, ...nullable }) reference: string | null;
}

export class PartDto implements Omit<StockedPart, 'moves' | 'counted' | 'ordered'> {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() unit: string;
  @ApiProperty() supplier: string;
  @ApiProperty() leadDays: number;
  @ApiProperty({ type: Number, ...nullable }) weightG: number | null;
  @ApiProperty() openedMs: number;
  /** When it was last counted; as it was begun: never. */
  @ApiProperty() countedMs: number;
  @ApiProperty({ type: [PurchaseDto] }) coming: PurchaseDto[];
  @ApiProperty() seq: number;
  @ApiProperty() onHand: number;
  @ApiProperty() onOrder: number;
}

export class PartEntryDto implements PartEntryView {
  @ApiProperty() seq: number;
  @ApiProperty() atMs: number;
  @ApiProperty() byName: string;
  @ApiProperty() words: string;
  @ApiProperty() voided: boolean;
}

export class PartWithLogDto extends PartDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  /** Newest first. */
  @ApiProperty({ type: [PartEntryDto] }) entries: PartEntryDto[];
}

export class BeginPartDto extends FilingKeyDto {
  @IsNewPart() part: NewPartAsked;
}

export class StoreSheetDto extends FilingKeyDto {
  /** CSV with a heading: code, name, unit, supplier, lead_days, weight_g, counted. */
  @ApiProperty() @IsString() @MaxLength(900_000) sheet: string;
  /** File the rows that are good although others are not. */
  @ApiPropertyOptional() @Optional() @IsBoolean() goodRowsOnly?: boolean;
  /** When it was counted, with its offset; now when left out. */
  @IsInstant({ optional: true }) happenedAt?: string;
}

export class StoreSheetProblemDto {
  @ApiProperty() row: number;
  @ApiProperty() column: string;
  @ApiProperty() message: string;
}

export class StoreSheetFiledDto extends FiledDto {
  /** Rows that were left out. */
  @ApiProperty({ type: [StoreSheetProblemDto] }) problems: StoreSheetProblemDto[];
}

export class StoreSheetRefusedDto {
  @ApiProperty() message: string;
  @ApiProperty({ type: [StoreSheetProblemDto] }) problems: StoreSheetProblemDto[];
}

export class FilePartDto extends FilingKeyDto {
  @IsPartEntry() entry: PartAsked;
}

export class GivenDto implements Given {
  @ApiProperty() option: string;
  @ApiProperty({ type: [String] }) values: string[];
}

export class SubstituteDto {
  @ApiProperty() part: string;
  @ApiProperty({ type: [GivenDto], required: false }) when?: GivenDto[];
}

export class BillLineDto implements BillLine {
  @ApiProperty() slot: string;
  @ApiProperty() part: string;
  @ApiProperty() quantity: number;
  @ApiProperty({ type: [GivenDto], required: false }) when?: GivenDto[];
  @ApiProperty({ type: [SubstituteDto], required: false }) instead?: SubstituteDto[];
}

export class BillDto {
  @ApiProperty() model: string;
  /** 0: it has none yet. */
  @ApiProperty() revision: number;
  @ApiProperty({ type: [BillLineDto] }) lines: BillLineDto[];
  /** What is odd about it; nothing forbids it. */
  @ApiProperty({ type: [String] }) hints: string[];
}

export class ReviseBillDto extends SettingDto {
  /** The revision it was drawn from; 0 for a first one. */
  @ApiProperty() @IsInt() @Min(0) revision: number;
  /** Held against docs/formats/bill.schema.json. */
  @ApiProperty({ type: [BillLineDto] })
  @IsArray()
  @ArrayMaxSize(200)
  @IsObject({ each: true })
  lines: BillLine[];
}

export class KitsQueryDto {
  /** Kits that are wanted within so many days. */
  @ApiProperty({ required: false }) @Optional() @Type(() => Number) @IsInt() @Min(1) @Max(365) days?: number;
}

export class BinAheadDto implements BinAhead {
  @ApiProperty() piece: string;
  @ApiProperty() position: number;
  @ApiProperty({ type: String, ...nullable }) bin: string | null;
  @ApiProperty({ enum: BIN_STANDINGS }) standing: BinStanding;
}

export class ShortPartDto {
  @ApiProperty() part: string;
  @ApiProperty() name: string;
  @ApiProperty() slot: string;
  @ApiProperty() short: number;
  @ApiProperty({ type: Number, ...nullable }) comesMs: number | null;
}

export class RackAheadDto implements RackAhead {
  @ApiProperty() batch: string;
  @ApiProperty() model: string;
  @ApiProperty() wantMs: number;
  @ApiProperty() dueMs: number;
  @ApiProperty() where: string;
  @ApiProperty({ type: [BinAheadDto] }) bins: BinAheadDto[];
  @ApiProperty({ type: [ShortPartDto] }) short: ShortPartDto[];
}

export class ShortRackDto implements ShortRack {
  @ApiProperty() rack: string;
  @ApiProperty() slot: string;
  @ApiProperty() short: number;
  /** Instruments that cannot be assembled without. */
  @ApiProperty() pieces: number;
  @ApiProperty() wantMs: number;
  @ApiProperty({ type: Number, ...nullable }) comesMs: number | null;
}

export class ShortageDto implements NamedShortage {
  @ApiProperty() part: string;
  @ApiProperty() name: string;
  @ApiProperty() unit: string;
  @ApiProperty() supplier: string;
  @ApiProperty() leadDays: number;
  @ApiProperty() onHand: number;
  @ApiProperty() onOrder: number;
  @ApiProperty() short: number;
  @ApiProperty() toOrder: number;
  /** By then it must be here; null: all of it is on its way. */
  @ApiProperty({ type: Number, ...nullable }) hereByMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) orderByMs: number | null;
  @ApiProperty({ type: [ShortRackDto] }) racks: ShortRackDto[];
}

export class StandInDto {
  @ApiProperty() rack: string;
  @ApiProperty() slot: string;
  @ApiProperty() part: string;
  @ApiProperty() name: string;
  @ApiProperty() instead: string;
  @ApiProperty() insteadName: string;
  @ApiProperty() quantity: number;
}

export class KitsDto implements KitsView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [RackAheadDto] }) ahead: RackAheadDto[];
  @ApiProperty({ type: [ShortageDto] }) shortages: ShortageDto[];
  @ApiProperty({ type: [StandInDto] }) standIns: StandInDto[];
  /** Models that come to assembly and have no bill. */
  @ApiProperty({ type: [String] }) without: string[];
}

export class WeightTermDto implements TermForecast {
  @ApiProperty() what: string;
  @ApiProperty() kg: number;
  @ApiProperty() sdKg: number;
  @ApiProperty({ enum: ['weighed', 'blank', 'reckoned'] }) from: TermForecast['from'];
}

export class LineWeightDto implements LineWeight {
  /** 'O-12/1'. */
  @ApiProperty() line: string;
  @ApiProperty({ type: String, ...nullable }) piece: string | null;
  @ApiProperty() weighed: boolean;
  @ApiProperty() kg: number;
  @ApiProperty() sdKg: number;
  @ApiProperty() lowKg: number;
  @ApiProperty() highKg: number;
  /** 0…1. */
  @ApiProperty({ type: Number, ...nullable }) insideShare: number | null;
  @ApiProperty() chamberKg: number;
  @ApiProperty({ type: [WeightTermDto] }) terms: WeightTermDto[];
}

export class StandInPartDto {
  @ApiProperty() part: string;
  @ApiProperty() name: string;
  @ApiProperty() onHand: number;
}

export class PickLineDto implements PickLine {
  @ApiProperty() slot: string;
  @ApiProperty() part: string;
  @ApiProperty() name: string;
  @ApiProperty() unit: string;
  @ApiProperty() wanted: number;
  /** Lies in the bin. */
  @ApiProperty() there: number;
  @ApiProperty() onHand: number;
  @ApiProperty({ type: [StandInPartDto] }) instead: StandInPartDto[];
}

export class PickedPartDto implements Omit<BilledPart, 'instead'> {
  @ApiProperty() slot: string;
  @ApiProperty() part: string;
  @ApiProperty() name: string;
  @ApiProperty() quantity: number;
}

export class PickDto implements PickView {
  @ApiProperty() nowMs: number;
  @ApiProperty() piece: string;
  @ApiProperty() batch: string;
  @ApiProperty() position: number;
  @ApiProperty() model: string;
  @ApiProperty({ type: String, ...nullable }) line: string | null;
  @ApiProperty({ type: String, ...nullable }) label: string | null;
  @ApiProperty({ type: String, ...nullable }) bin: string | null;
  @ApiProperty({ enum: BIN_STANDINGS }) standing: BinStanding;
  /** What was changed since it was picked; null: nothing. */
  @ApiProperty({ type: String, ...nullable }) otherwise: string | null;
  /** The operation before which it is picked. */
  @ApiProperty() operationName: string;
  @ApiProperty({ type: [PickLineDto] }) lines: PickLineDto[];
  /** What lies in the bin. */
  @ApiProperty({ type: [PickedPartDto] }) parts: PickedPartDto[];
}
