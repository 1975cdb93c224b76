import { type BodyOf, type Check, judgeCheck, operationOf, type PieceState } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import type { Rack } from '../log/facts.service.ts';
import { entriesInForce } from '../log/entries-in-force.ts';
import { racksWith } from '../floor/racks-with.ts';

/** Checks of a load, oldest first, without those taken back. */
export async function checksOfLoad(manager: EntityManager, load: string): Promise<BodyOf<'check'>[]> {
  const checks = await entriesInForce(manager, { type: 'check', says: { load: [load] } });
  return checks.map(({ body }) => body);
}

/** What of some checks stands against a load's first piece: one nobody made, or that failed when it was last made. */
export async function checksAgainst(
  manager: EntityManager,
  load: string,
  checks: readonly Check[],
): Promise<string | undefined> {
  const wanted = checks.filter((check) => check.firstPiece);
  if (wanted.length === 0) return undefined;
  const made = await checksOfLoad(manager, load);
  for (const check of wanted) {
    const last = made.findLast((body) => body.check === check.key);
    if (!last) return `the first piece of ${load} is not measured: ${check.name.toLowerCase()}`;
    const judgement = judgeCheck(check, last.values);
    if (!judgement.pass) return `the first piece of ${load} does not pass. ${judgement.sentence}`;
  }
  return undefined;
}

/**
 * What stands against pieces on tables being done, load by load: its first piece, or what is measured of each load. A load may
 * hold several batches; what is measured may be of any. Undefined when nothing does.
 *
 * @param meant the positions that are to be done, or how many; all in hand when left out
 */
export async function loadAgainst(
  manager: EntityManager,
  { state, route }: Rack,
  meant: { pieces?: readonly number[]; count?: number },
): Promise<string | undefined> {
  const lying = state.pieces.filter(
    ({ standing, load, position }) =>
      standing === 'inHand' && load && (meant.pieces?.includes(position) ?? true),
  );
  const loads = new Map<string, PieceState>();
  for (const piece of lying.slice(0, meant.pieces ? undefined : meant.count))
    if (piece.load && !loads.has(piece.load.code)) loads.set(piece.load.code, piece);
  for (const { load, operation } of loads.values()) {
    const against = load && (await oneLoad(manager, load, operationOf(route, operation).checks ?? []));
    if (against) return against;
  }
  return undefined;
}

async function oneLoad(
  manager: EntityManager,
  load: NonNullable<PieceState['load']>,
  checks: readonly Check[],
): Promise<string | undefined> {
  if (load.firstPiece) return checksAgainst(manager, load.code, checks);
  if (checks.length === 0) return undefined;
  const racks = await racksWith(manager, { load: { code: load.code } });
  const pieces = racks.flatMap((rack) =>
    rack.pieces.filter((piece) => piece.load?.code === load.code),
  ).length;
  const made = await checksOfLoad(manager, load.code);
  const missing = checks.flatMap(({ key, name, sample, every }) => {
    const known = made
      .filter(({ check }) => check === key)
      .reduce((sum, { values }) => sum + values.length, 0);
    const wanted = every ? pieces : Math.min(sample, pieces);
    return known < wanted ? [`${name.toLowerCase()} of ${known} of ${wanted}`] : [];
  });
  return missing.length > 0 ? `${load.code} is not measured yet: ${missing.join(', ')}` : undefined;
}

/** A check of pieces that are on a table belongs to their load, unless another is named; of several, to the first that lacks values. */
export function inItsLoad({ state, route }: Rack, body: BodyOf<'check'>): BodyOf<'check'> {
  if (body.load !== undefined) return body;
  const pieces = state.pieces.filter((piece) => !body.pieces || body.pieces.includes(piece.position));
  const loads = new Map<string, number>();
  for (const { load } of pieces) if (load) loads.set(load.code, (loads.get(load.code) ?? 0) + 1);
  const sample =
    route.operations.flatMap(({ checks }) => checks ?? []).find(({ key }) => key === body.check)?.sample ?? 1;
  const measured = (load: string): number =>
    (state.checks ?? [])
      .filter((set) => set.load === load && set.check === body.check)
      .reduce((sum, set) => sum + set.values.length, 0);
  const codes = [...loads.keys()];
  const load = codes.find((code) => measured(code) < Math.min(sample, loads.get(code) ?? 1)) ?? codes.at(-1);
  return load === undefined ? body : { ...body, load };
}
