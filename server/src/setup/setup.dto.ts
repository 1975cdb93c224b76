import { ApiProperty } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  IsBoolean,
  IsInt,
  IsIn,
  IsNumber,
  IsObject,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import {
  SKILL_DEGREES,
  type ChosenUnits,
  type FactoryCalendar,
  type Skilled,
  type SkillDegree,
} from '@ample-crane/core';
import { SETTINGS, type Setting } from './changes.service.ts';
import { FilingKeyDto } from '../http/filing-key.dto.ts';
import { IsDay } from '../http/instant.ts';
import { SettingDto } from './setting.dto.ts';
import type { ModelFinish, ModelWood } from './rows.ts';

/** What somebody reads and types lengths, films and temperatures in; what is kept is metric. */
export class UnitsDto {
  @ApiProperty({ enum: ['mm', 'in'] }) @IsIn(['mm', 'in']) length: ChosenUnits['length'];
  @ApiProperty({ enum: ['C', 'F'] }) @IsIn(['C', 'F']) temperature: ChosenUnits['temperature'];
}

export class PersonDto {
  @ApiProperty() code: string;
  @ApiProperty() name: string;
  @ApiProperty() role: string;
  /** What they can do, alone. */
  @ApiProperty({ type: [String] }) skills: string[];
  @ApiProperty({ type: [String] }) learning: string[];
  /** What of their skills they can teach. */
  @ApiProperty({ type: [String] }) teaches: string[];
  @ApiProperty({ type: UnitsDto }) units: UnitsDto;
}

export class OpenableDto {
  @ApiProperty() model: string;
  @ApiProperty() construction: string;
  @ApiProperty() description: string;
  /** Kind letters that can be opened by hand. */
  @ApiProperty({ type: [String] }) kinds: string[];
  /** What its wood must be, where somebody has said so: see ModelWood. */
  @ApiProperty({ type: Object, nullable: true }) wood: ModelWood | null;
  /** How its parts are finished, by kind letter: see ModelFinish. */
  @ApiProperty({ type: Object }) finish: Record<string, ModelFinish>;
}

export class SpeciesDto {
  @ApiProperty() @IsString() @Length(1, 60) name: string;
  @ApiProperty() @IsNumber() @Min(0.05) @Max(1.5) basicSpecificGravity: number;
  /** Total shrinkage green to oven-dry, %. */
  @ApiProperty() @IsNumber() @Min(0) @Max(30) radialShrinkagePct: number;
  @ApiProperty() @IsNumber() @Min(0) @Max(30) tangentialShrinkagePct: number;
  /** Papers stay with the lot. */
  @ApiProperty() @IsBoolean() papersNeeded: boolean;
}

export class SetSpeciesDto extends FilingKeyDto {
  @ApiProperty({ type: SpeciesDto })
  @ValidateNested()
  @Type(() => SpeciesDto)
  @IsObject()
  species: SpeciesDto;
}

/** A word the routes ask for: 'fret', 'burst'. */
const SKILL = /^[a-z][a-z0-9-]{0,39}$/;
const LONGEST_TRAINING_DAYS = 1_000;

export class SetSkillDto extends SettingDto {
  @ApiProperty({ pattern: SKILL.source }) @IsString() @Matches(SKILL) skill: string;
  @ApiProperty({ enum: SKILL_DEGREES }) @IsIn(SKILL_DEGREES) degree: SkillDegree;
}

export class SkilledDto implements Skilled {
  @ApiProperty({ type: [String] }) skills: string[];
  @ApiProperty({ type: [String] }) learning: string[];
  @ApiProperty({ type: [String] }) teaches: string[];
}

export class SetTrainingDto extends SettingDto {
  @ApiProperty({ pattern: SKILL.source }) @IsString() @Matches(SKILL) skill: string;
  /** Working days. */
  @ApiProperty({ type: 'integer', minimum: 1, maximum: LONGEST_TRAINING_DAYS })
  @IsInt()
  @Min(1)
  @Max(LONGEST_TRAINING_DAYS)
  trainingDays: number;
}

export class TrainingTimeDto {
  @ApiProperty() skill: string;
  @ApiProperty() trainingDays: number;
}

export class SetAwayDto extends SettingDto {
  @IsDay() fromDay: string;
  /** The last of them. */
  @IsDay() toDay: string;
  /** False: here again. */
  @ApiProperty() @IsBoolean() away: boolean;
}

/** Somebody changed what everything is judged by. */
export class ChangeDto {
  @ApiProperty() id: string;
  @ApiProperty() atMs: number;
  @ApiProperty() by: string;
  @ApiProperty({ enum: SETTINGS }) setting: Setting;
  /** Which room, species, machine, station or piece; empty where there is one only. */
  @ApiProperty() name: string;
  /** Null: it was not there. */
  @ApiProperty({ type: 'object', additionalProperties: true, nullable: true }) before: object | null;
  /** Null: it is gone. */
  @ApiProperty({ type: 'object', additionalProperties: true, nullable: true }) after: object | null;
}

export class KindDto {
  @ApiProperty() letter: string;
  @ApiProperty() name: string;
}

export class HourRatesDto {
  @ApiProperty() person: number;
  @ApiProperty() machine: number;
}

export class SetupDto {
  @ApiProperty({ type: [PersonDto] }) people: PersonDto[];
  @ApiProperty({ type: [OpenableDto] }) models: OpenableDto[];
  @ApiProperty({ type: [KindDto] }) kinds: KindDto[];
  @ApiProperty({ type: [SpeciesDto] }) species: SpeciesDto[];
  /** Names of the rooms whose air is logged. */
  @ApiProperty({ type: [String] }) rooms: string[];
  /** Shifts and closed days: see core's FactoryCalendar. */
  @ApiProperty({ type: Object }) calendar: FactoryCalendar;
  /** What an hour costs, in the factory's money. */
  @ApiProperty({ type: HourRatesDto }) hourRates: HourRatesDto;
}

export class ClockDto {
  @ApiProperty() nowMs: number;
}
