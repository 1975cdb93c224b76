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
  const lanes = new Map<number, string[]>();
  for (const { key } of draft.operations) {
    const at = depth.get(key) ?? 0;
    lanes.set(at, [...(lanes.get(at) ?? []), key]);
  }
  const places = new Map<string, { x: number; y: number }>();
  let top = 0;
  const last = Math.max(0, ...lanes.keys());
  for (let from = 0; from <= last; from += columns) {
    let most = 1;
    for (let at = from; at < from + columns; at += 1) {
      const keys = lanes.get(at) ?? [];
      most = Math.max(most, keys.length);
      keys.forEach((key, lane) =>
        places.set(key, {
          x: (at - from) * (NODE.width + GAP.x),
          y: top + lane * (NODE.height + GAP.y),
        }),
      );
    }
    top += most * (NODE.height + GAP.y) + ROW_GAP;
  }
  return places;
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
