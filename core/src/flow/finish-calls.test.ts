import { judgeBooth } from '../finishing/booth.ts';
import { HOUR_MS } from '../units/quantities.ts';
import { boothCalls, materialCalls, panelCalls, type BoothView } from './finish-calls.ts';

const NOW = Date.UTC(2026, 10, 24, 12);
const time = (ms: number): string => new Date(ms).toISOString().slice(11, 16);
const booth = (change: Partial<BoothView> = {}): BoothView => ({
  code: 'booth-3',
  name: 'Booth 3',
  judged: judgeBooth({ temperatureC: 21, relativeHumidityPct: 50, surfaceC: 20 }),
  closesMs: null,
  opensMs: null,
  closesAgainst: [],
  racks: 2,
  first: { batch: 'I-190', number: 2, minutes: 90, pieces: 12, fromMs: NOW, fit: 12 },
  filterHours: 10,
  filterLifeHours: 120,
  ...change,
});

describe('calls from the booths', () => {
  it('come when one will close with racks in front of it, and say which to spray first', () => {
    const closing = booth({ closesMs: NOW + 4 * HOUR_MS, closesAgainst: ['74 % RH, at most 70'] });
    expect(boothCalls([closing], NOW, time)).toMatchObject([
      {
        title: 'Booth 3 closes 16:00',
        detail:
          'Forecast: 74 % RH, at most 70. Spray I-190 first: its coat 2 takes 1.5 h and fits before that.',
      },
    ]);
  });

  it('are gone with their cause: nothing waits or is due before, or it does not close for half a day', () => {
    expect(boothCalls([booth()], NOW, time)).toEqual([]);
    expect(boothCalls([booth({ closesMs: NOW + 13 * HOUR_MS })], NOW, time)).toEqual([]);
    expect(boothCalls([booth({ closesMs: NOW + HOUR_MS, racks: 0, first: null })], NOW, time)).toEqual([]);
    expect(boothCalls([booth({ closesMs: NOW + HOUR_MS, first: null })], NOW, time)).toEqual([]);
  });

  it('come when one may not be sprayed in now, and for old filters', () => {
    const judged = judgeBooth({ temperatureC: 22, relativeHumidityPct: 76, surfaceC: 19 });
    const shut = booth({ judged, opensMs: NOW + 5 * HOUR_MS, filterHours: 121 });
    expect(boothCalls([shut], NOW, time).map(({ title }) => title)).toEqual([
      'Booth 3: do not spray now',
      'Booth 3 wants new filters',
    ]);
  });
});

describe('calls from the stores', () => {
  const mix = {
    code: 'M-4',
    material: 'catalysed satin',
    endsMs: NOW + HOUR_MS / 2,
    ended: false,
    leftLitres: 0.8,
  };
  const runsOut = { batch: 'B-230', atMs: NOW + 5 * 24 * HOUR_MS };
  const supply = { litres: 4, plannedLitres: 9, shortLitres: 5, wastedLitres: 0, runsOut };

  it('come for a mix at the end of its pot life, dearer when it is past, and not for one put away', () => {
    const calls = (change: object) =>
      materialCalls({ mixes: [{ ...mix, ...change }], materials: [] }, NOW, time);
    expect(calls({})[0]).toMatchObject({ title: 'Mix M-4 goes off 12:30', cost: 0.8 });
    expect(calls({ endsMs: NOW - HOUR_MS })[0]).toMatchObject({
      title: 'Mix M-4 is past its pot life',
      cost: 1.6,
    });
    expect(calls({ ended: true })).toEqual([]);
    expect(calls({ endsMs: NOW + 2 * HOUR_MS })).toEqual([]);
  });

  it('come before stock runs out, sooner than more can be had', () => {
    const calls = (leadDays: number, change: object = {}) =>
      materialCalls(
        { mixes: [], materials: [{ material: 'thin lacquer', supply: { ...supply, ...change }, leadDays }] },
        NOW,
        time,
      );
    expect(calls(9)[0]?.title).toBe('thin lacquer does not reach B-230');
    expect(calls(4)).toEqual([]);
    expect(calls(9, { runsOut: null })).toEqual([]);
    expect(calls(9, { litres: 0 })[0]?.title).toBe('There is no thin lacquer left');
  });
});

it('a panel ahead of the clock is a call, the dearer the more it is ahead', () => {
  const panel = { panel: 'TP-31', batch: 'I-171', pieces: 12, curedMs: NOW, clockMs: NOW + 48 * HOUR_MS };
  expect(panelCalls([panel], time)).toMatchObject([
    { title: 'Test panel TP-31 says I-171 is cured', cost: 12, evidence: '/finish/panels/TP-31' },
  ]);
});
