import createClient from 'openapi-fetch';
import { theOutbox } from '../outbox/browser.ts';
import { filingOf, noteAnswered } from '../outbox/filing-of.ts';
import { ANSWER_WITHIN_MS } from '../outbox/send.ts';
import { listening } from './listening.ts';
import type { components, paths } from './schema.generated.ts';
import { unlessUnchanged } from './unchanged.ts';

export type Schemas = components['schemas'];

/** The server, typed by its own OpenAPI document. What is filed goes by the outbox. */
export const server = createClient<paths>({ baseUrl: globalThis.location.origin, fetch: sent });

async function sent(request: Request): Promise<Response> {
  if (request.method === 'GET') {
    await listening();
    return unlessUnchanged(request, withinLimit);
  }
  const filing = await filingOf(request);
  const outbox = filing && (await theOutbox().catch(() => null));
  if (!filing || !outbox) return withinLimit(request);
  const answer = await outbox.file(filing);
  noteAnswered(answer.body);
  return new Response(JSON.stringify(answer.body), {
    status: answer.status,
    headers: { 'content-type': 'application/json' },
  });
}

/** Asked at once and once: reading, settings, and filings of a browser that keeps nothing. */
const withinLimit = (request: Request): Promise<Response> =>
  // Looked up at each call, so that it can be replaced.
  globalThis.fetch(
    new Request(request, {
      signal: AbortSignal.any([request.signal, AbortSignal.timeout(ANSWER_WITHIN_MS)]),
    }),
  );

/** What went wrong, in words for the floor; `away` when trying again later may help. */
export class ServerProblem extends Error {
  constructor(
    message: string,
    readonly away: boolean,
    readonly body: unknown,
    /** Of the answer; 0: there was none. */
    readonly status = 0,
  ) {
    super(message);
  }

  /** Whether nobody knows what came of it. */
  get unknown(): boolean {
    return this.status === 0 || this.status >= 500;
  }
}

function messageOf(body: unknown): string {
  if (typeof body === 'object' && body !== null) {
    if ('refused' in body && typeof body.refused === 'string') return body.refused;
    if ('message' in body && typeof body.message === 'string') return body.message;
  }
  return 'the server did not say what is wrong';
}

/** The data of an answer, or a ServerProblem. A server that cannot be reached counts as away. */
export async function answered<T>(
  request: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  let answer;
  try {
    answer = await request;
  } catch {
    throw new ServerProblem('the server cannot be reached: what came of it is not known yet', true, null);
  }
  if (answer.data !== undefined) return answer.data;
  const { status } = answer.response;
  throw new ServerProblem(
    messageOf(answer.error),
    status === 502 || status === 503 || status === 504,
    answer.error,
    status,
  );
}
