import { applyDecorators } from '@nestjs/common';
import { ApiProperty, type OpenAPIObject } from '@nestjs/swagger';
import { Ajv, type ErrorObject, type ValidateFunction } from 'ajv';
import { ValidateBy, type ValidationArguments } from 'class-validator';

type DocumentSchema = NonNullable<NonNullable<OpenAPIObject['components']>['schemas']>[string];

/** One kind of entry as it is asked for: JSON Schema (draft-07) of its fields besides `type`. */
interface AskedKind {
  type: string;
  asked: { fields: object; needs: readonly string[] };
}

const ajv = new Ajv({ allErrors: true });

/** The kinds of entry that may be asked: each a form of its own, told apart by its type. */
export class AskedForms {
  /** As the API's document shows it. */
  readonly schema: { oneOf: DocumentSchema[] };
  private readonly fits: ReadonlyMap<unknown, ValidateFunction>;

  constructor(kinds: readonly AskedKind[]) {
    const forms = kinds.map(({ type, asked }) => ({
      type: 'object',
      properties: { type: { type: 'string', enum: [type] }, ...asked.fields },
      required: ['type', ...asked.needs],
      additionalProperties: false,
    }));
    this.schema = { oneOf: forms };
    this.fits = new Map(kinds.map(({ type }, i) => [type, ajv.compile(forms[i] ?? {})]));
  }

  /** A field of a request that holds one of these forms, `where` in the request, with its complaints. */
  field(where: string): PropertyDecorator {
    return applyDecorators(
      ApiProperty(this.schema),
      complained((entry) => this.complaints(entry, where)),
    );
  }

  /** What is wrong with an entry, `where` in the request; none: it may be filed. */
  complaints(entry: unknown, where: string): string[] {
    if (typeof entry !== 'object' || entry === null) return [`${where} must be an object`];
    const { type } = entry as { type?: unknown };
    const fits = this.fits.get(type);
    if (!fits)
      return [`${where}.type must be one of the following values: ${[...this.fits.keys()].join(', ')}`];
    return fits(entry) ? [] : (fits.errors ?? []).map((error) => complaint(where, error));
  }
}

/** What is complained of is said as it is. */
export const complained = (complaints: (value: unknown) => string[]): PropertyDecorator =>
  ValidateBy({
    name: 'isAsked',
    validator: {
      validate: (value) => complaints(value).length === 0,
      defaultMessage: ({ value }: ValidationArguments) => complaints(value).join('; '),
    },
  });

function complaint(
  where: string,
  { instancePath, keyword, message = 'is wrong', params }: ErrorObject,
): string {
  const at = `${where}${instancePath.replaceAll('/', '.')}`;
  if (keyword === 'pattern' && String(params.pattern).includes('\\p{Cc}'))
    return `${at} must not hold control characters`;
  if (keyword === 'additionalProperties')
    return `${at} should not have '${String(params.additionalProperty)}'`;
  if (keyword === 'enum') return `${at} must be one of ${(params.allowedValues as unknown[]).join(', ')}`;
  return `${at} ${message}`;
}
