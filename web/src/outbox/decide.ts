import type { Kept, Touched } from './store.ts';

/** Filings whose reason goes with them as one field. */
const WITH_A_REASON = /^\/api\/(loads|loads\/[^/]+\/end|stock\/take|finish\/materials\/mixes)$/;

const touchedOf = ({
  order: _order,
  tries: _tries,
  late: _late,
  refused: _refused,
  ...touched
}: Kept): Touched => touched;

/** Whether a reason can make the rules accept it. */
export const takesReason = ({ path }: Kept): boolean =>
  path === '/api/log/line' || path === '/api/log' || WITH_A_REASON.test(path);

/** A refused filing once more, under a new key: of the moment it was touched, and with the reason, if one is given. */
export function anew(kept: Kept, key: string, reason: string): Touched {
  const { body, words, ...touched } = touchedOf(kept);
  const because = reason.trim();
  return {
    ...touched,
    key,
    words: because === '' ? words : `${words} because ${because}`,
    body: { ...body, ...(because === '' ? {} : reasoned(kept, because)), key },
  };
}

function reasoned({ path, body }: Kept, because: string): Record<string, unknown> {
  if (path === '/api/log/line') return { line: `${String(body.line)} because ${because}` };
  if (path === '/api/log')
    return { entries: (body.entries as object[]).map((entry) => ({ ...entry, because })) };
  return { because };
}

/** That its person gave it up: told to the server, so that it is not forgotten. */
export function givenUp(kept: Kept, key: string): Touched {
  const { body, words, by, touchedMs, offsetMs, refused } = kept;
  return {
    ...{ key, by, touchedMs, offsetMs, seen: {} },
    path: '/api/log/given-up',
    words: `given up: ${words}`,
    body: { key, by, words: words.slice(0, 500), request: body, why: (refused ?? 'dropped').slice(0, 500) },
  };
}
