/**
 * The schemas of what the server tells, made from the types its DTOs are declared with: server/src/http/shapes.generated.ts, which
 * closes what decorators cannot say (http/closed-document.ts). Part of the build, behind the core and before the server.
 */
import { readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';
import { createGenerator } from 'ts-json-schema-generator';

const root = new URL('..', import.meta.url).pathname;
const server = join(root, 'server');
const FILE = join(server, 'src/http/shapes.generated.ts');

/** DTOs that leave something open, and those made from them. */
const texts = readdirSync(join(server, 'src'), { recursive: true })
  .filter((file) => file.endsWith('.dto.ts'))
  .flatMap((file) => readFileSync(join(server, 'src', file), 'utf8').split(/^(?=export class )/m));
const named = (text) => /^export class (\w+)/.exec(text)?.[1] ?? [];
const open = texts
  .filter((text) => /\btype: (Object|\[Object\]|'object', additionalProperties: true)/.test(text))
  .flatMap(named);
const made = texts.filter((text) => open.includes(/^export class \w+ extends (\w+)/.exec(text)?.[1]));
const classes = [...new Set([...open, ...made.flatMap(named)])];

const generator = createGenerator({
  path: join(server, 'src/**/*.dto.ts'),
  tsconfig: join(server, 'tsconfig.json'),
  ...{ expose: 'export', jsDoc: 'none', additionalProperties: false, skipTypeCheck: true },
});
const definitions = Object.assign({}, ...classes.map((name) => generator.createSchema(name).definitions));

/** JSON Schema as OpenAPI 3.0 says it: no null, const or tuple. */
function told(schema) {
  if (Array.isArray(schema)) return schema.map(told);
  if (typeof schema !== 'object' || schema === null) return schema;
  const { $ref, const: only, type, anyOf, items, ...rest } = schema;
  if ($ref) return { $ref: $ref.replace('#/definitions/', '#/components/schemas/') };
  if (only !== undefined) return { type: typeof only, enum: [only] };
  if (anyOf) return eitherOf(anyOf);
  // Whatever is an object: what was set before and after, a file before it is read.
  if (type === 'object' && !rest.properties && !rest.additionalProperties)
    return { type, additionalProperties: true };
  const inner = Object.fromEntries(
    Object.entries(rest).map(([key, value]) => [
      key,
      key === 'properties'
        ? Object.fromEntries(Object.entries(value).map(([name, one]) => [name, told(one)]))
        : key === 'additionalProperties'
          ? told(value)
          : value,
    ]),
  );
  const types = [type].flat().filter((one) => one !== undefined && one !== 'null');
  if (types.length > 1) return eitherOf(type.map((one) => ({ ...rest, type: one })));
  return {
    ...(types.length === 1 ? { type: types[0] } : {}),
    ...inner,
    ...(items ? { items: Array.isArray(items) ? eitherOf(items) : told(items) } : {}),
    ...([type].flat().includes('null') ? { nullable: true } : {}),
  };
}

function eitherOf(forms) {
  const rest = [...new Map(forms.map((form) => [JSON.stringify(form), form])).values()].filter(
    ({ type }) => type !== 'null',
  );
  const nullable = forms.some(({ type }) => type === 'null') ? { nullable: true } : {};
  const [first] = rest.map(told);
  if (rest.length > 1) return { anyOf: rest.map(told), ...nullable };
  return first.$ref && nullable.nullable ? { allOf: [first], ...nullable } : { ...first, ...nullable };
}

const shapes = Object.fromEntries(
  Object.entries(definitions)
    .toSorted(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, schema]) => [name, told(schema)]),
);
const text = `import type { Shapes } from './closed-document.ts';

/** Made by scripts/shapes.mjs from the types of the DTOs. */
export const SHAPES: Shapes = ${JSON.stringify(shapes)};
`;
writeFileSync(FILE, await format(text, { ...(await resolveConfig(FILE)), filepath: FILE }));
console.log(`${Object.keys(shapes).length} shapes of ${classes.length} DTOs: ${FILE.slice(root.length)}`);
