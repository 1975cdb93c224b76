import {
  CALL_KINDS,
  type Call,
  type CallAction,
  type Constraint,
  type RopeStage,
  type StationLoad,
} from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { BatchStateDto, RouteDto, HoldDto } from '../routing/rack.dto.ts';

const nullable = { nullable: true } as const;

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
  @ApiProperty({ enum: CALL_KINDS }) kind: Call['kind'];
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
