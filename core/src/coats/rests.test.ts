import fc from 'fast-check';
import { FinishRack, steady } from '../testing/finish-rack.ts';
import { hoursIn } from '../testing/tarrow.ts';
import type { ClimateSample } from '../units/climate.ts';
import type { ClimateOf } from './standing-air.ts';

const at = (temperatureC: number): ClimateSample[] => steady.map((one) => ({ ...one, temperatureC }));

/** Booth 1 at 11 °C, where lacquer cures at 1/1.6 of its speed; the cure room at 21 °C. */
const coldBooth: ClimateOf = (() => {
  const [cold, warm] = [at(11), at(21)];
  return (room) => (room === 'Booth 1' ? cold : warm);
})();

/** Hours each coat has gathered, lowest first. */
const gatheredAt = (rack: FinishRack, hour: number, climateOf = coldBooth): number[] =>
  rack.sightsIn(hour, climateOf)[0]?.rungs.map(({ gathered }) => gathered) ?? [];

/** Sealed in a booth at hour 0, on its hold from hour 1 on. */
const sealed = (): FinishRack =>
  new FinishRack().must(0, { type: 'start' }, { type: 'coat', room: 'Booth 1' }).must(1, { type: 'done' });

describe('where coats have stood', () => {
  it('is noted with the room when they come onto a hold, for the pieces that did', () => {
    const rack = new FinishRack()
      .must(0, { type: 'start' }, { type: 'coat' })
      .must(1, { type: 'done', pieces: [1, 2] })
      .must(1, { type: 'done', pieces: [3] })
      .must(2, { type: 'done' });
    expect(rack.state.rests).toEqual([
      { fromMs: hoursIn(1), operation: 'sealer', room: 'Cure room', positions: [1, 2, 3] },
      { fromMs: hoursIn(2), operation: 'sealer', room: 'Cure room', positions: [4, 5, 6] },
    ]);
  });

  it('is the booth up to the hold and the room from there on: 1 h / 1.6 + 4 h', () => {
    expect(gatheredAt(sealed(), 5)[0]).toBeCloseTo(1 / 1.6 + 4, 8);
  });

  it('stays the room after the hold ended: freed at hour 5, asked at hour 7 it is 1 h / 1.6 + 6 h', () => {
    const rack = sealed();
    const before = gatheredAt(rack, 5)[0];
    expect(rack.end(5)).toBeNull();
    expect(rack.state.pieces[0]?.operation).toBe('colour');
    expect(gatheredAt(rack, 5)[0]).toBe(before);
    expect(gatheredAt(rack, 7)[0]).toBeCloseTo(1 / 1.6 + 6, 8);
  });

  it('does not matter on a called hold, which is no room of its own', () => {
    const rack = sealed();
    expect(rack.end(5)).toBeNull();
    rack.must(6, { type: 'hold', reason: 'colour is to be looked at' });
    expect(rack.state.rests).toHaveLength(1);
    expect(gatheredAt(rack, 8)[0]).toBeCloseTo(1 / 1.6 + 7, 8);
  });

  it('is nothing to note while nothing is laid', () => {
    const rack = new FinishRack().must(0, { type: 'start' }, { type: 'coat' }, { type: 'done' });
    expect(new FinishRack().state.rests).toBeUndefined();
    expect(rack.state.rests).toHaveLength(1);
  });
});

describe('the clock of a coat', () => {
  /** Each move of the story as hours gathered just before and just after it, and a look in between. */
  const story = (climateOf: ClimateOf): number[][] => {
    const rack = sealed();
    const seen = [gatheredAt(rack, 1, climateOf), gatheredAt(rack, 4, climateOf)];
    if (rack.end(4.5, { because: 'to look at the clocks' }) !== null) throw new Error('not ended');
    seen.push(gatheredAt(rack, 4.5, climateOf), gatheredAt(rack, 5, climateOf));
    rack.must(5, { type: 'start' }, { type: 'sand', removalUm: 2 }, { type: 'coat', room: 'Booth 2' });
    seen.push(gatheredAt(rack, 5, climateOf), gatheredAt(rack, 6.9, climateOf));
    rack.must(7, { type: 'coat', room: 'Booth 2' }, { type: 'done' });
    rack.must(9, { type: 'start' });
    for (const hour of [10, 12, 14, 16]) {
      rack.must(hour, { type: 'coat', room: 'Booth 1' });
      seen.push(gatheredAt(rack, hour, climateOf), gatheredAt(rack, hour + 1, climateOf));
    }
    rack.must(18, { type: 'done' });
    seen.push(gatheredAt(rack, 18, climateOf), gatheredAt(rack, 90, climateOf));
    return seen;
  };

  it('never runs backwards through holds and their ends, and only a coat on it sets it back, in whatever air each room has', () => {
    const rooms = fc.record({
      'Booth 1': fc.integer({ min: 8, max: 34 }),
      'Booth 2': fc.integer({ min: 8, max: 34 }),
      'Cure room': fc.integer({ min: 8, max: 34 }),
    });
    let looks = 0;
    fc.assert(
      fc.property(rooms, (temperatures) => {
        const air = new Map(Object.entries(temperatures).map(([room, c]) => [room, at(c)]));
        const seen = story((room) => air.get(room));
        seen.slice(1).forEach((now, i) => {
          const coated = now.length > (seen[i]?.length ?? 0);
          seen[i]?.forEach((before, coat) => {
            // The sealer is a film of its own: no toner or lacquer on it opens it again.
            if (coated && coat > 0) return;
            looks += 1;
            expect(now[coat]).toBeGreaterThanOrEqual(before - 1e-9);
          });
        });
      }),
      { seed: 20261125, numRuns: 40 },
    );
    expect(looks).toBeGreaterThan(1500);
  });

  it('goes on in the room of the hold where the booth keeps no log', () => {
    const climateOf: ClimateOf = (room) => (room === 'Cure room' ? steady : undefined);
    expect(gatheredAt(sealed(), 5, climateOf)[0]).toBeCloseTo(5, 8);
  });
});
