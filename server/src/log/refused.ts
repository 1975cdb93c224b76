import type { Refusal } from '@ample-crane/core';

/** Leaves a transaction with a refusal: everything in it is undone. */
export class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.refused);
  }
}
