import { BadRequestException } from '@nestjs/common';
import { Ajv, type ErrorObject } from 'ajv';

const ajv = new Ajv({ allErrors: true, discriminator: true, allowUnionTypes: true });

/**
 * Reads files of one published format: gives the file back as what it is, or throws a BadRequestException that says what is
 * wrong and where. `name` is what it should be: 'route', 'recipe'.
 */
export function schemaReader<T>(schema: object, name: string): (file: unknown) => T {
  const fits = ajv.compile<T>(schema);
  return (file) => {
    if (fits(file)) return file;
    const [first, ...more] = worst(fits.errors ?? []);
    const others = more.length > 0 ? `, and ${more.length} more` : '';
    throw new BadRequestException(`it is no ${name} file: ${first ?? 'unreadable'}${others}`);
  };
}

/** The deepest complaints say most: 'every operation must match one of seven' says nothing. */
function worst(errors: readonly ErrorObject[]): string[] {
  const depth = ({ instancePath }: ErrorObject): number => instancePath.split('/').length;
  const telling = errors.filter(
    ({ keyword }) => keyword !== 'oneOf' && keyword !== 'anyOf' && keyword !== 'const',
  );
  const deepest = Math.max(0, ...telling.map(depth));
  const said = telling
    .filter((error) => depth(error) === deepest)
    .map(({ instancePath, message, params }) => {
      const extra = 'additionalProperty' in params ? ` '${String(params.additionalProperty)}'` : '';
      return `${instancePath || 'the file'} ${message ?? 'is wrong'}${extra}`;
    });
  return [...new Set(said)];
}
