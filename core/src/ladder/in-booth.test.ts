import { boothOpenings, type BoothAhead } from '../finishing/spraying.ts';
import { FinishRack } from '../testing/finish-rack.ts';
import { hoursIn } from '../testing/tarrow.ts';
import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import { inBooth } from './in-booth.ts';
import type { FinishView } from './ladder.ts';

/** Six pieces in hand at Clear coats since 8 h, the first of four coats on: it may be recoated at 9.5 h. */
function inClear(): FinishRack {
  const rack = new FinishRack();
  rack.must(0, { type: 'start' }, { type: 'coat' }, { type: 'done' });
  rack.end(5);
  rack.must(5, { type: 'start' }, { type: 'sand' }, { type: 'coat' });
  rack.must(6.1, { type: 'coat' }, { type: 'done' });
  return rack.must(8, { type: 'start' }, { type: 'coat', room: 'Cure room' });
}
const time = (ms: number): string => `${((ms - hoursIn(0)) / HOUR_MS).toFixed(1)} h`;
const DAMP = ['73 % RH, at most 70'];
/** Damp from one hour to another, forecast until 24 h. */
const boothAt = (
  now: number,
  from: number,
  to: number,
  verdict: 'spray' | 'blush' = 'spray',
): BoothAhead => ({
  name: 'Booth 3',
  judged: { verdict, against: verdict === 'spray' ? [] : DAMP },
  ahead: Array.from({ length: 24 - Math.ceil(now) }, (_, i) => {
    const hour = Math.ceil(now) + i;
    const shut = hour >= from && hour < to;
    return { atMs: hoursIn(hour), verdict: shut ? 'blush' : 'spray', against: shut ? DAMP : [] };
  }),
});
function seen(hour: number, booth: BoothAhead | undefined, change: Partial<FinishView> = {}): FinishView {
  const [view] = inClear().views(hour);
  if (!view) throw new Error('no view');
  return inBooth({ ...view, ...change }, booth && boothOpenings(booth, hoursIn(hour)), time);
}

describe('the next coat in its booth', () => {
  it('takes its share of the operation: 5 min a piece for four coats, 7.5 for six pieces', () => {
    expect(seen(9.8, undefined).coat).toMatchObject({ number: 2, of: 4, minutes: 7.5 });
  });

  it('may be laid until the booth closes, as long as it fits', () => {
    const booth = boothAt(9.8, 10, 14);
    expect(seen(9.8, booth)).toMatchObject({
      ready: true,
      title: 'Next coat before 10.0 h',
      detail: 'Coat 2 of 4 at clear; then Booth 3: 73 % RH, at most 70.',
      closesMs: hoursIn(10),
    });
    // Six minutes before ten: 6 / 1.25 min a piece are four pieces.
    expect(seen(9.9, booth)).toMatchObject({
      ready: false,
      title: 'Hold the coat until 14.0 h',
      detail:
        'Coat 2 of 4 at clear. Its 8 min do not fit before Booth 3 closes 10.0 h (73 % RH, at most 70); 4 of its 6 pieces would.',
      fromMs: hoursIn(14),
      lowMs: hoursIn(14),
      highMs: hoursIn(14),
    });
    // A minute is not enough for one.
    expect(seen(10 - 1 / 60, booth).detail).toMatch(/\(73 % RH, at most 70\)\.$/);
  });

  it('that still flashes is told from when the booth opens, if that is later', () => {
    const flashing = seen(8.5, undefined);
    expect(flashing.ready).toBe(false);
    expect(flashing.fromMs).toBeCloseTo(hoursIn(9.5), -4);
    expect(seen(8.5, boothAt(8.5, 9, 12))).toMatchObject({
      ready: false,
      title: 'Next coat from 12.0 h',
      detail: expect.stringMatching(/to recoat\. Booth 3: 73 % RH, at most 70\.$/) as string,
      fromMs: hoursIn(12),
    });
    expect(seen(8.5, boothAt(8.5, 11, 12))).toEqual(flashing);
  });

  it('is held in damp air, with the hour at which it opens or without one', () => {
    expect(seen(9.8, boothAt(9.8, 10, 11, 'blush'))).toMatchObject({
      ready: false,
      title: 'Hold the coat until 11.0 h',
      detail: 'Coat 2 of 4 at clear. Booth 3: 73 % RH, at most 70.',
    });
    expect(seen(9.8, boothAt(9.8, 10, 24, 'blush'))).toMatchObject({
      ready: false,
      title: 'Hold the coat',
      fromMs: null,
    });
  });

  it('whose recoat window closes meanwhile will want a scuff, and one that wants it now keeps saying so', () => {
    const booth = boothAt(9.9, 10, 14);
    const closesMs = hoursIn(12);
    expect(seen(9.9, booth, { closesMs }).detail).toMatch(
      /Its recoat window closes 12\.0 h: it will want a scuff first\.$/,
    );
    const scuff: Partial<FinishView> = { ready: false, scuffFirst: true, title: 'Scuff, then the next coat' };
    expect(seen(9.9, booth, scuff).title).toBe('Scuff, then the next coat');
    // The nearer end counts.
    const sooner = hoursIn(9.8) + 10 * MINUTE_MS;
    expect(seen(9.8, boothAt(9.8, 10, 14), { closesMs: sooner }).closesMs).toBe(sooner);
  });

  it('is as the ladder says where no booth is, or nobody logs its air', () => {
    const view = seen(9.8, undefined);
    expect(seen(9.8, { ...boothAt(9.8, 10, 14), judged: null })).toEqual(view);
  });
});
