import type { Operation, Route } from './route.ts';
import { followers } from './ways.ts';

export interface RouteChange {
  operation: string;
  name: string;
  change: 'added' | 'taken out' | 'changed' | 'moved';
  /** What changed, field by field in words ('rule hours', 24 to 48); empty for the others. */
  fields: { field: string; from: string; to: string }[];
}

/** Fields compared apart, in the order they are told; the arrows are compared by what follows. */
const IGNORED = new Set(['key', 'next']);

/**
 * What changed from one revision of a route to another, operation by operation: in the order of the newer, what was taken
 * out at the end. An operation is the same while its key is.
 */
export function compareRoutes(from: Route, to: Route): RouteChange[] {
  const before = new Map(from.operations.map((operation) => [operation.key, operation]));
  const after = new Set(to.operations.map(({ key }) => key));
  const changes = to.operations.flatMap((operation): RouteChange[] => {
    const { key, name } = operation;
    const old = before.get(key);
    if (!old) return [{ operation: key, name, change: 'added', fields: [] }];
    const fields = changedFields(old, operation);
    if (fields.length > 0) return [{ operation: key, name, change: 'changed', fields }];
    const same = followers(from, old).join() === followers(to, operation).join();
    return same ? [] : [{ operation: key, name, change: 'moved', fields: [] }];
  });
  const gone = from.operations
    .filter(({ key }) => !after.has(key))
    .map(({ key, name }): RouteChange => ({ operation: key, name, change: 'taken out', fields: [] }));
  return [...changes, ...gone];
}

function changedFields(from: Operation, to: Operation): RouteChange['fields'] {
  const [was, is] = [from, to].map((operation) => {
    const told = Object.entries(operation).filter(([field]) => !IGNORED.has(field));
    return new Map(told.flatMap(([field, value]) => fieldsOf(value, [field])));
  }) as [Map<string, string>, Map<string, string>];
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((field) => {
    const [a = NONE, b = NONE] = [was.get(field), is.get(field)];
    return a === b ? [] : [{ field, from: a, to: b }];
  });
}

const NONE = 'none';

/** Every value within a field, by the words of its path: 'rule hours', 'checks pocket-width upper'. */
function fieldsOf(value: unknown, path: readonly string[]): [field: string, said: string][] {
  if (Array.isArray(value) && value.some((part) => typeof part === 'object'))
    return value.flatMap((part: { key?: string }, i) => fieldsOf(part, [...path, part.key ?? `${i + 1}`]));
  if (typeof value === 'object' && value !== null && !Array.isArray(value))
    return Object.entries(value).flatMap(([key, part]) =>
      // A part that is called like the whole says what kind of it that is.
      fieldsOf(part, key === path.at(-1) ? path : [...path, key]),
    );
  return [[path.map(inWords).join(' '), said(value)]];
}

/** 'setUpMinutes' is 'set up minutes'; keys of the factory's own stay as they are. */
const inWords = (name: string): string => name.replace(/[A-Z]/g, (capital) => ` ${capital.toLowerCase()}`);

function said(value: unknown): string {
  if (value === undefined || value === null) return NONE;
  if (Array.isArray(value)) return value.join(', ') || NONE;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'string' ? value : JSON.stringify(value);
}
