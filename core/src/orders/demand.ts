import type { Standing } from '../ledger/index.ts';
import type { Choices, Spec } from '../options/index.ts';
import { lineCode, wantedLines, type OrderState } from './order.ts';

/** A piece that is built for a line. */
export interface AllottedPiece {
  line: string;
  batch: string;
  kind: string;
  position: number;
  standing: Standing;
}

/** What a line still wants of one kind of part. */
export interface Wanted {
  line: string;
  order: string;
  model: string;
  kind: string;
  /** Pieces that no rack has yet. */
  count: number;
  dueMs: number;
  choices: Choices;
  spec: Spec;
}

/** By model, the kinds a rack of its orders is opened in, each with the kinds its pieces become: B → B, I. */
export type KindsOfModel = ReadonlyMap<string, ReadonlyMap<string, readonly string[]>>;

/**
 * What orders want that no rack has: of each kind, the line's quantity less its pieces that are of that kind, or of what that kind
 * becomes, and are not scrapped. A piece that was joined counts as what it became; one that was shipped is there.
 */
export function wantedOf(
  orders: readonly OrderState[],
  pieces: readonly AllottedPiece[],
  kinds: KindsOfModel,
): Wanted[] {
  const there = new Map<string, number>();
  for (const { line, kind, standing } of pieces) {
    if (standing === 'scrapped' || standing === 'joined' || standing === 'parted') continue;
    const id = `${line}|${kind}`;
    there.set(id, (there.get(id) ?? 0) + 1);
  }
  return orders.flatMap((order) =>
    wantedLines(order).flatMap(({ number, model, quantity, choices, spec }) => {
      const line = lineCode(order.code, number);
      return [...(kinds.get(model) ?? [])].flatMap(([kind, becomes]): Wanted[] => {
        const has = becomes.reduce((sum, one) => sum + (there.get(`${line}|${one}`) ?? 0), 0);
        if (has >= quantity) return [];
        const { code, dueMs } = order;
        return [{ line, order: code, model, kind, count: quantity - has, dueMs, choices, spec }];
      });
    }),
  );
}
