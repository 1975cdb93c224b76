import { followers, ROUTE_FORMAT, type Operation, type OperationMode, type Route } from '@ample-crane/core';

/** A route while it is drawn: every arrow is explicit. */
export interface Draft {
  model: string;
  kind: string;
  /** The revision it was drawn from; 0 for a first one. */
  from: number;
  operations: Operation[];
}

/** A draft of a route, with its arrows made explicit, so that adding an operation never moves another's. */
export const draftOf = (route: Route): Draft => ({
  model: route.model,
  kind: route.kind,
  from: route.revision,
  operations: route.operations.map((operation) => ({ ...operation, next: followers(route, operation) })),
});

type Unknown = Record<string, unknown>;
const isObject = (value: unknown): value is Unknown =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const areTexts = (...values: unknown[]): boolean => values.every((value) => typeof value === 'string');
/** A number that is being typed may be none yet, which is kept as null. */
const areNumbers = (...values: unknown[]): boolean =>
  values.every((value) => typeof value === 'number' || value === null);
const isListOf = (value: unknown, isOne: (one: unknown) => boolean): boolean =>
  Array.isArray(value) && value.every(isOne);
const isTimed = ({ setUpMinutes, pieceMinutes, skill }: Unknown): boolean =>
  areNumbers(setUpMinutes, pieceMinutes) && (skill === null || areTexts(skill));

/** What an operation of each mode has beside what all have. */
const OWN: Record<OperationMode, (operation: Unknown) => boolean> = {
  attended: isTimed,
  load: ({ places, setUpMinutes, cycleMinutes }) => areNumbers(places, setUpMinutes, cycleMinutes),
  hold: ({ rule, room }) => isObject(rule) && areTexts(rule['rule'], rule['word'], room),
  gate: (one) => isTimed(one) && isObject(one['gate']) && areTexts(one['gate']['kind']),
  join: (one) => isTimed(one) && areTexts(one['role'], one['partnerKind'], one['makesKind']),
  split: (one) => isTimed(one) && isListOf(one['makesKinds'], (kind) => areTexts(kind)),
  ship: isTimed,
};

/** Whether it can be drawn as an operation; whether it is a good one is said on the page. */
function isOperation(value: unknown): value is Operation {
  if (!isObject(value)) return false;
  const { key, name, mode, stations, next = [], needs = [], checks = [] } = value;
  return (
    areTexts(key, name) &&
    [stations, next, needs].every((texts) => isListOf(texts, (one) => areTexts(one))) &&
    isListOf(checks, (one) => isObject(one) && areTexts(one['key'], one['name'], one['unit'])) &&
    typeof mode === 'string' &&
    Object.hasOwn(OWN, mode) &&
    OWN[mode as OperationMode](value)
  );
}

/** What was kept of a draft of a route, where it is one that can be drawn; null: it is none, or of another revision. */
export function keptDraft(kept: unknown, { model, kind, revision }: Route): Draft | null {
  if (!isObject(kept) || kept['model'] !== model || kept['kind'] !== kind || kept['from'] !== revision)
    return null;
  const { operations } = kept;
  if (!Array.isArray(operations) || operations.length === 0 || !operations.every(isOperation)) return null;
  return { model, kind, from: revision, operations };
}

/** A draft as a route, for the rules that judge routes. */
export const routeOf = ({ model, kind, from, operations }: Draft): Route => ({
  id: `${model}-${kind}-${from + 1}`.toLowerCase(),
  model,
  kind,
  revision: from + 1,
  operations,
});

const changed = (draft: Draft, key: string, change: (operation: Operation) => Operation): Draft => ({
  ...draft,
  operations: draft.operations.map((operation) => (operation.key === key ? change(operation) : operation)),
});

export const withOperation = (draft: Draft, key: string, next: Operation): Draft =>
  changed(draft, key, () => next);

/** A key nobody has yet, from a name: 'Neck rest' → 'neck-rest', 'neck-rest-2'. */
export function freshKey(draft: Draft, name: string): string {
  const plain =
    name
      .toLowerCase()
      .replaceAll(/[^a-z0-9]+/g, '-')
      .replaceAll(/^-+|-+$/g, '')
      .slice(0, 50) || 'step';
  const taken = new Set(draft.operations.map(({ key }) => key));
  let key = plain;
  for (let i = 2; taken.has(key); i += 1) key = `${plain}-${i}`;
  return key;
}

/** A new operation after another: it takes over the arrows that went out there. */
export function added(draft: Draft, after: string, station: string): { draft: Draft; key: string } {
  const key = freshKey(draft, 'new step');
  const before = draft.operations.find((operation) => operation.key === after);
  const made: Operation = {
    key,
    name: 'New step',
    mode: 'attended',
    stations: [station],
    setUpMinutes: 10,
    pieceMinutes: 10,
    skill: null,
    coats: null,
    reworkTo: null,
    caution: null,
    next: before?.next ?? [],
  };
  const at = draft.operations.findIndex((operation) => operation.key === after);
  const operations = changed(draft, after, (operation) => ({ ...operation, next: [key] })).operations;
  return { key, draft: { ...draft, operations: operations.toSpliced(at + 1, 0, made) } };
}

/** Taken out: what led to it leads on to what followed it. */
export function removed(draft: Draft, key: string): Draft {
  const gone = draft.operations.find((operation) => operation.key === key);
  const onward = gone?.next ?? [];
  return {
    ...draft,
    operations: draft.operations
      .filter((operation) => operation.key !== key)
      .map((operation) => ({
        ...operation,
        reworkTo: operation.reworkTo === key ? null : operation.reworkTo,
        next: [...new Set((operation.next ?? []).flatMap((to) => (to === key ? onward : [to])))],
      })),
  };
}

export const connected = (draft: Draft, from: string, to: string): Draft =>
  changed(draft, from, (operation) => ({
    ...operation,
    next: [...new Set([...(operation.next ?? []), to])],
  }));

export const disconnected = (draft: Draft, from: string, to: string): Draft =>
  changed(draft, from, (operation) => ({
    ...operation,
    next: (operation.next ?? []).filter((key) => key !== to),
  }));

/** The same operation in another mode: what both have is kept, the rest begins with plain defaults. */
export function inMode(operation: Operation, mode: OperationMode, room: string): Operation {
  const { key, name, stations, reworkTo, caution, next, needs, checks, yieldPct, risk, costPerPiece } =
    operation;
  const common = { key, name, stations, reworkTo, caution };
  const told = Object.fromEntries(
    Object.entries({ next, needs, checks, yieldPct, risk, costPerPiece }).filter(
      ([, value]) => value !== undefined,
    ),
  );
  const timed = {
    setUpMinutes: 'setUpMinutes' in operation ? operation.setUpMinutes : 10,
    pieceMinutes: 'pieceMinutes' in operation ? operation.pieceMinutes : 10,
    skill: 'skill' in operation ? operation.skill : null,
  };
  const base = { ...common, ...told };
  switch (mode) {
    case 'attended':
      return { ...base, ...timed, mode, coats: null };
    case 'load':
      return {
        ...base,
        mode,
        places: 8,
        setUpMinutes: timed.setUpMinutes,
        cycleMinutes: 60,
        skill: timed.skill,
      };
    case 'hold':
      return { ...base, mode, room, rule: { rule: 'elapsed', word: 'rest', hours: 24 } };
    case 'gate':
      return { ...base, ...timed, mode, gate: { kind: 'inspection' } };
    case 'join':
      return { ...base, ...timed, mode, role: 'host', partnerKind: 'N', makesKind: 'I' };
    case 'split':
      return { ...base, ...timed, mode, makesKinds: ['T', 'K'] };
    case 'ship':
      return { ...base, ...timed, mode };
  }
}

/** A file's text as a draft of this model and kind, or what is wrong with it. Nothing drawn is lost either way. */
export function imported(text: string, draft: Draft): { draft: Draft } | { problem: string } {
  let file: unknown;
  try {
    file = JSON.parse(text);
  } catch {
    return { problem: 'the file is no JSON' };
  }
  const told = file as {
    format?: unknown;
    version?: unknown;
    model?: unknown;
    kind?: unknown;
    operations?: unknown;
  };
  if (typeof file !== 'object' || file === null || told.format !== ROUTE_FORMAT)
    return { problem: `the file is no route: its format is not '${ROUTE_FORMAT}'` };
  if (told.version !== 1)
    return { problem: `version ${String(told.version)} of the format is not known here` };
  if (!Array.isArray(told.operations) || told.operations.length === 0)
    return { problem: 'the file has no operations' };
  if (told.kind !== draft.kind)
    return { problem: `the file is a route of kind ${String(told.kind)}, this is kind ${draft.kind}` };
  const odd = told.operations.findIndex((one) => !isOperation(one));
  if (odd >= 0) return { problem: `operation ${odd + 1} of the file is none that can be drawn` };
  const route = { ...routeOf(draft), operations: told.operations as Operation[] };
  return { draft: { ...draftOf(route), from: draft.from } };
}

/** A draft as a file. */
export const exported = ({ model, kind, from, operations }: Draft): string =>
  JSON.stringify({ format: ROUTE_FORMAT, version: 1, model, kind, revision: from + 1, operations }, null, 2);
