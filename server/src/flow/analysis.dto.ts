import {
  LEAD_PARTS,
  STAGES,
  type Lateness,
  type LeadParts,
  type Overtime,
  type Sign,
  type Stage,
  type Training,
  type WipAgainstCap,
} from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import { IsInt, IsOptional, IsString, Length, Max, Min } from 'class-validator';
import { IsDay } from '../http/instant.ts';
import type { ConstraintView, ConstraintWeek, ResourceView, ShareSpan } from './constraint.service.ts';
import type {
  CumulativeView,
  InHouseView,
  LeadLine,
  LeadStretch,
  LeadTimesView,
  LeadTimeView,
  StageTime,
} from './lead-times.service.ts';
import type { LogWholeView } from './log-whole.service.ts';
import type { EmptyPlace, PersonOfDay, RosteredPerson, RosteredWork, RosterView } from './roster.service.ts';
import type { SkilledView, SkillsView, TrainingTime } from './skills.service.ts';
import type {
  Counts,
  LoggedTime,
  RolledYield,
  UsedHours,
  WorkedOperation,
  WorkView,
} from './work-log.service.ts';

const nullable = { nullable: true } as const;
const spans = { type: 'array', items: { type: 'array', items: { type: 'number' } } } as const;

/** A window of working days before today. */
export class WindowQueryDto {
  @ApiProperty({ minimum: 1, maximum: 60, default: 20 })
  @IsOptional()
  @Type(() => Number)
  @IsInt()
  @Min(1)
  @Max(60)
  days: number = 20;
}

export class DayQueryDto extends WindowQueryDto {
  @IsDay() day: string;
}

export class LeadQueryDto extends WindowQueryDto {
  @ApiProperty({ required: false }) @IsOptional() @IsString() @Length(1, 60) model?: string;
}

export class SignLeadersDto implements Record<Sign, string | null> {
  @ApiProperty({ type: String, ...nullable }) load: string | null;
  @ApiProperty({ type: String, ...nullable }) active: string | null;
  @ApiProperty({ type: String, ...nullable }) queue: string | null;
}

export class ConstraintVerdictDto {
  /** Null: none is, or the signs do not say which. */
  @ApiProperty({ type: String, ...nullable }) code: string | null;
  @ApiProperty({ type: String, enum: ['station', 'skill'], ...nullable }) by: 'station' | 'skill' | null;
  @ApiProperty({ type: SignLeadersDto }) leaders: SignLeadersDto;
  /** Signs that name the one that leads. */
  @ApiProperty({ type: [String], enum: ['load', 'active', 'queue'] }) agree: Sign[];
  /** 0…1. */
  @ApiProperty() sureness: number;
  @ApiProperty({ type: String, ...nullable }) shiftingWith: string | null;
  @ApiProperty({ type: String, ...nullable }) next: string | null;
}

export class ResourceDto implements ResourceView {
  @ApiProperty() code: string;
  @ApiProperty({ enum: ['station', 'skill'] }) by: 'station' | 'skill';
  @ApiProperty() name: string;
  /** Where a station stands; null: a skill. */
  @ApiProperty({ type: String, enum: STAGES, ...nullable }) stage: Stage | null;
  /** Places, or people. */
  @ApiProperty() capacity: number;
  /** Skills its work needs; of a skill, the stations it is needed at. */
  @ApiProperty({ type: [String] }) goesWith: string[];
  @ApiProperty() loadShare: number;
  @ApiProperty() hoursOfferedADay: number;
  @ApiProperty() hoursADay: number;
  @ApiProperty() soleShare: number;
  @ApiProperty() shiftingShare: number;
  /** Shares of the window in which it could take no more. */
  @ApiProperty(spans) full: ShareSpan[];
  /** Those in which it paced. */
  @ApiProperty(spans) paced: ShareSpan[];
  @ApiProperty() queueDays: number;
  /** At the end of each day of the window. */
  @ApiProperty({ type: [Number] }) queue: number[];
  @ApiProperty({ type: Number, ...nullable }) oldestDays: number | null;
}

export class ConstraintWeekDto implements ConstraintWeek {
  @ApiProperty() fromMs: number;
  @ApiProperty() toMs: number;
  @ApiProperty({ type: String, ...nullable }) code: string | null;
  @ApiProperty({ type: String, enum: ['station', 'skill'], ...nullable }) by: 'station' | 'skill' | null;
  @ApiProperty({ type: String, ...nullable }) name: string | null;
  @ApiProperty() sureness: number;
}

export class HourWorthDto {
  /** Pieces a day that one more hour a day would bring. */
  @ApiProperty() pieces: number;
  /** More than that another would pace. */
  @ApiProperty({ type: Number, ...nullable }) upTo: number | null;
  @ApiProperty({ type: String, ...nullable }) next: string | null;
}

export class ConstraintPageDto implements ConstraintView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() fromMs: number;
  @ApiProperty() days: number;
  @ApiProperty({ type: ConstraintVerdictDto }) verdict: ConstraintVerdictDto;
  @ApiProperty({ type: [ResourceDto] }) rows: ResourceDto[];
  @ApiProperty({ type: [ConstraintWeekDto] }) weeks: ConstraintWeekDto[];
  @ApiProperty({ type: Number, ...nullable }) sinceMs: number | null;
  @ApiProperty({ type: HourWorthDto, ...nullable }) hourWorth: HourWorthDto | null;
  @ApiProperty({ type: [String] }) idle: string[];
}

/** Days that went where; see core's LeadPart. */
export class LeadPartsDto implements LeadParts {
  @ApiProperty() queue: number;
  @ApiProperty() touch: number;
  @ApiProperty() hold: number;
  @ApiProperty() partner: number;
  @ApiProperty() sendBack: number;
  @ApiProperty() closed: number;
}

export class LeadLineDto implements LeadLine {
  @ApiProperty() piece: string;
  @ApiProperty() batch: string;
  @ApiProperty() position: number;
  @ApiProperty() model: string;
  @ApiProperty({ type: String, ...nullable }) serial: string | null;
  @ApiProperty() leftMs: number;
  /** Days after its rack was due, before it negative; null: not known. */
  @ApiProperty({ type: Number, ...nullable }) lateDays: number | null;
  @ApiProperty() days: number;
  @ApiProperty({ type: LeadPartsDto }) parts: LeadPartsDto;
}

export class StageTimeDto implements StageTime {
  @ApiProperty({ enum: STAGES }) stage: Stage;
  @ApiProperty({ type: LeadPartsDto }) parts: LeadPartsDto;
}

export class CycleTimesDto {
  @ApiProperty() count: number;
  @ApiProperty() medianDays: number;
  @ApiProperty() p85Days: number;
  @ApiProperty() p95Days: number;
}

export class LatenessDto implements Lateness {
  @ApiProperty() inTime: number;
  @ApiProperty() count: number;
  /** Days after they were due, before it negative. */
  @ApiProperty() medianDays: number;
  @ApiProperty() p85Days: number;
}

export class LeadTimesDto implements LeadTimesView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() fromDay: string;
  @ApiProperty() toDay: string;
  @ApiProperty({ type: [String] }) models: string[];
  /** Instruments that left a working day, today not counted. */
  @ApiProperty() leftADay: number;
  @ApiProperty({ type: CycleTimesDto, ...nullable }) cycle: CycleTimesDto | null;
  @ApiProperty({ type: LatenessDto, ...nullable }) late: LatenessDto | null;
  @ApiProperty({ type: LeadPartsDto, description: LEAD_PARTS.join(', ') }) parts: LeadPartsDto;
  @ApiProperty({ type: [StageTimeDto] }) stages: StageTimeDto[];
  @ApiProperty({ type: [LeadLineDto] }) lines: LeadLineDto[];
  @ApiProperty() more: boolean;
}

export class WipAgainstCapDto implements WipAgainstCap {
  @ApiProperty() inHouse: number;
  @ApiProperty() leftADay: number;
  @ApiProperty({ type: Number, ...nullable }) leadDays: number | null;
  @ApiProperty({ type: Number, ...nullable }) cap: number | null;
}

export class CumulativeDto implements CumulativeView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [String] }) days: string[];
  /** For each day: come to each stage in order, and left. */
  @ApiProperty({ type: 'array', items: { type: 'array', items: { type: 'number' } } }) reached: number[][];
  @ApiProperty({ type: WipAgainstCapDto }) wip: WipAgainstCapDto;
  @ApiProperty({ type: Number, ...nullable }) wantedDays: number | null;
}

export class RackInStageDto {
  /** The rack its pieces are on now: an instrument's, where a body became one. */
  @ApiProperty() batch: string;
  @ApiProperty({ type: [Number] }) positions: number[];
  /** When the first of them came to the stage. */
  @ApiProperty() sinceMs: number;
}

export class StageOnDayDto {
  @ApiProperty({ enum: STAGES }) stage: Stage;
  @ApiProperty({ type: [RackInStageDto] }) racks: RackInStageDto[];
}

export class InHouseDto implements InHouseView {
  @ApiProperty() day: string;
  @ApiProperty() zone: string;
  @ApiProperty({ type: [StageOnDayDto] }) stages: StageOnDayDto[];
}

export class LeadStretchDto implements LeadStretch {
  @ApiProperty({ type: String, ...nullable }) batch: string | null;
  @ApiProperty() operationName: string;
  @ApiProperty({ type: String, enum: STAGES, ...nullable }) stage: Stage | null;
  @ApiProperty() fromMs: number;
  @ApiProperty() toMs: number;
  @ApiProperty({ type: LeadPartsDto }) parts: LeadPartsDto;
}

export class LeadTimeDto extends LeadLineDto implements LeadTimeView {
  @ApiProperty() zone: string;
  @ApiProperty({ type: [LeadStretchDto] }) stretches: LeadStretchDto[];
}

export class LittleDto {
  @ApiProperty({ enum: STAGES }) stage: Stage;
  @ApiProperty() wip: number;
  @ApiProperty() expected: number;
  @ApiProperty({ type: Number, ...nullable }) mismatch: number | null;
  @ApiProperty() fits: boolean;
  @ApiProperty() throughputADay: number;
  @ApiProperty() cycleDays: number;
}

export class OddAtDto {
  @ApiProperty() station: string;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty() count: number;
  @ApiProperty() of: number;
  @ApiProperty({ type: [String] }) batches: string[];
}

export class ForgottenDto {
  @ApiProperty() batch: string;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty({ enum: ['waiting', 'inHand'] }) status: 'waiting' | 'inHand';
  @ApiProperty() pieces: number;
  @ApiProperty() days: number;
}

export class FilingHabitDto {
  @ApiProperty() person: string;
  @ApiProperty() name: string;
  @ApiProperty() at: string;
  @ApiProperty() count: number;
  @ApiProperty() of: number;
}

export class LogWholeDto implements LogWholeView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() fromDay: string;
  @ApiProperty() toDay: string;
  @ApiProperty({ type: [LittleDto] }) little: LittleDto[];
  @ApiProperty({ type: [OddAtDto] }) missingStarts: OddAtDto[];
  @ApiProperty({ type: [OddAtDto] }) tooFast: OddAtDto[];
  @ApiProperty({ type: [ForgottenDto] }) forgotten: ForgottenDto[];
  @ApiProperty({ type: [FilingHabitDto] }) habits: FilingHabitDto[];
}

export class SkilledPersonDto implements SkilledView {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() role: string;
  @ApiProperty({ type: [String] }) skills: string[];
  @ApiProperty({ type: [String] }) learning: string[];
  @ApiProperty({ type: [String] }) teaches: string[];
  @ApiProperty() isAway: boolean;
}

export class SkillCoverDto {
  @ApiProperty() skill: string;
  @ApiProperty({ type: [String] }) people: string[];
  @ApiProperty() hoursADay: number;
  @ApiProperty() hoursThere: number;
  @ApiProperty({ type: Number, ...nullable }) share: number | null;
  @ApiProperty({ type: Number, ...nullable }) shareWithoutOne: number | null;
}

export class TrainingDto implements Training {
  @ApiProperty() skill: string;
  @ApiProperty() person: string;
  @ApiProperty() isLearning: boolean;
  @ApiProperty({ type: [String] }) teachers: string[];
  @ApiProperty() trainingDays: number;
  /** Beside what their own skills are wanted for. */
  @ApiProperty() hoursADay: number;
  @ApiProperty({ enum: ['paces', 'too-few', 'one-away'] }) why: 'paces' | 'too-few' | 'one-away';
  @ApiProperty({ type: Number, ...nullable }) piecesADay: number | null;
  @ApiProperty({ type: Number, ...nullable }) paysBackDays: number | null;
}

export class TrainingDaysDto implements TrainingTime {
  @ApiProperty() skill: string;
  /** Working days. */
  @ApiProperty() days: number;
  @ApiProperty() isUsual: boolean;
}

export class AwayDto {
  @ApiProperty() person: string;
  @ApiProperty() name: string;
  /** Factory day, 'YYYY-MM-DD'. */
  @ApiProperty() day: string;
}

export class LoggedTimeDto implements LoggedTime {
  /** What the minutes are of. */
  @ApiProperty({ enum: ['piece', 'load'] }) per: 'piece' | 'load';
  /** Coats flash while it is in hand. */
  @ApiProperty() flashes: boolean;
  /** Racks, or loads, that were measured. */
  @ApiProperty() samples: number;
  /** Racks whose start and end were filed together. */
  @ApiProperty() leftOut: number;
  @ApiProperty() routeMinutes: number;
  /** Of the log: median and quartiles, minutes. */
  @ApiProperty() median: number;
  @ApiProperty() low: number;
  @ApiProperty() high: number;
}

export class FirstPassDto implements Counts {
  @ApiProperty() pieces: number;
  @ApiProperty() good: number;
  @ApiProperty() sentBack: number;
  @ApiProperty() scrapped: number;
}

export class WorkedOperationDto implements WorkedOperation {
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() kindName: string;
  @ApiProperty() operation: string;
  @ApiProperty() operationName: string;
  @ApiProperty({ type: String, ...nullable }) station: string | null;
  @ApiProperty({ type: String, ...nullable }) stationName: string | null;
  /** Revision of the route it is held against. */
  @ApiProperty() revision: number;
  /** Null: nothing of it was measured. */
  @ApiProperty({ type: LoggedTimeDto, ...nullable }) time: LoggedTimeDto | null;
  /** What became of pieces that came to it the first time; null: none did. */
  @ApiProperty({ type: FirstPassDto, ...nullable }) first: FirstPassDto | null;
}

export class RolledYieldDto implements RolledYield {
  @ApiProperty() model: string;
  @ApiProperty() kind: string;
  @ApiProperty() kindName: string;
  @ApiProperty() rolledPct: number;
  /** Operation at which most is lost. */
  @ApiProperty() worst: string;
  @ApiProperty() worstPct: number;
}

export class UsedHoursDto implements UsedHours {
  @ApiProperty() code: string;
  @ApiProperty({ enum: ['station', 'skill'] }) by: 'station' | 'skill';
  @ApiProperty() name: string;
  @ApiProperty({ type: String, enum: STAGES, ...nullable }) stage: Stage | null;
  @ApiProperty() hoursThere: number;
  @ApiProperty() hoursBusy: number;
  /** By the route, of stations. */
  @ApiProperty() setUpHours: number;
}

export class WorkDto implements WorkView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() fromDay: string;
  @ApiProperty() toDay: string;
  @ApiProperty({ type: [WorkedOperationDto] }) operations: WorkedOperationDto[];
  @ApiProperty({ type: [RolledYieldDto] }) yields: RolledYieldDto[];
  @ApiProperty({ type: [UsedHoursDto] }) used: UsedHoursDto[];
}

export class SkillsDto implements SkillsView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() shiftHours: number;
  @ApiProperty({ type: [SkilledPersonDto] }) people: SkilledPersonDto[];
  @ApiProperty({ type: [SkillCoverDto] }) cover: SkillCoverDto[];
  @ApiProperty({ type: String, ...nullable }) paces: string | null;
  @ApiProperty({ type: [TrainingDto] }) trainings: TrainingDto[];
  @ApiProperty({ type: [TrainingDaysDto] }) training: TrainingDaysDto[];
  /** From today on. */
  @ApiProperty({ type: [AwayDto] }) away: AwayDto[];
}

export class RosteredPersonDto implements RosteredPerson {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() hours: number;
  @ApiProperty() isLent: boolean;
}

export class RosteredWorkDto implements RosteredWork {
  @ApiProperty() station: string;
  @ApiProperty() stationName: string;
  @ApiProperty({ type: String, ...nullable }) skill: string | null;
  @ApiProperty() wantedHours: number;
  @ApiProperty() comingHours: number;
  @ApiProperty() leftHours: number;
  @ApiProperty({ type: [RosteredPersonDto] }) people: RosteredPersonDto[];
}

export class PersonOfDayDto implements PersonOfDay {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() role: string;
  @ApiProperty() isAway: boolean;
  @ApiProperty({ type: String, ...nullable }) home: string | null;
  @ApiProperty({ type: Number, ...nullable }) freeHours: number | null;
  @ApiProperty({ type: [String] }) learning: string[];
}

export class EmptyPlaceDto implements EmptyPlace {
  @ApiProperty() station: string;
  @ApiProperty() stationName: string;
  @ApiProperty() hours: number;
}

export class EveningDto implements Overtime {
  @ApiProperty() date: string;
  @ApiProperty() start: string;
  @ApiProperty() end: string;
  /** Codes of those that work it. */
  @ApiPropertyOptional({ type: [String] }) stations?: string[];
}

export class RosterDto implements RosterView {
  @ApiProperty() nowMs: number;
  @ApiProperty() zone: string;
  @ApiProperty() day: string;
  @ApiProperty() isToday: boolean;
  @ApiProperty() hours: number;
  @ApiProperty({ type: [RosteredWorkDto] }) work: RosteredWorkDto[];
  @ApiProperty({ type: [PersonOfDayDto] }) people: PersonOfDayDto[];
  @ApiProperty({ type: [EmptyPlaceDto] }) empty: EmptyPlaceDto[];
  /** Today and the next working days. */
  @ApiProperty({ type: [String] }) days: string[];
  @ApiProperty({ type: String, ...nullable }) paces: string | null;
  @ApiProperty({ type: [EveningDto] }) evenings: EveningDto[];
}

export class RosterQueryDto {
  /** Left out: today. */
  @IsDay({ optional: true }) day?: string;
}
