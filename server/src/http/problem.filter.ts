import {
  Catch,
  HttpException,
  HttpStatus,
  Logger,
  type ArgumentsHost,
  type ExceptionFilter,
} from '@nestjs/common';
import type { ErrorRequestHandler, Response } from 'express';

/**
 * PostgreSQL and socket errors that mean the database is not answering (class 08, 53300, 57P01–57P03). A connection
 * lost between two steps of a transaction shows as a query runner that "was already released", or that knows of no
 * transaction any more when it is to commit.
 */
const AWAY = /^(08...|53300|57P0[123]|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/;
const AWAY_MESSAGE =
  /Connection terminated|was already released|timeout exceeded when trying to connect|not queryable|Driver not Connected|Transaction is not started/i;

export function databaseIsAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code, errors } = error as Error & { code?: string; errors?: unknown[] };
  return AWAY.test(code ?? '') || AWAY_MESSAGE.test(error.message) || (errors ?? []).some(databaseIsAway);
}

/** Every failure as one shape: what happened, and nothing of the inside of the program. */
@Catch()
export class ProblemFilter implements ExceptionFilter {
  private readonly logger = new Logger('http');

  catch(error: unknown, host: ArgumentsHost): void {
    const response = host.switchToHttp().getResponse<Response>();
    if (response.headersSent) return;
    if (error instanceof HttpException) {
      response.status(error.getStatus()).json(bodyOf(error));
    } else if (databaseIsAway(error)) {
      this.logger.warn(`the database is not answering: ${(error as Error).message}`);
      response
        .status(HttpStatus.SERVICE_UNAVAILABLE)
        .json({ message: 'the database is not answering; nothing was filed', details: [] });
    } else {
      this.logger.error(error);
      response
        .status(HttpStatus.INTERNAL_SERVER_ERROR)
        .json({ message: 'the server failed; nothing was filed', details: [] });
    }
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
