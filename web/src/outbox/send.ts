import type { Answer } from './outbox.ts';
import type { Kept } from './store.ts';

/** Longer than this a tablet does not wait for one answer. */
export const ANSWER_WITHIN_MS = 15_000;
/** Statuses that are no judgement of what was filed: later the same may be accepted. */
const NOT_NOW = new Set([401, 403, 407, 408, 421, 425, 429]);

/** The moment of the touch in factory time; undefined: the factory's clock was never heard. */
export function touchedAt({ touchedMs, offsetMs }: Kept, offsetNowMs: number | null): string | undefined {
  const offset = offsetMs ?? offsetNowMs;
  return offset === null ? undefined : new Date(touchedMs + offset).toISOString();
}

/** Sends one filing. Whatever is not an answer of this server (no line, a gate that wants a password, a failure) is none. */
export async function send(
  kept: Kept,
  outside: { fetch: typeof fetch; offsetMs: number | null },
): Promise<Answer> {
  const at = touchedAt(kept, outside.offsetMs);
  const body = {
    ...kept.body,
    ...(at === undefined ? {} : { touchedAt: at }),
    ...(Object.keys(kept.seen).length === 0 ? {} : { seen: kept.seen }),
  };
  let response: Response;
  let told: unknown;
  try {
    response = await outside.fetch(
      new Request(new URL(kept.path, globalThis.location.origin), {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(ANSWER_WITHIN_MS),
      }),
    );
    told = await response.json();
  } catch {
    return { kind: 'away' };
  }
  const { status } = response;
  if (response.ok) return { kind: 'filed', status, body: told };
  const why = wordsOf(told);
  if (why === null || status < 400 || status >= 500 || NOT_NOW.has(status)) {
    const seconds = Number(response.headers.get('retry-after') ?? 0);
    return { kind: 'away', ...(seconds > 0 ? { afterMs: 1000 * seconds } : {}) };
  }
  return { kind: 'refused', status, body: told, why };
}

/** What this server says when it refuses; null: it was not this server. */
function wordsOf(told: unknown): string | null {
  if (typeof told !== 'object' || told === null) return null;
  if ('refused' in told && typeof told.refused === 'string') return told.refused;
  return 'message' in told && typeof told.message === 'string' ? told.message : null;
}
