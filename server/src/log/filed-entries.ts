import { FILED_KINDS } from '@ample-crane/core';
import { applyDecorators } from '@nestjs/common';
import { ApiProperty, type OpenAPIObject } from '@nestjs/swagger';
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import { ValidateBy, type ValidationArguments } from 'class-validator';

type DocumentSchemas = NonNullable<NonNullable<OpenAPIObject['components']>['schemas']>;

/** So many entries in one filing. */
const MOST_ENTRIES = 20;
const ajv = new Ajv({ allErrors: true });

/** The kinds that can be filed, as JSON Schema: each a form of its own, told apart by its type. */
const FORMS = new Map(
  FILED_KINDS.map(({ type, asked }) => [
    type,
    {
      type: 'object',
      properties: { type: { type: 'string', enum: [type] }, ...asked.fields },
      required: ['type', ...asked.needs],
      additionalProperties: false,
    },
  ]),
);
const FITS = new Map<unknown, ValidateFunction>([...FORMS].map(([type, form]) => [type, ajv.compile(form)]));

/** 1 to 20 entries, each as its kind is asked for: what the kinds say of themselves is what is read, and what the document shows. */
export function IsFiledEntries(): PropertyDecorator {
  return applyDecorators(
    ApiProperty({
      type: 'array',
      minItems: 1,
      maxItems: MOST_ENTRIES,
      items: { oneOf: [...FORMS.values()] as DocumentSchemas[string][] },
    }),
    ValidateBy({
      name: 'isFiledEntries',
      validator: {
        validate: (entries) => complaintsOf(entries).length === 0,
        defaultMessage: ({ value }: ValidationArguments) => complaintsOf(value).join('; '),
      },
    }),
  );
}

function complaintsOf(entries: unknown): string[] {
  if (!Array.isArray(entries)) return ['entries must be an array'];
  if (entries.length < 1 || entries.length > MOST_ENTRIES)
    return [`entries must be 1 to ${MOST_ENTRIES}, not ${entries.length}`];
  return entries.flatMap((entry: unknown, i) => {
    if (typeof entry !== 'object' || entry === null) return [`entries.${i} must be an object`];
    const { type } = entry as { type?: unknown };
    const fits = FITS.get(type);
    if (!fits)
      return [`entries.${i}.type must be one of the following values: ${[...FORMS.keys()].join(', ')}`];
    return fits(entry) ? [] : (fits.errors ?? []).map((error) => complaint(`entries.${i}`, error));
  });
}

function complaint(
  where: string,
  { instancePath, keyword, message = 'is wrong', params }: ErrorObject,
): string {
  const at = `${where}${instancePath.replaceAll('/', '.')}`;
  if (keyword === 'pattern') return `${at} must not hold control characters`;
  if (keyword === 'additionalProperties')
    return `${where} should not have '${String(params.additionalProperty)}'`;
  if (keyword === 'enum') return `${at} must be one of ${(params.allowedValues as unknown[]).join(', ')}`;
  return `${at} ${message}`;
}
