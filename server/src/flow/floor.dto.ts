import type { Constraint, RopeStage, StationLoad } from '@ample-crane/core';
import { ApiProperty } from '@nestjs/swagger';

const nullable = { nullable: true } as const;

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

export class ConstraintSignsDto implements NonNullable<Constraint['signs']> {
  /** It is named for those who can this; null: for itself. */
  @ApiProperty({ type: String, ...nullable }) skill: string | null;
  /** How many of the three signs name it. */
  @ApiProperty() agree: number;
  /** Working days of the log they were taken of. */
  @ApiProperty() days: number;
}

export class ConstraintDto implements Constraint {
  @ApiProperty() station: string;
  @ApiProperty({ type: StationLoadDto }) now: StationLoadDto;
  @ApiProperty() meanDays: number;
  @ApiProperty() daysOnTop: number;
  @ApiProperty() daysLookedAt: number;
  /** What it rests on; null: the three signs name none. */
  @ApiProperty({ type: ConstraintSignsDto, ...nullable }) signs: ConstraintSignsDto | null;
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
  /** It took others back: that is not taken back again. */
  @ApiProperty() correction: boolean;
}

/** An open rack by its name. */
export class RackNameDto {
  @ApiProperty() code: string;
  @ApiProperty() model: string;
  /** Its highest entry. */
  @ApiProperty() seq: number;
  @ApiProperty() routeId: string;
}

export class OperationNameDto {
  @ApiProperty() key: string;
  @ApiProperty() name: string;
}

export class OperationNamesDto {
  @ApiProperty() routeId: string;
  /** On all its ways. */
  @ApiProperty({ type: [OperationNameDto] }) operations: OperationNameDto[];
}

export class FloorDto {
  @ApiProperty() nowMs: number;
  @ApiProperty() factory: string;
  @ApiProperty() zone: string;
  @ApiProperty({ type: ShiftDto, ...nullable }) shift: ShiftDto | null;
  @ApiProperty() peopleIn: number;
  @ApiProperty() peopleAll: number;
  @ApiProperty({ type: [RopeStageDto] }) stages: RopeStageDto[];
  @ApiProperty({ type: ConstraintDto, ...nullable }) constraint: ConstraintDto | null;
  @ApiProperty({ type: [StationDto] }) stations: StationDto[];
  /** The open racks, in order of their codes. */
  @ApiProperty({ type: [RackNameDto] }) racks: RackNameDto[];
  /** Of the routes these racks work. */
  @ApiProperty({ type: [OperationNamesDto] }) operations: OperationNamesDto[];
  /** Codes of the lots of lumber that a line may name. */
  @ApiProperty({ type: [String] }) lots: string[];
  @ApiProperty({ type: LastFilingDto, ...nullable }) lastFiling: LastFilingDto | null;
}
