import type { LoggerService } from '@nestjs/common';
import { pino } from 'pino';
import { pinoHttp, type HttpLogger } from 'pino-http';
import roll from 'pino-roll';

/** A log file is followed by the next at this size; so many are kept. */
const FILE_SIZE = '20m';
const FILES_KEPT = 5;
/** Lines remembered while nothing can be written, bytes: of what comes after, a full disk takes nothing. */
const MOST_BUFFERED = 1_000_000;

interface Sink {
  write(line: string): unknown;
  flushSync(): void;
  on(event: 'error', hear: (error: Error) => void): unknown;
}

/**
 * Where the log goes: standard output, or LOG_FILE, one file after the other. It never holds the server up, and a disk that is
 * full stops the log, not the factory.
 */
class Destination {
  private sink: Sink | undefined;
  private early: string[] = [];

  constructor(file: string | undefined) {
    if (file === undefined) this.take(pino.destination({ dest: 1, sync: false, maxLength: MOST_BUFFERED }));
    else
      roll({
        ...{ file, size: FILE_SIZE, limit: { count: FILES_KEPT }, mkdir: true, sync: false },
        maxLength: MOST_BUFFERED,
      }).then(
        (sink: Sink) => this.take(sink),
        (error: Error) => process.stderr.write(`the log cannot be written to ${file}: ${error.message}\n`),
      );
    process.once('exit', () => this.flush());
  }

  write(line: string): void {
    if (this.sink) this.sink.write(line);
    else if (this.early.length < 10_000) this.early.push(line);
  }

  private take(sink: Sink): void {
    sink.on('error', () => undefined);
    this.sink = sink;
    for (const line of this.early) sink.write(line);
    this.early = [];
  }

  private flush(): void {
    try {
      this.sink?.flushSync();
    } catch {
      // It ends; what could not be written is lost.
    }
  }
}

/** One JSON line an event. */
export const floorLog = pino(
  { level: process.env.LOG_LEVEL ?? 'info', base: { pid: process.pid } },
  new Destination(process.env.LOG_FILE),
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
