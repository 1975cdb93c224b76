import { operationOf, refuse, type EntryBody } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { lockBeds } from '../setup/beds.ts';
import type { Work } from './filing.ts';
import { Refused } from './refused.ts';

/** The table or press an entry puts pieces in. */
const bedOf = (body: EntryBody): string | undefined =>
  body.type === 'start' || body.type === 'place' || body.type === 'age' ? body.bed : undefined;

/** Beds that pieces came into: those named, and after a correction every one they lie in again. */
function bedsInQuestion({ steps, state }: Work): string[] {
  const corrected = steps.some((step) => step.body.type === 'undo');
  const lain = corrected ? (state?.pieces.flatMap((piece) => piece.bed ?? []) ?? []) : [];
  return [...lain, ...steps.flatMap((step) => bedOf(step.body) ?? [])];
}

/**
 * Only the whole factory knows how full a table or press is: every bed the entries named is locked, and what lies in it,
 * with these batches as they have become, must not be more than its places. @throws Refused when it is.
 */
export async function checkBeds(manager: EntityManager, works: readonly Work[]): Promise<void> {
  const codes = works.flatMap(bedsInQuestion);
  const beds = codes.length === 0 ? [] : await lockBeds(manager, { codes });
  for (const code of [...new Set(codes)].sort()) {
    const bed = beds.find((one) => one.code === code);
    if (!bed) throw new Refused(refuse('bad-value', `there is no table or press '${code}'`));
    for (const work of works) belongs(work, code, bed);
    await mustBeOneLoad(manager, works, code, bed.name);
    const others = await manager.query<{ n: number }[]>(
      `SELECT count(*)::int AS n FROM batch b, jsonb_array_elements(b.state -> 'pieces') p
        WHERE NOT b.closed AND b.state -> 'pieces' @> $1::jsonb AND p ->> 'bed' = $2 AND b.code <> ALL($3)`,
      [JSON.stringify([{ bed: code }]), code, works.map((work) => work.code)],
    );
    const own = works.flatMap(
      (work) => work.state?.pieces.filter((piece) => piece.bed === code) ?? [],
    ).length;
    const lying = (others[0]?.n ?? 0) + own;
    if (lying > bed.places) {
      const came = works.flatMap((work) =>
        work.steps.flatMap((step) => (bedOf(step.body) === code ? step.effect.positions : [])),
      ).length;
      const free = Math.max(0, bed.places - lying + came);
      const words =
        came > 0
          ? `${bed.name} has ${free} of ${bed.places} places free, ${came} do not fit`
          : `${bed.name} has been filled since: ${lying} would lie in its ${bed.places} places`;
      throw new Refused(refuse('over-places', words));
    }
  }
}

/** A bed is part of one station: pieces of operations elsewhere cannot lie in it. */
function belongs(work: Work, code: string, bed: { name: string; station: string }): void {
  for (const { body, effect } of work.steps) {
    if (bedOf(body) !== code || effect.operation === null) continue;
    const operation = operationOf(work.route, effect.operation);
    if (!operation.stations.includes(bed.station))
      throw new Refused(
        refuse('wrong-station', `${bed.name} does not belong to ${operation.name} of ${work.code}`),
      );
  }
}

/** A table cuts one load at a time: a second one, started by somebody else a moment ago, stands in the way. */
async function mustBeOneLoad(
  manager: EntityManager,
  works: readonly Work[],
  code: string,
  name: string,
): Promise<void> {
  const own = works
    .flatMap((work) => work.state?.pieces ?? [])
    .flatMap((piece) => (piece.bed === code && piece.load ? [piece.load.code] : []));
  const started = works.flatMap((work) =>
    work.steps.flatMap(({ body }) =>
      body.type === 'start' && body.bed === code && body.load ? [body.load.code] : [],
    ),
  );
  const load = started[0] ?? own[0];
  if (load === undefined) return;
  const [other] = await manager.query<{ load: string }[]>(
    `SELECT p -> 'load' ->> 'code' AS load FROM batch b, jsonb_array_elements(b.state -> 'pieces') p
      WHERE NOT b.closed AND b.state -> 'pieces' @> $1::jsonb AND p ->> 'bed' = $2
        AND p -> 'load' ->> 'code' <> $3 AND b.code <> ALL($4) LIMIT 1`,
    [JSON.stringify([{ bed: code }]), code, load, works.map((work) => work.code)],
  );
  const running = other?.load ?? own.find((lying) => lying !== load);
  if (running !== undefined)
    throw new Refused(refuse('taken', `${name} is cutting ${running}: end that first`));
}
