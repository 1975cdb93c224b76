import type { Operation, Route } from './route.ts';
import { followers } from './ways.ts';

export interface RouteChange {
  operation: string;
  name: string;
  change: 'added' | 'taken out' | 'changed' | 'moved';
  /** What changed, field by field; empty for the others. */
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
  const [old, now] = [from, to].map((operation) => Object.entries(operation) as [string, unknown][]);
  const values = (entries: [string, unknown][] = []): Map<string, unknown> =>
    new Map(entries.filter(([field]) => !IGNORED.has(field)));
  const [was, is] = [values(old), values(now)];
  return [...new Set([...was.keys(), ...is.keys()])].flatMap((field) => {
    const [a, b] = [said(was.get(field)), said(is.get(field))];
    return a === b ? [] : [{ field, from: a, to: b }];
  });
}

function said(value: unknown): string {
  if (value === undefined || value === null) return 'none';
  if (Array.isArray(value) && value.every((part) => typeof part === 'string'))
    return value.join(', ') || 'none';
  return typeof value === 'string' ? value : JSON.stringify(value);
}
