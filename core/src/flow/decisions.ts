import { count } from '../ledger/index.ts';
import type { Call, CallAction, CallItem, CallKind, SingleCall } from './call.ts';

/** How several of one kind and cause are told: `of` is the cause, `n` how many they are. */
const TOGETHER: Partial<Record<CallKind, (n: number, of: string) => string>> = {
  'hold-over': (n, of) => `${n} racks may leave ${of}`,
  'gate-failed': (n, of) => `${n} racks do not pass the moisture gate of ${of}`,
  late: (n, of) => `${n} racks at ${of} will be late`,
  meeting: (n, of) => `${n} racks will wait at ${of} for their partners`,
  missing: (n, of) => `${n} racks ${of}`,
  'outside-limits': (n) => `${n} racks have pieces outside limits`,
  'second-look': (n) => `${n} racks have settled and wait for a hand`,
  cutter: (n, of) => `${n} cutters at ${of} want changing`,
  kit: (n, of) => `${n} ${of}`,
  material: (n, of) => `${n} ${of}`,
  panel: (n) => `${n} test panels say that their racks are cured`,
};

/** The line of all at once, by kind; the others are decided one by one. */
const FOR_ALL: Partial<Record<CallKind, (n: number) => string>> = {
  'hold-over': (n) => `End all ${n} holds`,
  'gate-failed': (n) =>
    n === 1 ? 'End hold of those that pass' : `End hold of those that pass in ${n} racks`,
};

/**
 * Decisions instead of a list: calls of one kind and cause are one, which costs what they cost together and has each of them behind
 * it. Most costly first, ties by id. A decision keeps its id while racks come to it and go.
 */
export function decisions(calls: readonly SingleCall[]): Call[] {
  const byCause = new Map<string, SingleCall[]>();
  for (const call of calls) {
    const key = call.cause === null ? call.id : `${call.kind}:${call.cause}`;
    const known = byCause.get(key);
    if (known) known.push(call);
    else byCause.set(key, [call]);
  }
  return [...byCause].map(([id, of]) => decision(id, of.toSorted(costliest))).sort(costliest);
}

const costliest = (a: { cost: number; id: string }, b: { cost: number; id: string }): number =>
  b.cost - a.cost || a.id.localeCompare(b.id);

function decision(id: string, of: readonly SingleCall[]): Call {
  const [first] = of;
  if (!first) throw new Error(`the decision ${id} is about nothing`);
  const { cause, pieces: _pieces, ...call } = first;
  const title = TOGETHER[first.kind];
  if (of.length === 1 || cause === null || !title) return { ...call, id, items: [] };
  const items = of.map(itemOf);
  const all = of.reduce((sum, one) => sum + one.pieces, 0);
  return {
    ...call,
    id,
    title: title(of.length, cause),
    detail: `${all > 0 ? `${count(all, 'piece')}. ` : ''}Most costly: ${first.title}.`,
    cost: of.reduce((sum, { cost }) => sum + cost, 0),
    actions: actionsFor(of, first, items),
    items,
  };
}

const itemOf = ({ subject, title, detail, cost, actions, evidence }: SingleCall): CallItem => {
  const line = actions.find((action) => action.line !== undefined)?.line;
  return { subject, title, detail, cost, href: evidence, ...(line === undefined ? {} : { line }) };
};

/** What can be done for all; where nothing can, what the most costly one offers. */
function actionsFor(
  of: readonly SingleCall[],
  { kind, actions }: SingleCall,
  items: readonly CallItem[],
): CallAction[] {
  const lines = items.filter(({ line }) => line !== undefined).length;
  const label = FOR_ALL[kind];
  if (label && lines > 0) return [{ label: label(lines), each: true }];
  const look = actions.find(({ href }) => href !== undefined);
  if (!look) return [];
  const [first] = items;
  const named = !first || samePage(of) || look.label.includes(first.subject);
  return [named ? look : { ...look, label: `See ${first.subject}` }];
}

const samePage = (of: readonly SingleCall[]): boolean =>
  new Set(of.map(({ actions }) => actions.find(({ href }) => href !== undefined)?.href)).size === 1;
