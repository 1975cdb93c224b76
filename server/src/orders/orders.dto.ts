import {
  LATEST_MS,
  STAGES,
  type Choices,
  type MoveCause,
  type Option,
  type OptionRule,
  type OrderAsked,
  type OrderChange,
  type OrderedAsked,
  type PlannedRack,
  type SpecChange,
  type Stage,
  type Standing,
  type TagOption,
  type TagsThere,
  type TagValue,
} from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
  IsInt,
  IsObject,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { IsInstant } from '../http/instant.ts';
import { PlainText } from '../http/plain-text.ts';
import { SettingDto } from '../setup/setting.dto.ts';
import type { BacklogMonth, BacklogView } from './backlog.service.ts';
import type { BuiltSo } from './option-books.service.ts';
import { IsOrderEntry, IsOrderedLines } from './order-entry.ts';
import type { LineMoves, MoveView } from './order-moves.service.ts';
import type { OrderLineView, OrderPlace, OrderSummary, OrderView } from './order-views.service.ts';
import { MOST_OPENED } from './order-racks.service.ts';

const nullable = { nullable: true } as const;
const words = { type: 'object', additionalProperties: { type: 'string' } } as const;

export class OptionBookDto implements BuiltSo {
  @ApiProperty() model: string;
  /** 0: it sells no options yet. */
  @ApiProperty() revision: number;
  @ApiProperty({ type: [Object] }) options: Option[];
  @ApiProperty({ type: [Object] }) rules: OptionRule[];
  /** Operations where something can be built in: 'N/fret', and what it is called. */
  @ApiProperty({ type: [Object] }) places: { place: string; name: string }[];
  /** Recipes a value may ask for. */
  @ApiProperty({ type: [String] }) recipes: string[];
  /** Forks of its routes, and what each way is called. */
  @ApiProperty({ type: [Object] }) ways: { fork: string; to: string; name: string }[];
}

export class ReviseOptionsDto extends SettingDto {
  /** The revision it was drawn from; 0 for a first one. */
  @ApiProperty() @IsInt() @Min(0) revision: number;
  /** Held against docs/formats/options.schema.json. */
  @ApiProperty({ type: [Object] }) @IsArray() @ArrayMaxSize(60) @IsObject({ each: true }) options: Option[];
  @ApiProperty({ type: [Object] })
  @IsArray()
  @ArrayMaxSize(300)
  @IsObject({ each: true })
  rules: OptionRule[];
}

export class PlaceOrderDto extends FilingKeyDto {
  /** To whom; left out: built for stock. */
  @PlainText({ optional: true, most: 120 }) customer?: string;
  /** Their own number for it. */
  @PlainText({ optional: true, most: 60 }) reference?: string;
  @IsInstant() dueAt: string;
  @IsOrderedLines() lines: OrderedAsked[];
}

export class FileOrderDto extends FilingKeyDto {
  @IsOrderEntry() entry: OrderAsked;
}

export class TouchesQueryDto {
  @ApiProperty() @Type(() => Number) @IsInt() @Min(1) @Max(60) line: number;
  @ApiProperty() @IsString() @Matches(/^[a-z0-9][a-z0-9-]{0,59}$/) option: string;
  @ApiProperty() @IsString() @Matches(/^[a-z0-9][a-z0-9-]{0,59}$/) value: string;
}

export class SpecChangeDto implements SpecChange {
  @ApiProperty() batch: string;
  @ApiProperty() option: string;
  @ApiProperty({ type: String, ...nullable }) from: string | null;
  @ApiProperty({ type: String, ...nullable }) to: string | null;
  @ApiProperty({ type: [String] }) operations: string[];
  @ApiProperty({ type: [String] }) done: string[];
  @ApiProperty({ type: [String] }) open: string[];
  @ApiProperty() minutesAgain: number;
  @ApiProperty() costAgain: number;
}

export class OrderedModelDto {
  @ApiProperty() model: string;
  @ApiProperty() quantity: number;
}

export class OrderSummaryDto implements OrderSummary {
  @ApiProperty() code: string;
  @ApiProperty({ type: String, ...nullable }) customer: string | null;
  @ApiProperty({ type: String, ...nullable }) reference: string | null;
  @ApiProperty() placedMs: number;
  @ApiProperty() dueMs: number;
  @ApiProperty({ type: [OrderedModelDto] }) models: OrderedModelDto[];
  @ApiProperty() pieces: number;
  @ApiProperty() shipped: number;
  /** Instruments whose parts no rack has. */
  @ApiProperty() unbegun: number;
  /** By routes and holds alone; null: nobody can say. */
  @ApiProperty({ type: Number, ...nullable }) earliestMs: number | null;
}

export class OrderPlaceDto implements OrderPlace {
  @ApiProperty() batch: string;
  @ApiProperty() kind: string;
  /** It becomes part of an instrument: not one by itself. */
  @ApiProperty() part: boolean;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty({ type: [String] }) pieces: string[];
  @ApiProperty() operation: string;
  @ApiProperty({ type: String, ...nullable }) stage: Stage | null;
  @ApiProperty({ enum: ['waiting', 'inHand', 'onHold', 'scrapped', 'joined', 'parted', 'shipped'] })
  standing: Standing;
  @ApiProperty() sinceMs: number;
  /** The word of the hold they are in; null: none. */
  @ApiProperty({ type: String, ...nullable }) hold: string | null;
  @ApiProperty({ type: Number, ...nullable }) holdEndMs: number | null;
  @ApiProperty({ type: [String] }) serials: string[];
}

export class TagsQueryDto {
  @ApiProperty({ enum: STAGES }) @IsIn(STAGES) stage: Stage;
}

export class TagValueDto implements TagValue {
  @ApiProperty() value: string;
  @ApiProperty() valueName: string;
  /** 1-based places that are to have it. */
  @ApiProperty({ type: [Number] }) positions: number[];
  /** Those that were held against their tags. */
  @ApiProperty({ type: [Number] }) right: number[];
  /** Those where what was in the hand was another. */
  @ApiProperty({ type: [Number] }) wrong: number[];
}

export class TagOptionDto implements TagOption {
  @ApiProperty() option: string;
  @ApiProperty() name: string;
  /** It is built in here, and confirmed against the tag. */
  @ApiProperty() built: boolean;
  @ApiProperty({ type: [TagValueDto] }) values: TagValueDto[];
}

export class TagsDto implements TagsThere {
  @ApiProperty() batch: string;
  @ApiProperty() operation: string;
  @ApiProperty({ type: [TagOptionDto] }) options: TagOptionDto[];
}

export class MoveDto implements MoveView {
  @ApiProperty({ enum: ['not begun', 'waiting', 'partner', 'work', 'hold', 'called', 'sent back'] })
  cause: MoveCause;
  /** Null: before there was a rack. */
  @ApiProperty({ type: String, ...nullable }) batch: string | null;
  @ApiProperty({ type: String, ...nullable }) operation: string | null;
  @ApiProperty({ type: String, ...nullable }) operationName: string | null;
  @ApiProperty() fromMs: number;
  @ApiProperty() toMs: number;
  /** Later; below nothing: sooner. */
  @ApiProperty() movedMs: number;
  @ApiProperty({ type: String, ...nullable }) reason: string | null;
}

export class LineMovesDto implements LineMoves {
  @ApiProperty() line: string;
  /** When it was ordered. */
  @ApiProperty() fromMs: number;
  /** Its earliest day as it was then, by the times of its route. */
  @ApiProperty() startMs: number;
  @ApiProperty() endMs: number;
  /** The piece that decides it; null: no rack has it. */
  @ApiProperty({ type: String, ...nullable }) piece: string | null;
  /** They add up to the difference; greatest first. */
  @ApiProperty({ type: [MoveDto] }) moves: MoveDto[];
}

export class ChosenOptionDto {
  @ApiProperty() option: string;
  @ApiProperty() name: string;
  @ApiProperty() value: string;
  @ApiProperty() valueName: string;
}

export class UnbegunDto {
  @ApiProperty() kind: string;
  @ApiProperty() count: number;
}

export class WeightWishDto {
  @ApiProperty() low: number;
  @ApiProperty() high: number;
}

export class OrderLineDto implements OrderLineView {
  @ApiProperty() number: number;
  /** 'O-12/1'. */
  @ApiProperty() code: string;
  @ApiProperty() model: string;
  @ApiProperty() quantity: number;
  @ApiProperty(words) choices: Choices;
  @ApiProperty({ type: [ChosenOptionDto] }) options: ChosenOptionDto[];
  @ApiProperty({ type: String, ...nullable }) label: string | null;
  @ApiProperty({ type: String, ...nullable }) note: string | null;
  @ApiProperty({ type: WeightWishDto, ...nullable }) weightKg: WeightWishDto | null;
  /** Why it is not built any more; null: it is. */
  @ApiProperty({ type: String, ...nullable }) cancelled: string | null;
  /** When it was added; left out: with the order. */
  @ApiPropertyOptional() addedMs?: number;
  @ApiProperty({ type: [OrderPlaceDto] }) places: OrderPlaceDto[];
  @ApiProperty({ type: [UnbegunDto] }) unbegun: UnbegunDto[];
  @ApiProperty() shipped: number;
  @ApiProperty({ type: Number, ...nullable }) earliestMs: number | null;
}

export class OrderChangeDto implements OrderChange {
  @ApiProperty() atMs: number;
  @ApiProperty() by: string;
  @ApiProperty({ type: Number, ...nullable }) line: number | null;
  @ApiProperty() what: string;
  @ApiProperty() because: string;
}

export class OrderDto implements OrderView {
  @ApiProperty() code: string;
  @ApiProperty({ type: String, ...nullable }) customer: string | null;
  @ApiProperty({ type: String, ...nullable }) reference: string | null;
  @ApiProperty() placedMs: number;
  @ApiProperty() dueMs: number;
  @ApiProperty() seq: number;
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [OrderChangeDto] }) changes: OrderChangeDto[];
  @ApiProperty({ type: [OrderLineDto] }) lines: OrderLineDto[];
  @ApiProperty({ type: Number, ...nullable }) earliestMs: number | null;
}

export class BacklogMonthDto implements BacklogMonth {
  @ApiProperty() fromMs: number;
  @ApiProperty() pieces: number;
  /** At the constraint. */
  @ApiProperty() hours: number;
}

export class BacklogDto implements BacklogView {
  @ApiProperty() zone: string;
  @ApiProperty() pieces: number;
  /** What paces the factory; null: nobody can say yet. */
  @ApiProperty({ type: String, ...nullable }) station: string | null;
  @ApiProperty({ type: String, ...nullable }) stationName: string | null;
  @ApiProperty() hours: number;
  @ApiProperty({ type: Number, ...nullable }) weeks: number | null;
  @ApiProperty({ type: [BacklogMonthDto] }) months: BacklogMonthDto[];
}

export class PlanQueryDto {
  /** Pieces in a rack at most. */
  @ApiProperty() @Type(() => Number) @IsInt() @Min(1) @Max(500) largest: number;
  /** How far due days of one rack may be apart. */
  @ApiProperty() @Type(() => Number) @IsInt() @Min(0) @Max(365) withinDays: number;
}

export class PlannedLineDto {
  @ApiProperty() @IsString() @Matches(/^O-\d{1,9}\/\d{1,3}$/) line: string;
  @ApiProperty() @IsInt() @Min(1) @Max(500) count: number;
  @ApiProperty() @IsInt() @Min(0) @Max(LATEST_MS) dueMs: number;
}

export class PlannedRackDto implements PlannedRack {
  @ApiProperty() @IsString() @Length(1, 60) model: string;
  @ApiProperty({ type: [String] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(6)
  @Matches(/^[A-Z]$/, { each: true })
  kinds: string[];
  @ApiProperty() @IsInt() @Min(1) @Max(500) quantity: number;
  @ApiProperty() @IsInt() @Min(0) @Max(LATEST_MS) dueMs: number;
  /** What its pieces have alike. */
  @ApiProperty(words) @IsObject() family: Choices;
  @ApiProperty({ type: [PlannedLineDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(500)
  @ValidateNested({ each: true })
  @Type(() => PlannedLineDto)
  lines: PlannedLineDto[];
}

export class OpenOrderRacksDto extends FilingKeyDto {
  @ApiProperty({ type: [PlannedRackDto] })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_OPENED)
  @ValidateNested({ each: true })
  @Type(() => PlannedRackDto)
  racks: PlannedRackDto[];
}
