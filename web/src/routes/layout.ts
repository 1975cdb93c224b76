import type { Draft } from './draft.ts';

export const NODE = { width: 158, height: 66 };
const GAP = { x: 34, y: 26 };
const ROW_GAP = 40;

/**
 * Where each operation is drawn: in columns by its longest way from the start, alternatives under each other, and folded into
 * rows like lines of text, so that a long route stays readable without scrolling sideways.
 */
export function layout(draft: Draft, columns: number): Map<string, { x: number; y: number }> {
  const depth = depths(draft);
  const lanes = lanesOf(draft, depth);
  const places = new Map<string, { x: number; y: number }>();
  let top = 0;
  const last = Math.max(0, ...depth.values());
  for (let from = 0; from <= last; from += columns) {
    const row = draft.operations.filter(({ key }) => {
      const at = depth.get(key) ?? 0;
      return at >= from && at < from + columns;
    });
    for (const { key } of row)
      places.set(key, {
        x: ((depth.get(key) ?? 0) - from) * (NODE.width + GAP.x),
        y: top + (lanes.get(key) ?? 0) * (NODE.height + GAP.y),
      });
    const most = 1 + Math.max(0, ...row.map(({ key }) => lanes.get(key) ?? 0));
    top += most * (NODE.height + GAP.y) + ROW_GAP;
  }
  return places;
}

/** A way keeps the lane it forked off into, and ends where it meets the others again: in the uppermost of their lanes. */
function lanesOf({ operations }: Draft, depth: ReadonlyMap<string, number>): Map<string, number> {
  const lanes = new Map<string, number>();
  const taken = new Set<string>();
  const inOrder = operations.toSorted((a, b) => (depth.get(a.key) ?? 0) - (depth.get(b.key) ?? 0));
  for (const { key } of inOrder) {
    const before = operations.filter(({ next }) => next?.includes(key));
    const wanted = before.map(
      (one) => (lanes.get(one.key) ?? 0) + (before.length > 1 ? 0 : (one.next ?? []).indexOf(key)),
    );
    const at = depth.get(key) ?? 0;
    let lane = wanted.length > 0 ? Math.min(...wanted) : 0;
    while (taken.has(`${at} ${lane}`)) lane += 1;
    taken.add(`${at} ${lane}`);
    lanes.set(key, lane);
  }
  return lanes;
}

/** Longest way from the first operation, in steps; a circle that is being drawn ends the counting. */
function depths({ operations }: Draft): Map<string, number> {
  const depth = new Map<string, number>();
  const most = operations.length;
  const first = operations[0]?.key;
  if (first !== undefined) depth.set(first, 0);
  for (let round = 0; round < most; round += 1) {
    let grew = false;
    for (const { key, next = [] } of operations) {
      const own = depth.get(key);
      if (own === undefined) continue;
      for (const to of next) {
        if ((depth.get(to) ?? -1) >= own + 1 || own + 1 > most) continue;
        depth.set(to, own + 1);
        grew = true;
      }
    }
    if (!grew) break;
  }
  // What is not reached is drawn after everything else, where it is seen.
  const end = Math.max(0, ...depth.values()) + 1;
  for (const { key } of operations) if (!depth.has(key)) depth.set(key, end);
  return depth;
}
