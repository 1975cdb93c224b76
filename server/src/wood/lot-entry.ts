import { LOT_FORMS } from '@ample-crane/core';
import { applyDecorators } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { ValidateBy, type ValidationArguments } from 'class-validator';
import { AskedForms } from '../http/asked-forms.ts';

const FORMS = new AskedForms(LOT_FORMS);

/** One entry on a lot, as its kind is asked for. */
export function IsLotEntry(): PropertyDecorator {
  return applyDecorators(
    ApiProperty(FORMS.schema),
    ValidateBy({
      name: 'isLotEntry',
      validator: {
        validate: (entry) => FORMS.complaints(entry, 'entry').length === 0,
        defaultMessage: ({ value }: ValidationArguments) => FORMS.complaints(value, 'entry').join('; '),
      },
    }),
  );
}
