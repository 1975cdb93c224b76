import type { ServerProblem } from '../api/client.ts';

/** What a server said, by the fields of a form it speaks of; `rest` is of none of them. */
export interface SaidOfFields {
  known: [field: string, message: string][];
  rest: string | null;
}

/**
 * A refusal may name the field it is about ('at'), and faults of what was sent begin with the path of theirs ('entries.0.wetUm must
 * …'): what belongs to a field of the form is said there, in the words that were sent.
 */
export function saidOfFields(problem: ServerProblem | null, fields: readonly string[]): SaidOfFields {
  if (!problem) return { known: [], rest: null };
  const { body, message } = problem;
  const at = textIn(body, 'at');
  if (at !== null && fields.includes(at)) return { known: [[at, message]], rest: null };
  const details = detailsOf(body);
  const said = details.length > 0 ? details : [message];
  const known = said.flatMap((detail): [string, string][] => {
    const [path = '', ...words] = detail.split(' ');
    const field = path.split('.').at(-1) ?? '';
    return fields.includes(field) ? [[field, words.join(' ')]] : [];
  });
  return { known, rest: known.length === said.length ? null : message };
}

function textIn(body: unknown, name: string): string | null {
  if (typeof body !== 'object' || body === null) return null;
  const value = (body as Record<string, unknown>)[name];
  return typeof value === 'string' ? value : null;
}

function detailsOf(body: unknown): string[] {
  if (typeof body !== 'object' || body === null || !('details' in body) || !Array.isArray(body.details))
    return [];
  return body.details.filter((one): one is string => typeof one === 'string');
}
