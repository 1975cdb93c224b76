import type {
  BatchState,
  Call,
  CallAction,
  CheckSet,
  Coat,
  Constraint,
  LoadMark,
  MeasureSet,
  Operation,
  Override,
  PieceState,
  ReadingSet,
  RopeStage,
  Standing,
  StationLoad,
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

export class BoardBatchDto {
  @ApiProperty() seq: number;
  @ApiProperty({ type: BatchStateDto }) state: BatchStateDto;
  @ApiProperty({ type: [HoldDto] }) holds: HoldDto[];
  /** The earliest it can leave its route, by the route alone. */
  @ApiProperty({ type: Number, ...nullable }) earliestMs: number | null;
}

export class StationDto implements StationLoad {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty({ enum: ['wood', 'machining', 'fitting', 'finishing', 'assembly'] })
  stage: 'wood' | 'machining' | 'fitting' | 'finishing' | 'assembly';
  @ApiProperty() parallel: number;
  @ApiProperty() room: string;
  @ApiProperty() note: string;
  @ApiProperty() station: string;
  @ApiProperty() hoursWaiting: number;
  @ApiProperty() hoursADay: number;
  @ApiProperty() days: number;
}

export class RopeStageDto implements RopeStage {
  @ApiProperty({ enum: ['wood', 'machining', 'fitting', 'finishing', 'assembly'] }) stage: RopeStage['stage'];
  @ApiProperty() racks: number;
  @ApiProperty() pieces: number;
  @ApiProperty() waiting: number;
  @ApiProperty() inHand: number;
  @ApiProperty() onHold: number;
}

export class StationLoadDto implements StationLoad {
  @ApiProperty() station: string;
  @ApiProperty() hoursWaiting: number;
  @ApiProperty() hoursADay: number;
  @ApiProperty() days: number;
}

export class ConstraintDto implements Constraint {
  @ApiProperty() station: string;
  @ApiProperty({ type: StationLoadDto }) now: StationLoadDto;
  @ApiProperty() meanDays: number;
  @ApiProperty() daysOnTop: number;
  @ApiProperty() daysLookedAt: number;
}

export class CallActionDto implements CallAction {
  @ApiProperty() label: string;
  @ApiPropertyOptional() line?: string;
  @ApiPropertyOptional() href?: string;
}

export class CallDto implements Call {
  @ApiProperty() id: string;
  @ApiProperty({
    enum: ['hold-over', 'gate-failed', 'late', 'dry-station', 'constraint', 'room-drift', 'sensor'],
  })
  kind: Call['kind'];
  @ApiProperty() title: string;
  @ApiProperty() detail: string;
  @ApiProperty() cost: number;
  @ApiProperty({ type: [CallActionDto] }) actions: CallActionDto[];
  @ApiProperty() evidence: string;
}

export class ShiftDto {
  @ApiProperty() name: string;
  @ApiProperty() endMs: number;
}

export class LastFilingDto {
  /** By which it is taken back. */
  @ApiProperty() key: string;
  /** The first batch or lot it touched. */
  @ApiProperty() batch: string;
  @ApiProperty() sentence: string;
  @ApiProperty() filedMs: number;
  @ApiProperty() by: string;
}

export class BoardDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() factory: string;
  @ApiProperty() zone: string;
  @ApiProperty({ type: ShiftDto, ...nullable }) shift: ShiftDto | null;
  @ApiProperty() peopleIn: number;
  @ApiProperty() peopleAll: number;
  @ApiProperty({ type: [RopeStageDto] }) stages: RopeStageDto[];
  @ApiProperty({ type: ConstraintDto, ...nullable }) constraint: ConstraintDto | null;
  @ApiProperty({ type: [StationDto] }) stations: StationDto[];
  @ApiProperty({ type: [BoardBatchDto] }) batches: BoardBatchDto[];
  @ApiProperty({ type: [RouteDto] }) routes: RouteDto[];
  /** Codes of the lots of lumber that a line may name. */
  @ApiProperty({ type: [String] }) lots: string[];
  @ApiProperty({ type: [CallDto] }) calls: CallDto[];
  @ApiProperty({ type: LastFilingDto, ...nullable }) lastFiling: LastFilingDto | null;
}

export class ThroughputRowDto {
  /** Factory day, 'YYYY-MM-DD'. */
  @ApiProperty() day: string;
  @ApiProperty() station: string;
  /** Good pieces that left the station that day, rework counted each time it leaves. */
  @ApiProperty() good: number;
  @ApiProperty() scrapped: number;
  @ApiProperty() reworked: number;
}

export class LoadDayDto {
  @ApiProperty() day: string;
  @ApiProperty() station: string;
  @ApiProperty() hoursWaiting: number;
  @ApiProperty() days: number;
}

export class FlowDto {
  @ApiProperty() fromDay: string;
  @ApiProperty() toDay: string;
  /** Working days in the window. */
  @ApiProperty({ type: [String] }) days: string[];
  @ApiProperty({ type: [StationDto] }) stations: StationDto[];
  @ApiProperty({ type: [ThroughputRowDto] }) throughput: ThroughputRowDto[];
  @ApiProperty({ type: [LoadDayDto] }) load: LoadDayDto[];
  @ApiProperty({ type: ConstraintDto, ...nullable }) constraint: ConstraintDto | null;
}
