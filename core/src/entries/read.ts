import {
  count,
  hasLeft,
  LONGEST_REASON,
  MOST_VALUES,
  noted,
  refuse,
  SELECTED,
  type BatchState,
  type Entry,
  type Facts,
  type FiledKind,
  type LineWords,
  type Outcome,
  type Selection,
} from '../ledger/index.ts';
import type { Route } from '../route/index.ts';
import { MOISTURE_POSSIBLE } from '../wood/gate.ts';
import { between, list, name, plainWords } from '../units/json-schema.ts';
import { summarise } from '../stats/descriptive.ts';

export interface ReadBody extends Selection {
  type: 'read';
  /** Moisture, % of oven-dry mass, as the meter showed it. */
  valuesPct: number[];
  woodTemperatureC?: number;
  /** Code of the meter; its line and the temperature correct the values. */
  meter?: string;
  depth?: 'shell' | 'core';
  /** Why values that would be set aside are to be believed. */
  because?: string;
  facts?: Facts;
}

export const read: FiledKind<ReadBody> = {
  type: 'read',
  apply,
  words: ({ valuesPct }) =>
    `${count(valuesPct.length, 'reading')}, mean ${summarise(valuesPct).mean.toFixed(2)} %`,
  asked: {
    fields: {
      ...SELECTED,
      valuesPct: list({ type: 'number' }, 1, MOST_VALUES),
      woodTemperatureC: between(-20, 60),
      meter: name(40),
      depth: { enum: ['shell', 'core'] },
      because: plainWords(LONGEST_REASON),
    },
    needs: ['valuesPct'],
  },
  line: {
    verbs: { read: ['reads', 'reading', 'readings', 'moisture', 'mc'] },
    number: 'own',
    take: (line, verb) => ({
      valuesPct: line.values(verb, 'readings'),
      ...metered(line),
      ...line.because(),
    }),
  },
};

/** `temp 18.5 meter pin-1 core`, in any order. */
function metered(line: LineWords): Pick<ReadBody, 'woodTemperatureC' | 'meter' | 'depth'> {
  const said: Pick<ReadBody, 'woodTemperatureC' | 'meter' | 'depth'> = {};
  for (;;) {
    const word = line.word();
    if (word === 'temp') said.woodTemperatureC = line.numberAfter(line.take(), '°C');
    else if (word === 'meter') said.meter = line.name(line.take(), 'the code of a meter');
    else if (word === 'core' || word === 'shell') {
      said.depth = word;
      line.take();
    } else return said;
  }
}

function apply(state: BatchState, _route: Route, entry: Entry, body: ReadBody): Outcome {
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
