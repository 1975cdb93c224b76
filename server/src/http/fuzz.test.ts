import { describeApi } from '../app.ts';
import { Works } from '../testing/works.ts';

/** So many requests, the same in every run. */
const REQUESTS = 2000;
const SEED = 20261128;

interface Schema {
  $ref?: string;
  type?: string;
  enum?: unknown[];
  format?: string;
  items?: Schema;
  properties?: Record<string, Schema>;
  allOf?: Schema[];
  oneOf?: Schema[];
}
interface Operation {
  method: 'get' | 'post' | 'put' | 'delete';
  path: string;
  body: Schema | undefined;
  query: string[];
}

/** Mulberry32: small, seeded, the same everywhere. */
function stream(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
const chance = stream(SEED);
const one = <T>(from: readonly T[]): T => from[Math.floor(chance() * from.length)] as T;

const HOSTILE: readonly unknown[] = [
  ...[
    null,
    true,
    '',
    ' ',
    0,
    -1,
    1e-320,
    1e300,
    2 ** 53,
    -0.1,
    'null',
    'NaN',
    '\u0000',
    '\ud800',
    '‮',
    "'; DROP TABLE batch; --",
  ],
  ...[
    'x'.repeat(5000),
    '2026-W53-1',
    '2027-02-30T00:00:00Z',
    '-271821-04-20T00:00:00Z',
    [],
    {},
    [[]],
    { a: {} },
    Array(600).fill(1),
  ],
];
const KNOWN = [
  'B-200',
  'N-124',
  'I-190',
  'W-74',
  'ostrander',
  'venn',
  'Bowline',
  'B',
  'body-mill',
  'rest',
  'Wood room',
  'P-1',
  'L-1',
  'M-1',
];
const LINES = [
  'B-164 start',
  'B-164 read 7 7 7',
  'B-164 3 done at 02:30',
  'undo',
  'B-164 undo',
  'B-164/1-9999 hold x',
  'B-164 coat 1e9',
];

let works: Works;
beforeAll(async () => {
  works = await Works.open();
  for (const kind of ['B', 'N', 'B']) await works.openRack(kind, 6);
});
afterAll(() => works.close());

/** A value of a schema, now and then one that breaks it. */
function valueOf(schema: Schema | undefined, all: Record<string, Schema>, depth = 0): unknown {
  if (!schema || chance() < 0.06) return one(HOSTILE);
  if (schema.$ref) return valueOf(all[schema.$ref.split('/').at(-1) ?? ''], all, depth);
  if (schema.allOf) return valueOf(schema.allOf[0], all, depth);
  if (schema.oneOf) return valueOf(one(schema.oneOf), all, depth);
  if (schema.enum) return one(schema.enum);
  switch (schema.type) {
    case 'object':
      return Object.fromEntries(
        Object.entries(schema.properties ?? {})
          .filter(() => chance() < 0.9)
          .map(([name, inner]) => [name, depth > 6 ? null : (named(name) ?? valueOf(inner, all, depth + 1))]),
      );
    case 'array':
      return Array.from({ length: Math.floor(chance() * 4) }, () => valueOf(schema.items, all, depth + 1));
    case 'number':
    case 'integer':
      return one([0, 1, 2, 3, 7.1, 40, 95, 500, -3, 1e6]);
    case 'boolean':
      return chance() < 0.5;
    default:
      return schema.format === 'date-time'
        ? one(['2026-06-01T14:00:00Z', '2026-09-01T14:00:00Z', '2026-06-01'])
        : one([...KNOWN, 'dust']);
  }
}

/** What has its own meaning by its name. */
function named(name: string): unknown {
  if (chance() < 0.1) return undefined;
  if (name === 'key') return works.key();
  if (name === 'by') return one(['ostrander', 'venn', 'nobody']);
  if (name === 'line') return one(LINES);
  return undefined;
}

function operations(): { operations: Operation[]; schemas: Record<string, Schema> } {
  const document = describeApi(works.app);
  const found: Operation[] = [];
  for (const [path, item] of Object.entries(document.paths))
    for (const method of ['get', 'post', 'put', 'delete'] as const) {
      const operation = item[method];
      // The stream of news has no end to wait for.
      if (!operation || path === '/api/events') continue;
      const { content } = (operation.requestBody ?? {}) as { content?: Record<string, { schema?: Schema }> };
      const query = ((operation.parameters ?? []) as { name: string; in: string }[])
        .filter((parameter) => parameter.in === 'query')
        .map(({ name }) => name);
      found.push({ method, path, body: content?.['application/json']?.schema, query });
    }
  return { operations: found, schemas: (document.components?.schemas ?? {}) as Record<string, Schema> };
}

it(`answers ${REQUESTS} requests made from its own document, good and bad, and never fails or hangs (12.10)`, async () => {
  const { operations: all, schemas } = operations();
  expect(all.length).toBeGreaterThan(60);
  const failed: string[] = [];
  const answered = new Map<number, number>();
  for (let i = 0; i < REQUESTS; i += 1) {
    const { method, path, body, query } = one(all);
    const address = path.replaceAll(/\{(\w+)\}/g, () =>
      encodeURIComponent(String(chance() < 0.7 ? one(KNOWN) : JSON.stringify(one(HOSTILE))).slice(0, 300)),
    );
    const asked = new URLSearchParams(
      query.map((name) => [name, String(one([1, 5, -1, '', 'x', 1e9]))]),
    ).toString();
    const sent = body ? JSON.stringify(valueOf(body, schemas)) : undefined;
    const request = works.http[method](asked ? `${address}?${asked}` : address).timeout(20_000);
    const { status } =
      sent === undefined ? await request : await request.set('content-type', 'application/json').send(sent);
    answered.set(status, (answered.get(status) ?? 0) + 1);
    if (status >= 500) failed.push(`${status} ${method} ${address}?${asked} ${sent?.slice(0, 400)}`);
  }
  expect(failed).toEqual([]);
  // It must reach what it fuzzes: not everything is refused at the door.
  expect(answered.get(200) ?? 0).toBeGreaterThan(REQUESTS / 20);
  expect((await works.http.get('/api/ready')).status).toBe(200);
}, 900_000);
