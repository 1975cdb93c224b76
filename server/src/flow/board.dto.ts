import {
  CALL_KINDS,
  PEGS,
  type BoardRow,
  type Call,
  type AnsweredCall,
  type CallAction,
  type CallAnswer,
  type CallItem,
  type HoldAt,
  type Peg,
  type RackAt,
  type OrderOnRack,
  type RackLine,
  type RowToScale,
} from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Equals, IsString, Length } from 'class-validator';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { IsInstant } from '../http/instant.ts';
import { Optional } from '../http/optional.ts';
import { PlainText } from '../http/plain-text.ts';
import { HoldDto } from '../routing/rack.dto.ts';

/** What is asked of the racks that the board draws. */
export class BoardQueryDto {
  /** Name of a model. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 60)
  model?: string;

  /** Code of a person who has any of its pieces in hand. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 60)
  person?: string;

  /** Code of an order any of its pieces are built for. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 20)
  order?: string;

  /** Those alone that will be late. */
  @ApiPropertyOptional({ enum: ['yes'] })
  @Optional()
  @Equals('yes')
  late?: 'yes';
}

export class CallActionDto implements CallAction {
  @ApiProperty() label: string;
  @ApiPropertyOptional() line?: string;
  /** The lines of all it speaks for are filed, or of those that are chosen. */
  @ApiPropertyOptional() each?: boolean;
  @ApiPropertyOptional() href?: string;
}

export class CallItemDto implements CallItem {
  @ApiProperty() subject: string;
  @ApiProperty() title: string;
  @ApiProperty() detail: string;
  @ApiProperty() cost: number;
  @ApiPropertyOptional() line?: string;
  @ApiProperty() href: string;
}

const nullable = { nullable: true } as const;

export class CallAnswerDto implements CallAnswer {
  @ApiProperty() call: string;
  @ApiProperty() atMs: number;
  /** Who said it. */
  @ApiProperty() by: string;
  /** Whose the call is now. */
  @ApiProperty({ type: String, ...nullable }) to: string | null;
  /** It is put off until then. */
  @ApiProperty({ type: Number, ...nullable }) untilMs: number | null;
  @ApiProperty() reason: string;
  /** What it cost then. */
  @ApiProperty() cost: number;
}

export class AnswerCallDto extends FilingKeyDto {
  /** The call's id. */
  @ApiProperty()
  @IsString()
  @Length(1, 200)
  call: string;

  /** Whose it is from now on. */
  @ApiPropertyOptional()
  @Optional()
  @IsString()
  @Length(1, 60)
  to?: string;

  /** It is put off until then; neither this nor to whom: it is brought back. */
  @IsInstant({ optional: true })
  until?: string;

  /** Why; what is put off wants one. */
  @PlainText({ least: 0 })
  reason: string;
}

export class CallDto implements AnsweredCall {
  @ApiProperty() id: string;
  @ApiProperty({ enum: CALL_KINDS }) kind: Call['kind'];
  /** What it is about, by its code or name. */
  @ApiProperty() subject: string;
  @ApiProperty() title: string;
  @ApiProperty() detail: string;
  /** Instrument-days lost for each day it is left. */
  @ApiProperty() cost: number;
  @ApiProperty({ type: [CallActionDto] }) actions: CallActionDto[];
  @ApiProperty() evidence: string;
  /** All it speaks for, most costly first; none: it speaks for its subject alone. */
  @ApiProperty({ type: [CallItemDto] }) items: CallItemDto[];
  /** What was last said to it and still holds. */
  @ApiProperty({ type: CallAnswerDto, ...nullable }) answer: CallAnswerDto | null;
}

class DrawnDto {
  @ApiProperty() batch: string;
  @ApiProperty() model: string;
  /** Pieces it was opened with. */
  @ApiProperty() quantity: number;
  @ApiProperty() dueMs: number;
  /** Code of the station it is drawn at. */
  @ApiProperty() station: string;
}

export class RackAtDto extends DrawnDto implements RackAt {
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  /** Every piece of the rack, as seen from the operation. */
  @ApiProperty({ enum: PEGS, isArray: true }) pegs: Peg[];
  /** Pieces that stand at the operation. */
  @ApiProperty() here: number;
  @ApiProperty() done: number;
  @ApiProperty() sinceMs: number;
}

export class HoldAtDto extends DrawnDto implements HoldAt<HoldDto> {
  @ApiProperty({ type: HoldDto }) hold: HoldDto;
  /** Pieces of the rack's other groups in the same hold. */
  @ApiProperty() more: number;
}

/** One station with all that stands there. */
export class StageRowDto implements BoardRow<HoldDto> {
  /** Code of the station. */
  @ApiProperty() station: string;
  /** Whether the route of any open rack goes through it. */
  @ApiProperty() used: boolean;
  /** Next first. */
  @ApiProperty({ type: [RackAtDto] }) waiting: RackAtDto[];
  @ApiProperty({ type: [RackAtDto] }) inHand: RackAtDto[];
  /** Over first, then ending first. */
  @ApiProperty({ type: [HoldAtDto] }) holds: HoldAtDto[];
}

/** One open rack in the list of all of them. */
/** Pieces of a rack that are built for one order. */
export class OrderOnRackDto implements OrderOnRack {
  @ApiProperty() order: string;
  @ApiProperty() pieces: number;
  /** Codes of the stations where they stand. */
  @ApiProperty({ type: [String] }) stations: string[];
}

export class RackLineDto implements RackLine<HoldDto> {
  @ApiProperty() batch: string;
  /** Kind of part. */
  @ApiProperty() kind: string;
  @ApiProperty() model: string;
  /** Pieces it was opened with. */
  @ApiProperty() quantity: number;
  /** Pieces still on its route. */
  @ApiProperty() pieces: number;
  @ApiProperty() openedMs: number;
  @ApiProperty() dueMs: number;
  /** The earliest it could be through, by its route and its holds alone; null: not known. */
  @ApiProperty({ type: Number, ...nullable }) earliestMs: number | null;
  /** Where those stand that are furthest behind. */
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  /** Code of the station there. */
  @ApiProperty() station: string;
  @ApiProperty({ enum: ['waiting', 'inHand', 'onHold'] }) standing: 'waiting' | 'inHand' | 'onHold';
  /** Pieces that stand there like that. */
  @ApiProperty() here: number;
  @ApiProperty() sinceMs: number;
  /** Codes of the people who have any of its pieces in hand. */
  @ApiProperty({ type: [String] }) people: string[];
  /** Codes of all stations where any of its pieces stand. */
  @ApiProperty({ type: [String] }) stations: string[];
  /** Keys of the operations where any of its pieces may leave a hold now. */
  @ApiProperty({ type: [String] }) over: string[];
  /** The orders any of its pieces are built for. */
  @ApiProperty({ type: [OrderOnRackDto] }) orders: OrderOnRackDto[];
  /** The hold those furthest behind are in. */
  @ApiProperty({ type: HoldDto, ...nullable }) hold: HoldDto | null;
}

export class PlaceDto {
  @ApiProperty() batch: string;
  @ApiProperty() dueMs: number;
}

/** One station counted, to be drawn to scale where there are too many racks to draw each. */
export class RowToScaleDto implements RowToScale {
  /** Racks in hand, what is due first, first. */
  @ApiProperty({ type: [PlaceDto] }) places: PlaceDto[];
  /** Racks that may leave now. */
  @ApiProperty({ type: [String] }) over: string[];
  /** Racks that come off hold on each of the board's days. */
  @ApiProperty({ type: [Number] }) free: number[];
  /** Racks that come free after these days. */
  @ApiProperty() later: number;
  /** Racks whose end nobody can say. */
  @ApiProperty() open: number;
}

/** One station with the first of what stands there. */
export class BoardRowDto extends StageRowDto {
  /** Racks that wait besides those told. */
  @ApiProperty() moreWaiting: number;
  @ApiProperty() moreInHand: number;
  @ApiProperty() moreHolds: number;
  @ApiProperty({ type: RowToScaleDto }) scale: RowToScaleDto;
}

export class BoardDto {
  /** Open racks. */
  @ApiProperty() racks: number;
  /** Those that are drawn: all, or what is asked. */
  @ApiProperty() drawn: number;
  /** Starts of the factory days that racks come free on, and of the one behind them. */
  @ApiProperty({ type: [Number] }) days: number[];
  @ApiProperty({ type: [BoardRowDto] }) rows: BoardRowDto[];
  /** Most costly first. */
  @ApiProperty({ type: [CallDto] }) calls: CallDto[];
  /** Calls that somebody put off: they come back at their time, or when they cost twice what they did. */
  @ApiProperty({ type: [CallDto] }) putOff: CallDto[];
}
