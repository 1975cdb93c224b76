import type { FactoryCalendar, Overtime, Shift, WallSpan } from '@ample-crane/core';
import { ApiProperty, ApiPropertyOptional } from '@nestjs/swagger';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsInt,
  IsString,
  Length,
  Matches,
  Max,
  Min,
  ValidateNested,
} from 'class-validator';
import { IsDay } from '../http/instant.ts';
import { Optional } from '../http/optional.ts';
import { SettingDto } from '../setup/setting.dto.ts';

const CLOCK = /^([01]\d|2[0-3]):[0-5]\d$/;
const CLOCK_WORDS = { message: '$property must be a time of day such as 06:00' };

export class WallSpanDto implements WallSpan {
  /** Clock on the wall, 'HH:mm'. */
  @ApiProperty({ pattern: CLOCK.source }) @IsString() @Matches(CLOCK, CLOCK_WORDS) start: string;
  /** At or before the start: on the next day. */
  @ApiProperty({ pattern: CLOCK.source }) @IsString() @Matches(CLOCK, CLOCK_WORDS) end: string;
}

export class WeeklyShiftDto extends WallSpanDto implements Shift {
  @ApiProperty({ minLength: 1, maxLength: 40 }) @IsString() @Length(1, 40) name: string;
  /** Days of the week on which it starts: 1 Monday … 7 Sunday. */
  @ApiProperty({ type: 'array', items: { type: 'integer', minimum: 1, maximum: 7 } })
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(7)
  @IsInt({ each: true })
  @Min(1, { each: true })
  @Max(7, { each: true })
  weekdays: number[];
  @ApiProperty({ type: [WallSpanDto] })
  @IsArray()
  @ArrayMaxSize(10)
  @ValidateNested({ each: true })
  @Type(() => WallSpanDto)
  breaks: WallSpanDto[];
}

export class SetClosedDto extends SettingDto {
  @IsDay() fromDay: string;
  /** The last of them. */
  @IsDay() toDay: string;
  /** False: worked again. */
  @ApiProperty() @IsBoolean() closed: boolean;
}

export class SetOvertimeDto extends SettingDto implements Overtime {
  @IsDay() date: string;
  @ApiProperty({ pattern: CLOCK.source }) @IsString() @Matches(CLOCK, CLOCK_WORDS) start: string;
  @ApiProperty({ pattern: CLOCK.source }) @IsString() @Matches(CLOCK, CLOCK_WORDS) end: string;
  /** Codes of the stations that work it; left out: the whole house. */
  @ApiPropertyOptional({ type: [String] })
  @Optional()
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(60)
  @IsString({ each: true })
  stations?: string[];
  /** False: not worked after all. */
  @ApiProperty() @IsBoolean() worked: boolean;
}

export class SetShiftsDto extends SettingDto {
  /** The first day of these shifts; those before it stay as they were. */
  @IsDay() fromDay: string;
  /** All of them: a shift that is left out is worked no more from that day on. */
  @ApiProperty({ type: [WeeklyShiftDto] })
  @IsArray()
  @ArrayMaxSize(20)
  @ValidateNested({ each: true })
  @Type(() => WeeklyShiftDto)
  shifts: WeeklyShiftDto[];
}

export class CalendarDto {
  /** Shifts, closed days and overtime: see core's FactoryCalendar. */
  @ApiProperty({ type: Object }) calendar: FactoryCalendar;
}
