import createClient from 'openapi-fetch';
import type { components, paths } from './schema.generated.ts';

export type Schemas = components['schemas'];

/** The server, typed by its own OpenAPI document. */
export const server = createClient<paths>({
  baseUrl: globalThis.location.origin,
  // Looked up at each call, so that it can be replaced.
  fetch: (request) => globalThis.fetch(request),
});

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
    throw new ServerProblem('the server cannot be reached', true, null);
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
