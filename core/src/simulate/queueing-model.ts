import type { FactoryModel } from './factory-model.ts';

/** A station of a textbook model. */
export interface TextbookStation {
  code: string;
  servers: number;
  /** Mean time of service. */
  meanHours: number;
  /** Coefficient of variation of the time of service: 1 is exponential, 0 always the same. */
  cv: number;
}

/**
 * A textbook model for the kernel: customers that come by chance (exponential intervals) and go along a path of stations, first come
 * first served. `simulate` gives what the formulas of M/M/1, M/M/c, M/G/1 and tandem lines say.
 * @throws RangeError, from `simulate`, for a path with a station that is not there
 */
export const queueingModel = (options: {
  stations: readonly TextbookStation[];
  arrivalsPerHour: number;
  path: readonly string[];
}): FactoryModel => ({
  stations: options.stations.map(({ code, servers }) => ({ code, servers })),
  routes: [
    {
      code: 'path',
      steps: options.path.map((code, i) => {
        const station = options.stations.find((one) => one.code === code);
        const hours = { each: station?.meanHours ?? 0, cv: station?.cv ?? 0 };
        return { mode: 'work' as const, key: `${i + 1}`, stations: [code], hours };
      }),
    },
  ],
  arrivals: [{ route: 'path', everyHours: 1 / options.arrivalsPerHour, cv: 1, pieces: 1 }],
});
