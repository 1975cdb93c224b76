import { AsyncLocalStorage } from 'node:async_hooks';
import { instantFromIso } from '@ample-crane/core';
import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import type { Request } from 'express';
import { Observable } from 'rxjs';

/** How far behind a filing may come and still be of now: slower than this no line is that works. */
const OF_NOW_MS = 10_000;

/** When the person touched, as far as that is told, and what had been filed on each batch as far as the person saw. */
export interface Touch {
  atMs: number | null;
  seen: ReadonlyMap<string, number>;
}

const touches = new AsyncLocalStorage<Touch>();

/** The touch behind the request that is being answered; undefined: it tells of none, or nothing is being answered. */
export const touchNow = (): Touch | undefined => touches.getStore();

/**
 * When what is being filed happened: when it was touched, if a browser kept it while the line was lost; otherwise now.
 * @param nowMs factory time.
 */
export function happenedMs(nowMs: number): number {
  const touchedMs = touchNow()?.atMs ?? nowMs;
  return touchedMs < nowMs - OF_NOW_MS ? touchedMs : nowMs;
}

/** Keeps what a filing says of its touch beside the request, for whoever needs it. */
@Injectable()
export class TouchInterceptor implements NestInterceptor {
  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const touch = touchOf(context.switchToHttp().getRequest<Request>().body);
    if (!touch) return next.handle();
    return new Observable((subscriber) => touches.run(touch, () => next.handle().subscribe(subscriber)));
  }
}

function touchOf(body: unknown): Touch | undefined {
  if (typeof body !== 'object' || body === null) return undefined;
  const { touchedAt, seen } = body as { touchedAt?: unknown; seen?: unknown };
  const atMs = typeof touchedAt === 'string' ? instantFromIso(touchedAt) : null;
  const pairs = Object.entries(typeof seen === 'object' && seen !== null ? seen : {});
  return {
    atMs,
    seen: new Map(pairs.flatMap(([code, seq]) => (Number.isSafeInteger(seq) ? [[code, Number(seq)]] : []))),
  };
}
