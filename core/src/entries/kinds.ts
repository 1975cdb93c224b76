import { coat, colour, mark, refinish, sand } from '../coats/index.ts';
import { age, end } from '../holds/index.ts';
import { adjust, arrive, join, meet, pair, split } from '../joining/index.ts';
import { open, type AnyBody, type Entry as AnyEntry, type FiledKind, type Kind } from '../ledger/index.ts';
import { kit, kitBack } from '../kits/index.ts';
import { check, measure, sheet } from '../measuring/index.ts';
import { allot, confirm } from '../orders/index.ts';
import { accept } from './accept.ts';
import { done } from './done.ts';
import { hold } from './hold.ts';
import { place } from './place.ts';
import { read } from './read.ts';
import { reroute } from './reroute.ts';
import { rework } from './rework.ts';
import { scrap } from './scrap.ts';
import { serial } from './serial.ts';
import { ship } from './ship.ts';
import { start } from './start.ts';
import { undo } from './undo.ts';

/** Every kind of entry there is. A new one is a file in the room of its subject, and its name here. */
export const KINDS = [
  open,
  arrive,
  start,
  done,
  accept,
  scrap,
  rework,
  hold,
  end,
  read,
  coat,
  sand,
  mark,
  colour,
  age,
  refinish,
  measure,
  place,
  check,
  sheet,
  adjust,
  join,
  split,
  meet,
  pair,
  reroute,
  serial,
  allot,
  confirm,
  kit,
  kitBack,
  ship,
  undo,
] as const;

type Listed = (typeof KINDS)[number];
type BodyIn<K> = K extends Kind<infer Body> ? Body : never;
type AskedIn<K> = K extends { asked: { of?: infer Asked } } ? Exclude<Asked, undefined> : never;

export type EntryBody = BodyIn<Listed>;
export type EntryType = EntryBody['type'];
/** The body of the kinds of these types. */
export type BodyOf<Type extends EntryType> = Extract<EntryBody, { type: Type }>;
export type Entry = AnyEntry<EntryBody>;
/** What can be filed by itself, as it is asked for. */
export type AskedEntry = AskedIn<Listed>;

const BY_TYPE = new Map<string, Kind<AnyBody>>(KINDS.map((kind) => [kind.type, kind as Kind<AnyBody>]));

/** The kind of an entry. @throws for a type no kind has. */
export function kindOf({ type }: { type: string }): Kind<AnyBody> {
  const kind = BY_TYPE.get(type);
  if (!kind) throw new Error(`kindOf: there is no kind of entry '${type}'`);
  return kind;
}

/** The kinds that can be filed by themselves. */
export const FILED_KINDS: readonly FiledKind<AnyBody>[] = KINDS.flatMap((kind) =>
  'asked' in kind ? [kind as FiledKind<AnyBody>] : [],
);
