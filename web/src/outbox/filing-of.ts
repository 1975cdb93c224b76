import { factoryOffsetMs } from './clock.ts';
import type { Touched } from './store.ts';
import { wordsOf } from './words.ts';

const CODE = /\b([A-Z])-?(\d+)\b/gi;

let seqOf: (code: string) => number | undefined = () => undefined;

/** Says how the page finds the highest entry its person sees of a batch. */
export function lookUpSeenBy(look: (code: string) => number | undefined): void {
  seqOf = look;
}

/** Highest entry of each batch that an answer told this page of: the board comes a moment after it. */
const answered = new Map<string, number>();

/** What a filing was answered: its person has seen it from here on. */
export function noteAnswered(answer: unknown): void {
  const { entries } = (answer ?? {}) as { entries?: unknown };
  for (const entry of Array.isArray(entries) ? (entries as { batch?: unknown; seq?: unknown }[]) : [])
    if (typeof entry.batch === 'string' && typeof entry.seq === 'number')
      answered.set(entry.batch, Math.max(entry.seq, answered.get(entry.batch) ?? 0));
}

/** A request as a filing: one with a key and a person; null for everything else, which is not kept. */
export async function filingOf(request: Request): Promise<Touched | null> {
  if (request.method !== 'POST') return null;
  const body: unknown = await request
    .clone()
    .json()
    .catch(() => null);
  if (typeof body !== 'object' || body === null) return null;
  const { key, by } = body as { key?: unknown; by?: unknown };
  if (typeof key !== 'string' || typeof by !== 'string') return null;
  const path = new URL(request.url).pathname;
  const touched = body as Record<string, unknown>;
  return {
    ...{ key, by, path, body: touched, words: wordsOf(path, touched) },
    ...{ touchedMs: Date.now(), offsetMs: factoryOffsetMs(), seen: seenOf(path, touched) },
  };
}

function seenOf(path: string, { line, batch }: Record<string, unknown>): Record<string, number> {
  const named = [path, line, batch].filter((text) => typeof text === 'string').join(' ');
  const codes = [...named.matchAll(CODE)].map(
    ([, letter = '', number = '']) => `${letter.toUpperCase()}-${number}`,
  );
  return Object.fromEntries(
    codes.flatMap((code) => {
      const seq = Math.max(seqOf(code) ?? 0, answered.get(code) ?? 0);
      return seq === 0 ? [] : [[code, seq]];
    }),
  );
}
