import type { BatchState } from '../ledger/index.ts';
import type { HoldContext } from './rules.ts';

/** What a rule may look at for pieces on hold since one moment. */
export function holdContext(
  state: BatchState,
  group: { sinceMs: number; positions: number[] },
  atMs: number,
): HoldContext {
  const { sinceMs, positions } = group;
  const {
    readings,
    coats,
    measures,
    checks: checked,
    sheets,
    sandings = [],
    marks = [],
    ageing = [],
    rests = [],
    freed = [],
  } = state;
  // Field by field: asked of every rack at once, a spread before so many others is a hundred times as slow (Node 20).
  const context = {
    sinceMs,
    atMs,
    positions,
    readings,
    coats,
    measures,
    checked,
    sheets,
    sandings,
    marks,
    ageing,
    rests,
    freed,
  };
  return { climate: [], ...context };
}
