import {
  Catch,
  HttpException,
  HttpStatus,
  Logger,
  type ArgumentsHost,
  type ExceptionFilter,
} from '@nestjs/common';
import type { ErrorRequestHandler, Response } from 'express';
import { failureOf, type Failure } from '../database/failure.ts';

const AGAIN = 'sent again with the same key, it is filed once';
/** How each is answered. That nothing was filed is said only where that is known. */
const ANSWERS: Record<Failure, { status: number; message: string }> = {
  'not reached': { status: 503, message: 'the database is not answering; nothing was filed' },
  lost: {
    status: 503,
    message: `the database stopped answering: whether this was filed is not known yet; ${AGAIN}`,
  },
  busy: { status: 503, message: 'somebody else is at work on the same; nothing was filed: try again' },
  'disk full': {
    status: 507,
    message: 'the disk of the database is full; nothing was filed. What is there can still be read',
  },
  'no such value': { status: 400, message: 'a value in the request cannot be kept; nothing was filed' },
  crossed: { status: 409, message: 'another request was there first; nothing was filed: look again' },
  fault: {
    status: 500,
    message: `the server failed: whether this was filed is not known yet; ${AGAIN}`,
  },
};
/** Seconds after which trying again makes sense. */
const TRY_AGAIN_S = 2;

/** Every failure as one shape: what happened, and nothing of the inside of the program. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('http');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) return;
    if (error instanceof HttpException) {
      response.status(error.getStatus()).json(bodyOf(error));
      return;
    }
    const failure = failureOf(error);
    const { status, message } = ANSWERS[failure];
    if (failure === 'fault') this.logger.error(error);
    else this.logger.warn(`${failure}: ${(error as Error).message}`);
    if (status === 503) response.setHeader('retry-after', TRY_AGAIN_S);
    response.status(status).json({ message, details: [] });
  }
}

/** What the body parser refuses (malformed JSON, a body too large) in the shape of every other failure. */
export const unreadableBody: ErrorRequestHandler = (
  error: Error & { status?: number },
  _request,
  response,
  _next,
) => {
  const reason = error.status === HttpStatus.PAYLOAD_TOO_LARGE ? 'it is larger than 1 MB' : error.message;
  response
    .status(error.status ?? HttpStatus.BAD_REQUEST)
    .json({ message: `the request cannot be read: ${reason}; nothing was filed`, details: [] });
};

/** Refusals and lines not understood keep their own shape; validation faults become a list. */
function bodyOf(error: HttpException): object {
  const body = error.getResponse();
  if (typeof body === 'string') return { message: body, details: [] };
  if ('refused' in body || 'start' in body || 'problems' in body) return body;
  const { message } = body as { message?: string | string[] };
  return Array.isArray(message)
    ? { message: message[0] ?? error.message, details: message }
    : { message: message ?? error.message, details: [] };
}
