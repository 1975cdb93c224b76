import type { OpenAPIObject } from '@nestjs/swagger';
import { SHAPES } from './shapes.generated.ts';

export type Shapes = NonNullable<NonNullable<OpenAPIObject['components']>['schemas']>;
type Schema = Shapes[string];

/**
 * The document with everything closed that decorators leave open: a property that is only said to be an object, or a list of
 * them, is told by the type it is declared with. So the document, the client's types and the core's cannot differ.
 */
export function closed(document: OpenAPIObject): OpenAPIObject {
  const schemas: Shapes = { ...document.components?.schemas };
  for (const [name, schema] of Object.entries(schemas)) {
    const shape = SHAPES[name];
    if (!shape || !('properties' in shape) || !('properties' in schema)) continue;
    const properties = Object.fromEntries(
      Object.entries(schema.properties ?? {}).map(([key, property]) => [
        key,
        isOpen(property) ? (shape.properties?.[key] ?? property) : property,
      ]),
    );
    schemas[name] = { ...schema, properties };
  }
  for (let named = missing(schemas); named.length > 0; named = missing(schemas))
    for (const name of named) {
      const shape = SHAPES[name];
      if (!shape) throw new Error(`closed: no shape of ${name}; build anew`);
      schemas[name] = shape;
    }
  return { ...document, components: { ...document.components, schemas } };
}

/** Whether a schema says no more than that there is an object. */
export function isOpen(schema: Schema): boolean {
  if ('$ref' in schema || schema.allOf || schema.oneOf || schema.anyOf) return false;
  if (schema.type === 'array') return schema.items !== undefined && isOpen(schema.items);
  const { additionalProperties: more } = schema;
  return schema.type === 'object' && !schema.properties && (more === undefined || more === true);
}

/** Schemas that are spoken of and not there. */
function missing(schemas: Shapes): string[] {
  const named = JSON.stringify(schemas).matchAll(/"\$ref":"#\/components\/schemas\/(\w+)"/g);
  return [...new Set([...named].map(([, name = '']) => name))].filter((name) => !(name in schemas));
}
