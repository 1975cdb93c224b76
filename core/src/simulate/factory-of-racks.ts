import { randomStream } from '../stats/random.ts';
import type { FactoryModel, SimRack, SimStep } from './factory-model.ts';

const [DAY_HOURS, SHIFT_HOURS] = [24, 8];
const STATIONS = 20;
const SKILLS = ['mill', 'fit', 'spray', 'buff', 'string'];

/**
 * A factory as large as one gets, for the bench: twenty stations, thirty people of five skills, six models through thirty steps each
 * with holds, rework and scrap, and so many racks on their way at once.
 */
export function factoryOfRacks(options: { racks: number; days: number; seed: number }): {
  model: FactoryModel;
  state: SimRack[];
} {
  const { racks, days, seed } = options;
  const random = randomStream(seed);
  const stations = Array.from({ length: STATIONS }, (_, i) => ({
    code: `s${i}`,
    servers: random.between(1, 4),
  }));
  const routes = Array.from({ length: 6 }, (_, model) => ({
    code: `m${model}`,
    steps: Array.from({ length: 30 }, (__, i): SimStep => {
      const key = `${i}`;
      if (i % 6 === 5) return { mode: 'hold', key, hours: { each: 24 + 48 * random.next(), cv: 0.2 } };
      const station = `s${Math.floor((i * STATIONS) / 30)}`;
      return {
        ...{ mode: 'work', key, stations: [station], skill: SKILLS[Math.floor(i / 6)] ?? 'fit' },
        ...{
          setUpHours: 0.2,
          family: `${model} ${i}`,
          hours: { each: 0.03 + 0.05 * random.next(), cv: 0.4 },
        },
        ...(i % 7 === 6 ? { scrap: 0.005, rework: { share: 0.02, to: `${i - 1}` } } : {}),
      };
    }),
  }));
  const model: FactoryModel = {
    ...{
      stations,
      routes,
      arrivals: routes.map(({ code }) => ({ route: code, everyHours: 8, cv: 1, pieces: 12 })),
    },
    people: Array.from({ length: 30 }, (_, i) => ({
      code: `p${i}`,
      skills: [SKILLS[i % SKILLS.length] ?? 'fit'],
    })),
    open: Array.from({ length: days + 2 }, (_, day) => ({
      from: day * DAY_HOURS,
      to: day * DAY_HOURS + SHIFT_HOURS,
    })),
  };
  const state = Array.from({ length: racks }, () => {
    const route = random.pick(routes);
    return { route: route.code, step: random.pick(route.steps).key, pieces: 12 };
  });
  return { model, state };
}
