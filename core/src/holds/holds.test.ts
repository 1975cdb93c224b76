import * as holds from './index.ts';
import type { CureRule, HoldRule, MoistureRule } from '../route/hold-rule.ts';
import { hoursIn, MONDAY } from '../testing/tarrow.ts';
import type { ClimateSample } from '../units/climate.ts';
import { HOUR_MS } from '../units/quantities.ts';
import type { HoldContext } from './rules.ts';

const room = 'cure room';
const isOver = (rule: HoldRule, about: HoldContext) => holds.isOver({ rule, room }, about);
const forecastEnd = (rule: HoldRule, about: HoldContext) => holds.forecastEnd({ rule, room }, about);

const air = (temperatureC: number, relativeHumidityPct = 40): ClimateSample[] =>
  Array.from({ length: 24 * 6 }, (_, i) => ({ atMs: hoursIn(i - 24), temperatureC, relativeHumidityPct }));

const context = (extra: Partial<HoldContext> = {}): HoldContext => ({
  sinceMs: MONDAY,
  atMs: hoursIn(24),
  positions: [1, 2, 3],
  readings: [],
  coats: [],
  measures: [],
  climate: [],
  ...extra,
});

describe('an elapsed hold', () => {
  const glue = { rule: 'elapsed', word: 'glue', hours: 12 } as const;

  it('ends on the minute, through the night', () => {
    expect(forecastEnd(glue, context()).endMs).toBe(hoursIn(12));
    expect(isOver(glue, context({ atMs: hoursIn(12) - 1 })).over).toBe(false);
    expect(isOver(glue, context({ atMs: hoursIn(12) })).over).toBe(true);
  });
});

describe('a cure hold', () => {
  const rule: CureRule = {
    rule: 'cure',
    word: 'cure',
    material: 'thin lacquer',
    until: 'buff',
    referenceHours: 72,
    q: 1.6,
  };
  const end = (temperatureC: number): number =>
    forecastEnd(rule, context({ climate: air(temperatureC) })).endMs ?? NaN;

  it('ends after its reference hours at 21 °C', () => {
    expect(end(21)).toBeCloseTo(hoursIn(72), -4);
  });

  it('ends earlier in a warm booth: 72 h at 26 °C take 72 / 1.6^0.5 h', () => {
    expect(end(26)).toBeCloseTo(hoursIn(72 / 1.6 ** 0.5), -4);
  });

  it('starts at the last coat of these pieces, not at the move to the rack', () => {
    const coats = [
      { atMs: hoursIn(-3), operation: 'clear', positions: [1, 2, 3], wetUm: null },
      { atMs: hoursIn(-1), operation: 'clear', positions: [9], wetUm: null },
    ];
    expect(forecastEnd(rule, context({ climate: air(21), coats })).endMs).toBeCloseTo(hoursIn(69), -4);
  });

  it('says when it was reached once it is over, and gives a range while it is not', () => {
    const over = context({ climate: air(21), atMs: hoursIn(100) });
    expect(isOver(rule, over).sentence).toBe('Ready to buff: all 72 reference hours reached, and 28 more.');
    expect(Math.abs((forecastEnd(rule, over).endMs ?? NaN) - hoursIn(72))).toBeLessThan(2 * 60_000);
    const mixed = [...air(17).slice(0, 24), ...air(25).slice(24)].slice(0, 48);
    const forecast = forecastEnd(rule, context({ climate: mixed }));
    expect(forecast.lowMs).toBeLessThan(forecast.endMs ?? NaN);
    expect(forecast.highMs).toBeGreaterThan(forecast.endMs ?? NaN);
  });

  it('bridges a silent sensor with the room’s usual air, and says for how long', () => {
    const silent = context({ climate: air(21).slice(0, 48), atMs: hoursIn(80) });
    expect(isOver(rule, silent).sentence).toBe(
      'Ready to buff: all 72 reference hours reached, and 8.0 more. 2.1 days of it by the room’s usual air: its sensor was silent.',
    );
  });

  it('does not guess without any climate', () => {
    expect(isOver(rule, context()).over).toBe(false);
    expect(forecastEnd(rule, context()).endMs).toBeNull();
  });
});

describe('where the evidence of a cure disagrees, the later one holds', () => {
  const rule: CureRule = {
    rule: 'cure',
    word: 'cure',
    material: 'lacquer',
    until: 'buff',
    referenceHours: 72,
    q: 1.6,
  };
  const at = (hour: number, extra: Partial<HoldContext>) =>
    context({ climate: air(21), atMs: hoursIn(hour), ...extra });
  const panels = [
    { code: 'TP-4', curedMs: hoursIn(90) },
    { code: 'TP-5', curedMs: hoursIn(60) },
  ];
  const mark = (passed: boolean) => [{ atMs: hoursIn(50), operation: 'cure', positions: [1, 2, 3], passed }];

  it('a panel that is cured later than the clock says: its date, and its name', () => {
    expect(isOver(rule, at(80, { panels }))).toMatchObject({
      over: false,
      sentence: 'Wait to buff: by its weighings test panel TP-4 is cured in 10 h, later than the clock says.',
      detail: 'by its weighings test panel TP-4 is cured in 10 h, later than the clock says.',
    });
    expect(forecastEnd(rule, at(80, { panels })).endMs).toBe(hoursIn(90));
    expect(isOver(rule, at(91, { panels })).over).toBe(true);
    // What waits to be sanded does not wait for the solvent's last share.
    expect(isOver({ ...rule, until: 'sand' }, at(80, { panels })).over).toBe(true);
  });

  it('a clock that is later than panel and mark', () => {
    const early = at(65, { panels: panels.slice(1), marks: mark(true) });
    expect(isOver(rule, early).over).toBe(false);
    expect(isOver(rule, early).sentence).toMatch(/A mark test passed, but the clock is later and holds\.$/);
    expect(isOver(rule, at(65, { panels: panels.slice(1) })).sentence).toMatch(
      /Test panel TP-5 is cured, but the clock is later and holds\.$/,
    );
  });

  it('a failed mark: no date once the clock is past, until another one passes', () => {
    const failed = at(80, { marks: mark(false) });
    expect(isOver(rule, failed).over).toBe(false);
    expect(forecastEnd(rule, failed).endMs).toBeNull();
    expect(forecastEnd(rule, at(60, { marks: mark(false) })).endMs).toBeCloseTo(hoursIn(72), -4);
  });
});

describe('a moisture hold', () => {
  const rule: MoistureRule = {
    rule: 'moisture',
    word: 'drying',
    window: { lowPct: 6, highPct: 8.5 },
    tauDays: 20,
  };
  const read = (atMs: number, valuesPct: number[], positions: number[] = []) => ({
    atMs,
    operation: 'dry',
    positions,
    valuesPct,
    woodTemperatureC: null,
  });

  it('forecasts from the wettest piece, and says never in a damp room', () => {
    const readings = [read(hoursIn(1), [8.2, 9, 9.6])];
    const dry = forecastEnd(rule, context({ readings, climate: air(21, 36) }));
    expect(dry.endMs).toBeGreaterThan(hoursIn(24));
    expect(dry.highMs).toBeGreaterThan(dry.endMs ?? Infinity);
    expect(forecastEnd(rule, context({ readings, climate: air(21, 62) })).endMs).toBeNull();
  });

  it('rests on the last week of the room, however much of its air is at hand', () => {
    const readings = [read(hoursIn(1), [8.2, 9, 9.6])];
    const days = (from: number, to: number, relativeHumidityPct: number): ClimateSample[] =>
      Array.from({ length: 24 * (to - from) }, (_, i) => ({
        atMs: hoursIn(24 * from + i + 1),
        temperatureC: 21,
        relativeHumidityPct,
      }));
    const dry = days(-20, 1, 36);
    const end = (climate: ClimateSample[]) => forecastEnd(rule, context({ readings, climate }));
    expect(end(dry).endMs).not.toBeNull();
    // Other racks of the board ask for two months: six damp weeks that this one never stood in are none of its business.
    expect(end([...days(-62, -20, 62), ...dry])).toEqual(end(dry));
  });

  it('has no date before anything is read', () => {
    expect(forecastEnd(rule, context({ climate: air(21) })).endMs).toBeNull();
    expect(isOver(rule, context()).sentence).toMatch(/^Read it/);
  });

  it('takes the latest reading of each place, however long ago it was', () => {
    const readings = [
      read(hoursIn(1), [9, 9, 9], [1, 2, 3]),
      read(hoursIn(20), [7, 7], [1, 2]),
      read(hoursIn(21), [7.4], [3]),
    ];
    expect(isOver(rule, context({ readings })).over).toBe(true);
    expect(isOver(rule, context({ readings: readings.slice(0, 2) })).sentence).toMatch(
      /^Sort: 3 read.*1 over/,
    );
  });

  it('forgets a sample once every piece has its own reading', () => {
    const readings = [read(hoursIn(19), [9.4, 9.1, 9.6]), read(hoursIn(20), [7, 7.1, 7.2], [1, 2, 3])];
    expect(isOver(rule, context({ readings })).sentence).toMatch(/^Pass: 3 read/);
  });

  it('judges by what was corrected when it was filed, and a piece by its core', () => {
    const shown = { ...read(hoursIn(1), [9, 9, 9], [1, 2, 3]), correctedPct: [8, 8.1, 8.2] };
    expect(isOver(rule, context({ readings: [shown] })).sentence).toMatch(/^Pass: 3 read, mean 8.1 %/);
    const core = { ...read(hoursIn(2), [8.9], [2]), depth: 'core' as const };
    expect(
      isOver(rule, context({ readings: [{ ...shown, depth: 'shell' as const }, core] })).sentence,
    ).toMatch(/^Sort: 3 read.*1 over/);
  });

  it('follows the other school where the rule names a destination: 7.7 % ± 1 at 21.1 °C and 40 % RH', () => {
    const air = { temperatureC: 21.1, relativeHumidityPct: 40 };
    const going: MoistureRule = { ...rule, destination: { air, tolerancePct: 1 } };
    const readings = [read(hoursIn(1), [6.4, 6.5, 6.6], [1, 2, 3])];
    expect(isOver(rule, context({ readings })).over).toBe(true);
    expect(isOver(going, context({ readings })).sentence).toMatch(/gate 6\.7–8\.7 %; 3 under/);
  });

  it('passes single pieces by their own reading', () => {
    const readings = [read(hoursIn(1), [9, 7, 7], [1, 2, 3])];
    expect(isOver(rule, context({ readings, positions: [2, 3] })).over).toBe(true);
    expect(isOver(rule, context({ readings, positions: [1] })).over).toBe(false);
  });
});

describe('a settling hold', () => {
  const rule = { rule: 'settle', word: 'settling', hours: 144, driftLimitMm: 0.1 } as const;
  const measured = (atMs: number, valuesMm: number[]) => ({ atMs, operation: 'setup', valuesMm });

  it('knows its date from the start', () => {
    expect(forecastEnd(rule, context()).endMs).toBe(MONDAY + 144 * HOUR_MS);
  });

  it('accepts a second measure without a first, and says so', () => {
    const done = context({ atMs: hoursIn(150), measures: [measured(hoursIn(145), [1.8])] });
    expect(isOver(rule, done)).toMatchObject({
      over: true,
      sentence: expect.stringMatching(/no earlier measure/) as string,
    });
  });
});
