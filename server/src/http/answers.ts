import { isRefusal, type NotUnderstood, type Refusal } from '@ample-crane/core';
import { HttpException, HttpStatus } from '@nestjs/common';

/** A refusal of the log as an HTTP answer: 404 for a batch that is not there, 409 for all else. */
export class RefusalException extends HttpException {
  constructor(refusal: Refusal) {
    super({ ...refusal }, refusal.code === 'unknown-batch' ? HttpStatus.NOT_FOUND : HttpStatus.CONFLICT);
  }
}

export class NotUnderstoodException extends HttpException {
  constructor(trouble: NotUnderstood) {
    super({ ...trouble }, HttpStatus.UNPROCESSABLE_ENTITY);
  }
}

/** The outcome of a filing, or the refusal as an exception. */
export function answer<T extends object>(outcome: T | Refusal): T {
  if (isRefusal(outcome)) throw new RefusalException(outcome);
  return outcome;
}
