import { type BodyOf, operationOf } from '@ample-crane/core';
import type { EntityManager } from 'typeorm';
import { piecesIn } from '../floor/racks-with.ts';
import type { Rack } from '../log/facts.service.ts';
import type { BedRow } from '../setup/rows.ts';
import type { SetupService } from '../setup/setup.service.ts';

/** Pieces that go into the cold lie in a freezer, named or not: where none is named, in the one with most room. */
export async function inFreezer(
  manager: EntityManager,
  setup: SetupService,
  { state, route }: Rack,
  body: BodyOf<'age'>,
): Promise<BodyOf<'age'>> {
  if (body.to !== 'cold' || body.bed !== undefined) return body;
  const stations = state.pieces
    .filter(({ standing }) => standing === 'onHold')
    .map(({ operation }) => operationOf(route, operation))
    .filter((operation) => operation.mode === 'hold' && operation.rule.rule === 'ageing')
    .flatMap((operation) => operation.stations);
  const beds = (await setup.beds(manager)).filter(({ station }) => stations.includes(station));
  const lying = await piecesIn(
    manager,
    beds.map(({ code }) => code),
  );
  const room = ({ code, places }: BedRow): number => places - lying.filter(({ bed }) => bed === code).length;
  const [freezer] = beds.toSorted((a, b) => room(b) - room(a) || a.code.localeCompare(b.code));
  return freezer ? { ...body, bed: freezer.code } : body;
}
