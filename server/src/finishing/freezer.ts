import { type BodyOf, operationOf } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import type { Rack } from '../log/facts.service.ts';

/** Pieces that go into the cold lie in a freezer, named or not: where none is named, in the one with most room. */
export async function inFreezer(
  manager: EntityManager,
  { state, route }: Rack,
  body: BodyOf<'age'>,
): Promise<BodyOf<'age'>> {
  if (body.to !== 'cold' || body.bed !== undefined) return body;
  const stations = state.pieces
    .filter(({ standing }) => standing === 'onHold')
    .map(({ operation }) => operationOf(route, operation))
    .filter((operation) => operation.mode === 'hold' && operation.rule.rule === 'ageing')
    .flatMap((operation) => operation.stations);
  const [freezer] = await manager.query<{ code: string }[]>(
    `SELECT bed.code FROM bed
       LEFT JOIN LATERAL (
         SELECT count(*) AS n FROM batch b, jsonb_array_elements(b.state -> 'pieces') p
          WHERE NOT b.closed AND p ->> 'bed' = bed.code) lying ON true
      WHERE bed.station = ANY($1) ORDER BY bed.places - lying.n DESC, bed.code LIMIT 1`,
    [stations],
  );
  return freezer ? { ...body, bed: freezer.code } : body;
}
