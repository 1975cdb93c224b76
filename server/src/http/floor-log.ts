import type { LoggerService } from '@nestjs/common';
import { pino } from 'pino';
import { pinoHttp, type HttpLogger } from 'pino-http';

/** One JSON line an event, to standard output or to LOG_FILE. */
export const floorLog = pino(
  { level: process.env.LOG_LEVEL ?? 'info', base: { pid: process.pid } },
  pino.destination({ dest: process.env.LOG_FILE ?? 1, sync: true, mkdir: true }),
);

/** Nest's own messages in the same log. */
export class FloorLogger implements LoggerService {
  log(message: unknown, context?: string): void {
    floorLog.debug({ context }, String(message));
  }

  warn(message: unknown, context?: string): void {
    floorLog.warn({ context }, String(message));
  }

  error(message: unknown, stack?: string, context?: string): void {
    if (message instanceof Error) floorLog.error({ err: message, context });
    else floorLog.error({ context, stack }, String(message));
  }

  fatal(message: unknown, context?: string): void {
    floorLog.fatal({ context }, String(message));
  }
}

/** One line for each request that changed something or failed; reading is not worth a line. */
export const requestLog = (): HttpLogger =>
  pinoHttp({
    logger: floorLog,
    customLogLevel: (req, res) => (res.statusCode >= 500 ? 'error' : req.method === 'GET' ? 'debug' : 'info'),
    // The failure itself is logged where it is caught; its status says enough here.
    customErrorObject: (_req, _res, _error, line: { err?: unknown }) => ({ ...line, err: undefined }),
    serializers: {
      req: ({ method, url }: { method: string; url: string }) => ({ method, url }),
      res: ({ statusCode }: { statusCode: number }) => ({ statusCode }),
    },
  });
