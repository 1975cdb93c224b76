import { createHash } from 'node:crypto';
import { refuse } from '@ample-crane/core';
import {
  Injectable,
  SetMetadata,
  type CallHandler,
  type ExecutionContext,
  type NestInterceptor,
} from '@nestjs/common';
import { Reflector } from '@nestjs/core';
import type { Request } from 'express';
import { from, lastValueFrom, type Observable } from 'rxjs';
import { DataSource } from 'typeorm';
import { RefusalException } from './answers.ts';

/** A request that is sent again comes within this time. */
const KEPT_DAYS = 30;

const KEY_OF_THE_LOG = 'keyOfTheLog';

/** On what files in the log and does nothing else: the log also knows keys that were used for something else. */
export const KeyOfTheLog = () => SetMetadata(KEY_OF_THE_LOG, true);

interface Keyed {
  key: string;
  fingerprint: string;
  /** The log looks after it. */
  ofTheLog: boolean;
}

/**
 * A request with a key is answered once: sent again, because its answer was lost or a button was pressed twice, it gets the
 * same answer and nothing more happens. What is filed in the log keeps its key there, within its own transaction; so it is
 * left to the log. What failed or was refused may be tried again.
 */
@Injectable()
export class OnceInterceptor implements NestInterceptor {
  /** By key: requests this server is answering. */
  private readonly underWay = new Map<string, Keyed & { answer: Promise<unknown> }>();

  private readonly reflector = new Reflector();

  constructor(private readonly source: DataSource) {}

  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const ofTheLog = this.reflector.get<boolean | undefined>(KEY_OF_THE_LOG, context.getHandler()) ?? false;
    const keyed = keyedOf(context.switchToHttp().getRequest<Request>(), ofTheLog);
    return keyed ? from(this.once(keyed, () => lastValueFrom(next.handle()))) : next.handle();
  }

  private async once(keyed: Keyed, handle: () => Promise<unknown>): Promise<unknown> {
    const other = this.underWay.get(keyed.key);
    if (other) {
      mustAgree(keyed, other);
      const answer = await other.answer;
      return isOfTheLog(answer) ? { ...answer, repeated: true } : answer;
    }
    const answer = this.answerOf(keyed, handle);
    this.underWay.set(keyed.key, { ...keyed, answer });
    try {
      return await answer;
    } finally {
      this.underWay.delete(keyed.key);
    }
  }

  private async answerOf(keyed: Keyed, handle: () => Promise<unknown>): Promise<unknown> {
    if (keyed.ofTheLog) return handle();
    const [before] = await this.source.query<{ fingerprint: string; answer: unknown }[]>(
      'SELECT fingerprint, answer FROM answered WHERE key = $1',
      [keyed.key],
    );
    if (before) {
      mustAgree(keyed, before);
      return before.answer;
    }
    const answer = await handle();
    if (!isOfTheLog(answer))
      await this.source.query(
        `WITH old AS (DELETE FROM answered WHERE answered_at < now() - interval '${KEPT_DAYS} days')
         INSERT INTO answered (key, fingerprint, answer, answered_at) VALUES ($1, $2, $3, now()) ON CONFLICT DO NOTHING`,
        [keyed.key, keyed.fingerprint, JSON.stringify(answer)],
      );
    return answer;
  }
}

/** What is asked, without what only says when and from where it was asked; undefined: it has no key. */
function keyedOf({ method, path, body, query }: Request, ofTheLog: boolean): Keyed | undefined {
  if (method === 'GET') return undefined;
  const {
    key,
    touchedAt: _touchedAt,
    seen: _seen,
    ...asked
  } = { ...query, ...(body as object | undefined) } as Record<string, unknown>;
  if (typeof key !== 'string') return undefined;
  const fingerprint = createHash('sha256')
    .update(JSON.stringify([path, asked]))
    .digest('hex');
  return { key, fingerprint, ofTheLog };
}

function mustAgree(keyed: Keyed, other: { fingerprint: string }): void {
  if (keyed.fingerprint !== other.fingerprint)
    throw new RefusalException(refuse('key-used', 'this key was used before to file something else'));
}

/** What is filed says itself whether it was repeated. */
const isOfTheLog = (answer: unknown): answer is { repeated: boolean } =>
  typeof answer === 'object' && answer !== null && 'repeated' in answer;
