import { HttpException, HttpStatus, Injectable, type ExecutionContext } from '@nestjs/common';
import { ThrottlerGuard, type ThrottlerModuleOptions } from '@nestjs/throttler';
import type { Request } from 'express';

const MINUTE_MS = 60_000;
/** Fifty a second: no person and no page comes near it; a program that went mad does. */
const USUAL_A_MINUTE = 3000;

/** Requests a minute that one person may make from one address: REQUESTS_A_MINUTE, or the usual. */
export const throttling = (): ThrottlerModuleOptions => [
  { ttl: MINUTE_MS, limit: Number(process.env.REQUESTS_A_MINUTE ?? USUAL_A_MINUTE) },
];

/** Keeps one who asks without end from taking the server from all others. */
@Injectable()
export class FloorThrottler extends ThrottlerGuard {
  protected override getTracker(request: Request): Promise<string> {
    const { by } = (request.body ?? {}) as { by?: unknown };
    return Promise.resolve(`${request.ip ?? ''} ${typeof by === 'string' ? by : ''}`);
  }

  /** All requests count together, not each kind of its own. */
  protected override generateKey(_context: ExecutionContext, tracker: string): string {
    return tracker;
  }

  protected override throwThrottlingException(): Promise<void> {
    throw new HttpException(
      { message: 'too many requests from here within a minute; nothing was filed: try again', details: [] },
      HttpStatus.TOO_MANY_REQUESTS,
    );
  }
}
