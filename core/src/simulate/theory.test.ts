import { summarise } from '../stats/descriptive.ts';
import { studentQuantile } from '../stats/student.ts';
import type { FactoryModel, SimStationResult } from './factory-model.ts';
import { queueingModel, type TextbookStation } from './queueing-model.ts';
import { simulate } from './simulate.ts';

const RUNS = 20;
const HOURS = 12_000;
const WARM_UP = 1000;

type Of = (stations: SimStationResult[]) => number;

/** What the formula says lies within what runs of so many seeds come to, 99 times of 100, and the interval says something. */
function expectNear(
  model: FactoryModel,
  exact: readonly (readonly [Of, number])[],
  state: Parameters<typeof simulate>[0]['state'] = [],
): void {
  const runs = Array.from(
    { length: RUNS },
    (_, seed) => simulate({ model, state, until: HOURS, from: WARM_UP, seed }).stations,
  );
  for (const [of, wanted] of exact) {
    const { mean, sd } = summarise(runs.map(of));
    const within = (studentQuantile(0.995, RUNS - 1) * sd) / Math.sqrt(RUNS);
    expect(within / wanted).toBeLessThan(0.16);
    expect(Math.abs(mean - wanted)).toBeLessThanOrEqual(within);
  }
}

const station = (code: string, meanHours: number, cv = 1, servers = 1): TextbookStation => ({
  ...{ code, servers, meanHours, cv },
});
const waits =
  (at = 0): Of =>
  (stations) =>
    stations[at]?.meanWaitHours ?? NaN;
const there =
  (at = 0): Of =>
  (stations) =>
    stations[at]?.meanInSystem ?? NaN;
const busy =
  (at = 0): Of =>
  (stations) =>
    stations[at]?.utilisation ?? NaN;

describe('the kernel against the formulas', () => {
  it('M/M/1: waits ρ/(μ−λ), has ρ/(1−ρ) there, is busy ρ', () => {
    const model = queueingModel({ stations: [station('a', 1)], arrivalsPerHour: 0.75, path: ['a'] });
    expectNear(model, [
      [waits(), 0.75 / 0.25],
      [there(), 3],
      [busy(), 0.75],
    ]);
  });

  it('M/M/3: waits as Erlang’s C formula says', () => {
    const [c, offered] = [3, 2.25];
    const term = (n: number): number => (n === 0 ? 1 : (term(n - 1) * offered) / n);
    const queued = (term(c) * c) / (c - offered);
    const erlangC = queued / (Array.from({ length: c }, (_, n) => term(n)).reduce((a, b) => a + b) + queued);
    const model = queueingModel({ stations: [station('a', 1, 1, c)], arrivalsPerHour: offered, path: ['a'] });
    expectNear(model, [[waits(), erlangC / (c - offered)]]);
  });

  it('M/G/1: waits as Pollaczek and Khinchine say, whatever the spread of the service', () => {
    for (const cv of [0, 0.5, 2]) {
      const [rate, mean] = [0.6, 1];
      const model = queueingModel({ stations: [station('a', mean, cv)], arrivalsPerHour: rate, path: ['a'] });
      expectNear(model, [[waits(), (rate * mean ** 2 * (1 + cv ** 2)) / (2 * (1 - rate * mean))]]);
    }
  });

  it('a tandem line: each station as if it stood alone (Jackson)', () => {
    const model = queueingModel({
      ...{ stations: [station('a', 1), station('b', 1.25)], arrivalsPerHour: 0.6, path: ['a', 'b'] },
    });
    expectNear(model, [
      [waits(), 0.6 / 0.4],
      [waits(1), (0.75 * 1.25) / 0.25],
    ]);
  });

  it('a closed line: five go round two stations as mean value analysis says', () => {
    const model: FactoryModel = {
      stations: [
        { code: 'a', servers: 1 },
        { code: 'b', servers: 1 },
      ],
      arrivals: [],
      routes: [
        {
          code: 'round',
          steps: [
            { mode: 'work', key: 'a', stations: ['a'], hours: { each: 1, cv: 1 } },
            {
              ...{ mode: 'work', key: 'b', stations: ['b'], hours: { each: 0.8, cv: 1 } },
              rework: { share: 1, to: 'a' },
            },
          ],
        },
      ],
    };
    const services = [1, 0.8];
    let line = [0, 0];
    let rate = 0;
    for (let n = 1; n <= 5; n += 1) {
      const times = services.map((mean, i) => mean * (1 + (line[i] ?? 0)));
      rate = n / times.reduce((a, b) => a + b);
      line = times.map((time) => rate * time);
    }
    const state = Array.from({ length: 5 }, () => ({ route: 'round', step: 'a', pieces: 1 }));
    expectNear(
      model,
      [
        [busy(), rate],
        [there(1), line[1] ?? NaN],
      ],
      state,
    );
  });

  it('a machine that takes up to three at once: as the chain of its states says', () => {
    const [rate, places] = [1.6, 3];
    const model: FactoryModel = {
      stations: [{ code: 'press', servers: 1 }],
      arrivals: [{ route: 'p', everyHours: 1 / rate, cv: 1, pieces: 1 }],
      routes: [
        {
          code: 'p',
          steps: [
            {
              ...{ mode: 'work', key: 'press', stations: ['press'], hours: { each: 1, cv: 1 } },
              ...{ places, family: 'one' },
            },
          ],
        },
      ],
    };
    // Idle, or busy with so many waiting behind the load; service ends once an hour. Cut off far out.
    const most = 120;
    let idle = 1;
    let behind = new Float64Array(most);
    const step = 0.2;
    for (let round = 0; round < 4000; round += 1) {
      const next = new Float64Array(most);
      let idleNext = idle * (1 - step * rate);
      next[0] = (next[0] ?? 0) + step * rate * idle;
      for (let q = 0; q < most; q += 1) {
        const p = behind[q] ?? 0;
        next[q] = (next[q] ?? 0) + p * (1 - step * rate - step);
        const up = Math.min(q + 1, most - 1);
        next[up] = (next[up] ?? 0) + p * step * rate;
        if (q === 0) idleNext += p * step;
        else {
          const after = Math.max(0, q - places);
          next[after] = (next[after] ?? 0) + p * step;
        }
      }
      [idle, behind] = [idleNext, next];
    }
    const waiting = behind.reduce((sum, p, q) => sum + p * q, 0);
    expectNear(model, [[waits(), waiting / rate]]);
  });
});
