import fc from 'fast-check';
import { roomAir, type RoomAir } from '../finishing/cure.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { bridgedAlong, gatheredAlong, airStretches, type AirStretch } from './standing-air.ts';

/** The air of a room that is one temperature in even hours and another one in odd ones. */
function air(evenC: number, oddC: number, hours = 100): RoomAir {
  const made = roomAir(
    Array.from({ length: hours }, (_, i) => ({
      atMs: i * HOUR_MS,
      temperatureC: i % 2 === 0 ? evenC : oddC,
      relativeHumidityPct: 50,
    })),
  );
  if (!made) throw new Error('no air');
  return made;
}

/** Stretch by stretch, the plain way: what each of them gives between the two instants. */
const plain = (stretches: readonly AirStretch[], fromMs: number, toMs: number, q: number): number =>
  stretches.reduce((sum, stretch, i) => {
    const from = Math.max(fromMs, i === 0 ? -Infinity : stretch.fromMs);
    const to = Math.min(toMs, stretches[i + 1]?.fromMs ?? Infinity);
    return sum + stretch.air.hours(from, to, q);
  }, 0);

describe('reference hours along several stretches', () => {
  it('are added room by room: 2 h at 21 °C and 3 h at 31 °C with q = 2 are 2 + 6', () => {
    const stretches = [
      { fromMs: 0, air: air(21, 21) },
      { fromMs: 2 * HOUR_MS, air: air(31, 31) },
    ];
    expect(gatheredAlong(stretches)(0, 5 * HOUR_MS, 2)).toBeCloseTo(8, 9);
    expect(gatheredAlong(stretches)(HOUR_MS, 2 * HOUR_MS, 2)).toBeCloseTo(1, 9);
    expect(gatheredAlong(stretches)(3 * HOUR_MS, 3 * HOUR_MS, 2)).toBe(0);
    expect(gatheredAlong(stretches)(4 * HOUR_MS, 3 * HOUR_MS, 2)).toBe(0);
  });

  it('are what adding stretch by stretch gives, for any stretches, instants and materials', () => {
    const rooms = [air(12, 18), air(21, 24), air(30, 9)];
    const hour = fc.integer({ min: 0, max: 90 * 4 }).map((quarters) => (quarters * HOUR_MS) / 4);
    const stretch = fc.record({ fromMs: hour, room: fc.integer({ min: 0, max: 2 }) });
    let compared = 0;
    fc.assert(
      fc.property(
        fc.array(stretch, { minLength: 1, maxLength: 8 }),
        hour,
        hour,
        fc.constantFrom(1.6, 2),
        (list, a, b, q) => {
          const stretches = list
            .toSorted((one, other) => one.fromMs - other.fromMs)
            .map(({ fromMs, room }) => ({ fromMs, air: rooms[room] ?? air(21, 21) }));
          const [from, to] = [Math.min(a, b), Math.max(a, b)];
          expect(gatheredAlong(stretches)(from, to, q)).toBeCloseTo(plain(stretches, from, to, q), 8);
          compared += 1;
        },
      ),
      { seed: 20261125, numRuns: 500 },
    );
    expect(compared).toBe(500);
  });
});

describe('where something stood', () => {
  const samples = [{ atMs: 0, temperatureC: 21, relativeHumidityPct: 50 }];
  const rest = (hour: number, room: string) => ({ fromMs: hour * HOUR_MS, room });

  it('is the rooms of its holds in order, those without a log left out', () => {
    const climateOf = (room: string) => (room === 'Attic' ? undefined : samples);
    const stretches = airStretches([], climateOf, [
      rest(1, 'Cure room'),
      rest(3, 'Attic'),
      rest(5, 'Buff room'),
    ]);
    expect(stretches?.map(({ fromMs }) => fromMs / HOUR_MS)).toEqual([1, 5]);
    expect(airStretches([], () => undefined, [rest(1, 'Cure room')])).toBeUndefined();
    expect(airStretches([], climateOf)).toBeUndefined();
  });

  it('is silent where its own sensor was: from six hours after the last sample of that room', () => {
    const long = roomAir(samples);
    if (!long) throw new Error('no air');
    const stretches = [
      { fromMs: 0, air: long },
      { fromMs: 8 * HOUR_MS, air: air(21, 21, 30) },
    ];
    expect(bridgedAlong(stretches, 0, 12 * HOUR_MS)).toEqual([{ fromMs: 6 * HOUR_MS, toMs: 8 * HOUR_MS }]);
  });
});
