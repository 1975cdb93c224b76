import { ORDER_FORMS, ORDERED_LINES } from '@ample-crane/core';
import { applyDecorators } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { AskedForms, complained } from '../http/asked-forms.ts';

const FORMS = new AskedForms(ORDER_FORMS);
const PLACED = new AskedForms([
  { type: 'lines', asked: { fields: { lines: ORDERED_LINES }, needs: ['lines'] } },
]);

/** One entry on an order, as its kind is asked for. */
export const IsOrderEntry = (): PropertyDecorator => FORMS.field('entry');

/** The lines of a new order. */
export const IsOrderedLines = (): PropertyDecorator =>
  applyDecorators(
    ApiProperty(ORDERED_LINES as Parameters<typeof ApiProperty>[0]),
    complained((lines) => PLACED.complaints({ type: 'lines', lines }, 'order')),
  );
