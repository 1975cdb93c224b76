import { instantFromIso } from '@ample-crane/core';
import { applyDecorators } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { ValidateBy } from 'class-validator';
import { Optional } from './optional.ts';

/** What a clock that was never set says lies before, what a slip of the finger makes lies after. */
const EARLIEST_MS = Date.UTC(2000, 0, 1);
const LATEST_MS = Date.UTC(2100, 0, 1);

function isInstant(value: unknown): boolean {
  const ms = typeof value === 'string' ? instantFromIso(value) : null;
  return ms !== null && ms >= EARLIEST_MS && ms < LATEST_MS;
}

/** An instant in a request: ISO 8601 with its offset, a day that is in the calendar of this century. See `instantFromIso`. */
export function IsInstant({ optional = false } = {}): PropertyDecorator {
  return applyDecorators(
    ApiProperty({ format: 'date-time', required: !optional }),
    ...(optional ? [Optional()] : []),
    ValidateBy({
      name: 'isInstant',
      validator: {
        validate: isInstant,
        defaultMessage: (about) =>
          `${about?.property} must be a day and an hour with its offset, such as 2026-11-24T19:20:00Z; from 2000 to 2099`,
      },
    }),
  );
}

const DAY = /^\d{4}-\d{2}-\d{2}$/;

/** A day in a request, of the factory's calendar: 'YYYY-MM-DD', one that is in the calendar of this century. */
export function IsDay({ optional = false } = {}): PropertyDecorator {
  return applyDecorators(
    ApiProperty({ format: 'date', required: !optional }),
    ...(optional ? [Optional()] : []),
    ValidateBy({
      name: 'isDay',
      validator: {
        validate: (value) => typeof value === 'string' && DAY.test(value) && isInstant(`${value}T12:00:00Z`),
        defaultMessage: (about) => `${about?.property} must be a day such as 2026-11-24; from 2000 to 2099`,
      },
    }),
  );
}
