import type { ClimateOf } from '../coats/standing-air.ts';
import { applyEntry } from '../entries/reduce.ts';
import { finishPlan, type FinishPlan } from '../finishing/recipe.ts';
import { SHIPPED_RECIPES } from '../finishing/shipped-recipes.ts';
import { factsForEnd } from '../holds/facts.ts';
import { finishViews, type FinishView } from '../ladder/ladder.ts';
import type { BatchState } from '../ledger/batch.ts';
import type { EntryBody } from '../entries/index.ts';
import { isRefusal } from '../ledger/refusal.ts';
import type { HoldOperation, Operation, Route } from '../route/route.ts';
import type { ClimateSample } from '../units/climate.ts';
import { entry, hoursIn, longRoute, openBody } from './tarrow.ts';

export const shipped = (name: string) => {
  const found = SHIPPED_RECIPES.find((one) => one.name === name);
  if (!found) throw new Error(name);
  return found;
};
const work = (key: string, extra: Partial<Operation> = {}): Operation =>
  ({
    key,
    name: key,
    mode: 'attended',
    stations: [key],
    setUpMinutes: 10,
    pieceMinutes: 5,
    skill: null,
    coats: null,
    reworkTo: null,
    caution: null,
    ...extra,
  }) as Operation;
const rests = (key: string, rule: HoldOperation['rule']): HoldOperation => ({
  key,
  name: key,
  mode: 'hold',
  stations: ['clear'],
  room: 'Cure room',
  reworkTo: null,
  caution: null,
  rule,
});
const cureRule = (until: 'sand' | 'buff', referenceHours: number): HoldOperation['rule'] => ({
  rule: 'cure',
  word: 'cure',
  material: 'any',
  until,
  referenceHours,
  q: 1.6,
});
/** A finish with colour, clear coats, cure, sanding and the freezer. */
export const route: Route = {
  ...longRoute,
  id: 'bowline-i-7',
  kind: 'I',
  operations: [
    work('prep', { coats: { wanted: 1, material: 'sealer' } }),
    rests('sealer', cureRule('sand', 4)),
    work('colour', { reworkTo: 'colour' }),
    work('clear', {
      coats: { wanted: 4, material: 'thin lacquer' },
      reworkTo: 'colour',
    }),
    rests('cure', cureRule('buff', 336)),
    work('buff', { reworkTo: 'colour' }),
    rests('age', { rule: 'ageing', word: 'ageing', coldHours: 18, warmHours: 6, cycles: 2, level: 'light' }),
    work('wear'),
    { ...(longRoute.operations.at(-1) as Operation) },
  ],
};
/** Its hours for 112 µm of fresh film: what the coats below make when they are laid in one day. */
export const plan: FinishPlan = (() => {
  const shippedPlan = finishPlan(shipped('thin-lacquer-aged'));
  const coats = shippedPlan.coats.map((one) =>
    one.step === 'clear' ? { ...one, spec: { ...one.spec, referenceUm: 112 } } : one,
  );
  return { ...shippedPlan, coats };
})();

/** 21 °C in every room from a week before Monday on. */
export const steady: ClimateSample[] = Array.from({ length: 24 * 60 }, (_, i) => ({
  atMs: hoursIn(i - 7 * 24),
  temperatureC: 21,
  relativeHumidityPct: 50,
}));

/** A rack of six, with a log that goes on entry by entry. */
export class FinishRack {
  state: BatchState;
  private seq = 1;
  constructor(finish = plan) {
    const outcome = applyEntry(
      null,
      route,
      entry(1, hoursIn(0), { ...openBody(route, 'I-7', 6), finish } as EntryBody),
    );
    if (isRefusal(outcome)) throw new Error(outcome.refused);
    this.state = outcome.state;
  }
  /** Files, or says why not. */
  file(hour: number, body: EntryBody): string | null {
    const outcome = applyEntry(this.state, route, entry(this.seq + 1, hoursIn(hour), body));
    if (isRefusal(outcome)) return outcome.refused;
    this.seq += 1;
    this.state = outcome.state;
    return null;
  }
  must(hour: number, ...bodies: EntryBody[]): this {
    for (const body of bodies) {
      const refused = this.file(hour, body);
      if (refused !== null) throw new Error(`${body.type} at ${hour} h: ${refused}`);
    }
    return this;
  }
  facts(hour: number, panel?: string) {
    return factsForEnd({ state: this.state, route, atMs: hoursIn(hour), climateOf: () => steady, panel });
  }
  /** Frees what is on hold by the clock, or says why not. */
  end(hour: number, extra: Partial<Extract<EntryBody, { type: 'end' }>> = {}): string | null {
    return this.file(hour, { type: 'end', facts: this.facts(hour, extra.panel), ...extra });
  }
  views(hour: number, samples = steady): FinishView[] {
    return this.sightsIn(hour, () => samples);
  }
  /** With the air of each room told apart. */
  sightsIn(hour: number, climateOf: ClimateOf): FinishView[] {
    const nowMs = hoursIn(hour);
    const time = (ms: number): string => `${((ms - hoursIn(0)) / 3_600_000).toFixed(0)} h`;
    return finishViews({ state: this.state, route, nowMs, air: { climateOf, late: [] }, time });
  }
}

/** Sealed, toned, scraped and under four clear coats by hour 14. */
export const cleared = (): FinishRack => {
  const rack = new FinishRack();
  rack.must(0, { type: 'start' }, { type: 'coat' }, { type: 'done' });
  const refused = rack.end(5);
  if (refused !== null) throw new Error(refused);
  rack.must(5, { type: 'start' }, { type: 'sand' }, { type: 'coat' });
  rack.must(6.1, { type: 'coat' }, { type: 'done' });
  rack.must(8, { type: 'start' }, { type: 'coat', booth: 'booth-3', room: 'Cure room', lot: 'TL-88' });
  for (const hour of [9.6, 11.2, 12.8]) rack.must(hour, { type: 'coat' });
  return rack.must(14, { type: 'done' });
};
