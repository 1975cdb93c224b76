import {
  count,
  hasLeft,
  MOST_VALUES,
  noted,
  refuse,
  type BatchState,
  type Entry,
  type Outcome,
  type ReadBody,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { MOISTURE_POSSIBLE } from '../wood/gate.ts';

export function read(state: BatchState, _route: Route, entry: Entry, body: ReadBody): Outcome {
  const { valuesPct } = body;
  const here = state.pieces.filter((piece) => !hasLeft(piece));
  const operation = here[0]?.operation;
  if (operation === undefined) return refuse('nothing-here', `no piece of ${state.code} is left to read`);
  if (valuesPct.length < 1 || valuesPct.length > MOST_VALUES)
    return refuse('bad-value', `1 to ${MOST_VALUES} readings, not ${valuesPct.length}`);
  const wrong = valuesPct.find(
    (value) => !(value >= MOISTURE_POSSIBLE.lowPct && value <= MOISTURE_POSSIBLE.highPct),
  );
  if (wrong !== undefined) return refuse('bad-value', `${wrong} % is no moisture reading: 0 to 100 %`);
  const places = body.pieces ?? (valuesPct.length === here.length ? here.map((piece) => piece.position) : []);
  if (body.pieces && body.pieces.length !== valuesPct.length) {
    return refuse(
      'bad-value',
      `${count(valuesPct.length, 'reading')} for ${count(body.pieces.length, 'piece')}`,
    );
  }
  const strange = places.find((place) => !state.pieces.some((piece) => piece.position === place));
  if (strange !== undefined) return refuse('not-enough', `${state.code} has no piece ${strange}`);
  const set = {
    atMs: entry.atMs,
    operation,
    positions: places,
    valuesPct,
    woodTemperatureC: body.woodTemperatureC ?? null,
    ...(body.meter === undefined ? {} : { meter: body.meter }),
    ...(body.depth === undefined ? {} : { depth: body.depth }),
    ...(body.facts?.correctedPct === undefined ? {} : { correctedPct: body.facts.correctedPct }),
    ...(body.facts?.floorsPct === undefined ? {} : { floorsPct: body.facts.floorsPct }),
    ...(body.because === undefined ? {} : { because: body.because }),
  };
  return noted(state, entry, operation, places, {
    readings: [...state.readings, set].toSorted((a, b) => a.atMs - b.atMs),
  });
}
