import type { NextFunction, Request, Response } from 'express';

/** Requests of this server nest five deep. */
const DEEPEST = 20;
/** No quantity of a factory lies beyond; a column may not hold what does. */
const LARGEST = 1e15;
const NUL = '\u0000';

/** What of a request no part of the server should have to look at; null: nothing. */
export function strangeIn(body: unknown): string | null {
  const open: { value: unknown; depth: number }[] = [{ value: body, depth: 0 }];
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, depth } = next;
    if (typeof value === 'string' && value.includes(NUL)) return 'it holds a NUL character';
    if (typeof value === 'number' && Math.abs(value) > LARGEST)
      return `${value} is beyond every quantity here`;
    if (typeof value !== 'object' || value === null) continue;
    if (depth >= DEEPEST) return `it is nested more than ${DEEPEST} deep`;
    for (const [name, inner] of Object.entries(value)) {
      if (name.includes(NUL)) return 'it holds a NUL character';
      open.push({ value: inner, depth: depth + 1 });
    }
  }
  return null;
}

/** Refuses what is strange before anything looks at it: nesting that would exhaust the stack, NULs, endless numbers. */
export function plainBody(request: Request, response: Response, next: NextFunction): void {
  const wrong = strangeIn(request.body) ?? strangeAddress(request.originalUrl);
  if (wrong === null) return next();
  response
    .status(400)
    .json({ message: `the request cannot be read: ${wrong}; nothing was filed`, details: [] });
}

function strangeAddress(address: string): string | null {
  try {
    return decodeURIComponent(address.replaceAll('+', ' ')).includes(NUL)
      ? 'its address holds a NUL character'
      : null;
  } catch {
    return 'its address is written wrongly';
  }
}
