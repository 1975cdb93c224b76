import type { EntityManager } from 'typeorm';
import { MaterialLotRow, MixRow } from './rows.ts';
import { litresCoated } from '../log/entries-in-force.ts';

/** Less than this is a drum turned upside down, litres. */
const EMPTY_LITRES = 0.05;

/** Litres that were drawn from some lots and mixes, by code: coats that stand, and what was mixed of them. */
export async function litresUsed(
  db: Pick<EntityManager, 'query'>,
  codes: readonly string[],
): Promise<Map<string, number>> {
  const used = await litresCoated(db, codes);
  const mixed = await db.query<{ lot: string; litres: number }[]>(
    `SELECT lot, sum(litres)::float AS litres FROM (
       SELECT lot, lot_litres AS litres FROM mix
       UNION ALL SELECT part ->> 'lot', (part ->> 'litres')::float FROM mix, jsonb_array_elements(additions) part) drawn
      WHERE lot = ANY($1) GROUP BY lot`,
    [codes],
  );
  for (const { lot, litres } of mixed) used.set(lot, (used.get(lot) ?? 0) + litres);
  return used;
}

/** What speaks against drawing so many litres from a lot at a moment; nothing where they are not known. */
export async function lotAgainst(
  manager: EntityManager,
  lot: MaterialLotRow,
  wanted: { litres: number | undefined; atMs: number; what: string },
): Promise<string[]> {
  const { litres, atMs, what } = wanted;
  const gone = lot.finishedAt !== null && lot.finishedAt.getTime() <= atMs;
  const left = gone ? 0 : lot.litres - ((await litresUsed(manager, [lot.code])).get(lot.code) ?? 0);
  return [
    ...(lot.expiresAt && lot.expiresAt.getTime() < atMs ? [`lot ${lot.code} is past its date`] : []),
    ...leftAgainst({ code: `lot ${lot.code}`, left, of: lot.litres, litres, what }),
  ];
}

/** The same of a mix. */
export async function mixLeftAgainst(
  manager: EntityManager,
  mix: MixRow,
  litres: number | undefined,
): Promise<string[]> {
  const left = mix.litres - ((await litresUsed(manager, [mix.code])).get(mix.code) ?? 0);
  return leftAgainst({ code: `mix ${mix.code}`, left, of: mix.litres, litres, what: 'this coat' });
}

function leftAgainst(one: {
  code: string;
  left: number;
  of: number;
  litres: number | undefined;
  what: string;
}): string[] {
  const { code, left, of, litres = 0, what } = one;
  if (left < EMPTY_LITRES) return [`${code} is empty: 0.0 of ${of.toFixed(1)} l are left`];
  return left + EMPTY_LITRES < litres
    ? [`${code} has ${left.toFixed(1)} of ${of.toFixed(1)} l left, ${what} takes ${litres.toFixed(1)}`]
    : [];
}

/** The lot of a material in use at a moment: the one opened last that is not used up. */
export function openLot(
  manager: EntityManager,
  material: string,
  atMs: number,
): Promise<MaterialLotRow | null> {
  const at = new Date(atMs);
  return manager
    .getRepository(MaterialLotRow)
    .createQueryBuilder('l')
    .where(
      'l.material = :material AND l.opened_at <= :at AND (l.finished_at IS NULL OR l.finished_at > :at)',
      { material, at },
    )
    .orderBy('l.opened_at', 'DESC')
    .getOne();
}

/** Where lots of a material are noted but none is open, that is said; who keeps no stock of it is left alone. */
export async function noLotOpen(manager: EntityManager, material: string, atMs: number): Promise<string[]> {
  const kept = await manager
    .getRepository(MaterialLotRow)
    .createQueryBuilder('l')
    .where('l.material = :material AND l.received_at <= :at', { material, at: new Date(atMs) })
    .getExists();
  return kept ? [`no lot of ${material} is open`] : [];
}
