/** What a filing is answered. */
export interface Answer {
  status: number;
  body: object;
}

const told = (body: unknown, status = 200): Response =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } });

/**
 * A server that tells what stands at these addresses and nothing else, and answers what is filed with one of the answers after the
 * other, the last one again and again. Gives what was filed, as it comes in.
 */
export function fakeServer<Filing extends object>(
  at: Readonly<Record<string, unknown>>,
  answers: readonly Answer[],
): Filing[] {
  const sent: Filing[] = [];
  jest.spyOn(globalThis, 'fetch').mockImplementation(async (input) => {
    const request = input as Request;
    const { pathname } = new URL(request.url);
    if (pathname in at) return told(at[pathname]);
    // What is asked while somebody types files nothing.
    if (pathname.endsWith('/preview') || request.method === 'GET') return told({}, 503);
    sent.push((await request.clone().json()) as Filing);
    const answer = answers[Math.min(sent.length, answers.length) - 1];
    return told(answer?.body, answer?.status ?? 500);
  });
  return sent;
}
