import { FILED_KINDS } from '@ample-crane/core';
import { applyDecorators } from '@nestjs/common';
import { ApiProperty } from '@nestjs/swagger';
import { AskedForms, complained } from '../http/asked-forms.ts';

/** So many entries in one filing. */
const MOST_ENTRIES = 20;
const FORMS = new AskedForms(FILED_KINDS);

/** 1 to 20 entries, each as its kind is asked for: what the kinds say of themselves is what is read, and what the document shows. */
export const IsFiledEntries = (): PropertyDecorator =>
  applyDecorators(
    ApiProperty({ type: 'array', minItems: 1, maxItems: MOST_ENTRIES, items: FORMS.schema }),
    complained(complaintsOf),
  );

function complaintsOf(entries: unknown): string[] {
  if (!Array.isArray(entries)) return ['entries must be an array'];
  if (entries.length < 1 || entries.length > MOST_ENTRIES)
    return [`entries must be 1 to ${MOST_ENTRIES}, not ${entries.length}`];
  return entries.flatMap((entry: unknown, i) => FORMS.complaints(entry, `entries.${i}`));
}
