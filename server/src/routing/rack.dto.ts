import type {
  BatchState,
  CheckSet,
  Coat,
  LoadMark,
  MeasureSet,
  Operation,
  Override,
  PieceState,
  ReadingSet,
  Standing,
} from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';

const STANDINGS: Standing[] = ['waiting', 'inHand', 'onHold', 'scrapped', 'joined', 'parted', 'shipped'];
const nullable = { nullable: true } as const;

export class ReworkDto {
  @ApiProperty() from: string;
  @ApiProperty() reason: string;
}

export class CalledDto {
  @ApiProperty() reason: string;
  @ApiProperty({ enum: ['waiting', 'inHand', 'onHold'] }) from: 'waiting' | 'inHand' | 'onHold';
}

export class LoadMarkDto implements LoadMark {
  @ApiProperty() code: string;
  @ApiProperty() program: string;
  @ApiProperty() firstPiece: boolean;
}

export class PartnerDto {
  @ApiProperty() piece: string;
  @ApiProperty() gapMm: number;
  @ApiPropertyOptional() allowedMm?: number;
}

export class PieceDto implements PieceState {
  @ApiProperty() position: number;
  @ApiProperty() operation: string;
  @ApiProperty({ enum: STANDINGS }) standing: Standing;
  @ApiProperty() sinceMs: number;
  @ApiProperty({ type: String, ...nullable }) station: string | null;
  @ApiProperty({ type: ReworkDto, ...nullable }) rework: ReworkDto | null;
  @ApiProperty({ type: CalledDto, ...nullable }) called: CalledDto | null;
  @ApiProperty({ type: String, ...nullable }) joinedInto: string | null;
  @ApiProperty({ type: [String] }) parents: string[];
  @ApiProperty({ type: String, ...nullable }) scrapReason: string | null;
  /** Table, press or carousel it lies in. */
  @ApiPropertyOptional() bed?: string;
  @ApiPropertyOptional({ type: LoadMarkDto }) load?: LoadMarkDto;
  /** The part it was paired with by measurement. */
  @ApiPropertyOptional({ type: PartnerDto }) partner?: PartnerDto;
  @ApiPropertyOptional({ type: [String] }) partedInto?: string[];
}

export class ReadingSetDto implements ReadingSet {
  @ApiProperty() atMs: number;
  @ApiProperty() operation: string;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty({ type: [Number] }) valuesPct: number[];
  @ApiProperty({ type: Number, ...nullable }) woodTemperatureC: number | null;
}

export class CoatDto implements Coat {
  @ApiProperty() atMs: number;
  @ApiProperty() operation: string;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty({ type: Number, ...nullable }) wetUm: number | null;
}

export class MeasureSetDto implements MeasureSet {
  @ApiProperty() atMs: number;
  @ApiProperty() operation: string;
  @ApiProperty({ type: [Number] }) valuesMm: number[];
}

export class OverrideDto implements Override {
  @ApiProperty() atMs: number;
  @ApiProperty() by: string;
  @ApiProperty() operation: string;
  @ApiProperty() pieces: number;
  @ApiPropertyOptional({ type: [Number] }) positions?: number[];
  @ApiProperty() reason: string;
  @ApiProperty() against: string;
}

export class CheckSetDto implements CheckSet {
  @ApiProperty() atMs: number;
  @ApiProperty() operation: string;
  @ApiProperty() check: string;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty({ type: [Number] }) values: number[];
  @ApiPropertyOptional() load?: string;
  @ApiProperty({ enum: ['typed', 'gauge', 'reckoned'] }) source: 'typed' | 'gauge' | 'reckoned';
}

export class MoveDto {
  @ApiProperty() atMs: number;
  @ApiProperty() by: string;
  @ApiProperty() from: string;
  @ApiProperty() to: string;
  @ApiProperty() reason: string;
}

export class BatchStateDto implements BatchState {
  @ApiProperty() code: string;
  @ApiProperty() kind: string;
  @ApiProperty() model: string;
  @ApiProperty() routeId: string;
  @ApiProperty() quantity: number;
  @ApiProperty() dueMs: number;
  @ApiProperty() openedMs: number;
  @ApiProperty() lastMs: number;
  @ApiProperty({ type: [PieceDto] }) pieces: PieceDto[];
  @ApiProperty({ type: [ReadingSetDto] }) readings: ReadingSetDto[];
  @ApiProperty({ type: [CoatDto] }) coats: CoatDto[];
  @ApiProperty({ type: [MeasureSetDto] }) measures: MeasureSetDto[];
  @ApiProperty({ type: [OverrideDto] }) overrides: OverrideDto[];
  /** Ways chosen where the route forks. */
  @ApiPropertyOptional({ type: 'object', additionalProperties: { type: 'string' } })
  ways?: Record<string, string>;
  @ApiPropertyOptional({ type: [CheckSetDto] }) checks?: CheckSetDto[];
  /** The batch it was told to meet at its join. */
  @ApiPropertyOptional() meets?: string;
  @ApiPropertyOptional({ type: [MoveDto] }) moves?: MoveDto[];
}

export class RouteDto {
  @ApiProperty() id: string;
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() revision: number;
  /** Operations as the core defines them (docs/formats/route.md). */
  @ApiProperty({ type: 'array', items: { type: 'object', additionalProperties: true } })
  operations: Operation[];
}

export class HoldDto {
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty({ enum: ['elapsed', 'moisture', 'cure', 'settle', 'ageing', 'called'] })
  rule: 'elapsed' | 'moisture' | 'cure' | 'settle' | 'ageing' | 'called';
  /** The word on the bar. */
  @ApiProperty() word: string;
  @ApiProperty() sinceMs: number;
  @ApiProperty({ type: [Number] }) positions: number[];
  @ApiProperty() over: boolean;
  @ApiProperty() sentence: string;
  /** 0…1. */
  @ApiProperty() progress: number;
  @ApiProperty({ type: Number, ...nullable }) endMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) lowMs: number | null;
  @ApiProperty({ type: Number, ...nullable }) highMs: number | null;
  /** Reference hours of cure reached; null where nothing cures. */
  @ApiProperty({ type: Number, ...nullable }) curedHours: number | null;
  /** Reference hours needed, with the film as it is; null where nothing cures. */
  @ApiProperty({ type: Number, ...nullable }) neededHours: number | null;
}
