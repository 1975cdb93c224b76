/** Answers are remembered of so many addresses, those asked last. */
const MOST_REMEMBERED = 20;

interface Remembered {
  etag: string;
  answer: Response;
}
const remembered = new Map<string, Remembered>();

/**
 * Asks by `ask`, naming what was answered last: a server whose answer is the same says so in a word (304), and what it said
 * before is given again. On a large floor a board goes over the air only when something on it changed.
 */
export async function unlessUnchanged(
  request: Request,
  ask: (request: Request) => Promise<Response>,
): Promise<Response> {
  const before = remembered.get(request.url);
  if (before) request.headers.set('if-none-match', before.etag);
  const answer = await ask(request);
  if (before && answer.status === 304) return before.answer.clone();
  const etag = answer.headers.get('etag');
  remembered.delete(request.url);
  if (answer.ok && etag !== null) remembered.set(request.url, { etag, answer: answer.clone() });
  for (const url of [...remembered.keys()].slice(0, -MOST_REMEMBERED)) remembered.delete(url);
  return answer;
}
