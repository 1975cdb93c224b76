import { Controller, Sse, type MessageEvent } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { interval, map, merge, takeUntil, type Observable, last, endWith, ignoreElements } from 'rxjs';
import { LiveService } from './live.service.ts';

/** Often enough that no proxy takes the stream for dead. */
const HEARTBEAT_MS = 20_000;

@ApiTags('live')
@Controller('events')
export class LiveController {
  constructor(private readonly live: LiveService) {}

  /** Server-sent events: 'news' when batches changed, 'heartbeat' in between. */
  @Sse()
  events(): Observable<MessageEvent> {
    const ended = this.live.news.pipe(ignoreElements(), endWith(true), last());
    return merge(
      this.live.toBrowser().pipe(map((data): MessageEvent => ({ type: 'news', data }))),
      interval(HEARTBEAT_MS).pipe(map((): MessageEvent => ({ type: 'heartbeat', data: {} }))),
    ).pipe(takeUntil(ended));
  }
}
