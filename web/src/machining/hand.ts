import { loadsByHand, type LoadPlan, type LoadsQuestion, type PlannedLoad } from '@ample-crane/core';

/** A load as a person put it: what it holds and where it stands. */
export type HandLoad = Pick<PlannedLoad, 'table' | 'program' | 'parts'>;

/** A load taken to a table and place of its order; the others close up. */
export function moved(
  loads: readonly HandLoad[],
  from: number,
  to: { table: string; place: number },
): HandLoad[] {
  const taken = loads[from];
  if (!taken) return [...loads];
  const rest = loads.filter((_, i) => i !== from);
  const own = rest.flatMap((load, i) => (load.table === to.table ? [i] : []));
  const at = own[to.place] ?? (own.at(-1) ?? rest.length - 1) + 1;
  return rest.toSpliced(at, 0, { ...taken, table: to.table });
}

/** Where a load stands among those of its table. */
export const placeOf = (loads: readonly HandLoad[], index: number): number =>
  loads.slice(0, index).filter((load) => load.table === loads[index]?.table).length;

/** Is every planned load still of pieces that wait? A load somebody started makes a hand-made plan old. */
export function stillTrue(loads: readonly HandLoad[], { waiting, tables }: LoadsQuestion): boolean {
  const planned = new Map<string, number>();
  for (const { parts } of loads)
    for (const { batch, pieces } of parts) planned.set(batch, (planned.get(batch) ?? 0) + pieces);
  return (
    waiting.length === planned.size &&
    waiting.every(({ batch, pieces }) => planned.get(batch) === pieces) &&
    loads.every(({ table, parts }) => {
      const places = tables.find(({ code }) => code === table)?.places ?? 0;
      return parts.reduce((sum, part) => sum + part.pieces, 0) <= places;
    })
  );
}

/** The plan to show: the hand-made one while it is still true, the proposed one otherwise. */
export function shownPlan(
  question: LoadsQuestion,
  proposed: LoadPlan,
  byHand: readonly HandLoad[] | null,
): { plan: LoadPlan; byHand: boolean } {
  if (!byHand || !stillTrue(byHand, question)) return { plan: proposed, byHand: false };
  return { plan: loadsByHand(question, byHand), byHand: true };
}
