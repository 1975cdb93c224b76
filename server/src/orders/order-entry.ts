import { ORDER_FORMS, ORDERED_LINES } from '@ample-crane/core';
import { applyDecorators } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { ValidateBy, type ValidationArguments } from 'class-validator';
import { AskedForms } from '../http/asked-forms.ts';

const FORMS = new AskedForms(ORDER_FORMS);
const PLACED = new AskedForms([
  { type: 'lines', asked: { fields: { lines: ORDERED_LINES }, needs: ['lines'] } },
]);
const [placed] = PLACED.schema.oneOf;
const linesSchema = placed && 'properties' in placed ? (placed.properties?.lines ?? {}) : {};

/** A decorator of what one of these forms fits, with its complaints. */
const fitting = (name: string, complaints: (value: unknown) => string[]): PropertyDecorator =>
  ValidateBy({
    name,
    validator: {
      validate: (value) => complaints(value).length === 0,
      defaultMessage: ({ value }: ValidationArguments) => complaints(value).join('; '),
    },
  });

/** One entry on an order, as its kind is asked for. */
export const IsOrderEntry = (): PropertyDecorator =>
  applyDecorators(
    ApiProperty(FORMS.schema),
    fitting('isOrderEntry', (entry) => FORMS.complaints(entry, 'entry')),
  );

/** The lines of a new order. */
export const IsOrderedLines = (): PropertyDecorator =>
  applyDecorators(
    ApiProperty(linesSchema as Parameters<typeof ApiProperty>[0]),
    fitting('isOrderedLines', (lines) => PLACED.complaints({ type: 'lines', lines }, 'order')),
  );
