import { HOUR_MS, MINUTE_MS } from '../units/quantities.ts';
import { judgeRoom } from './room.ts';
import { doubtsOf, readSensorMessage, sensorHealth, sensorInstant } from './sensor.ts';

const NOON = Date.UTC(2026, 5, 1, 12);
const sample = (minutes: number, temperatureC: number, relativeHumidityPct = 40) => ({
  atMs: NOON + minutes * MINUTE_MS,
  temperatureC,
  relativeHumidityPct,
});

describe('a sensor’s message', () => {
  it('is a reading when it is whole', () => {
    const text = '{"at":"2026-06-01T12:00:00Z","temperatureC":21.4,"relativeHumidityPct":38}';
    expect(readSensorMessage(text)).toEqual({
      reading: { atMs: NOON, temperatureC: 21.4, relativeHumidityPct: 38 },
    });
  });

  it('of a booth may tell how warm the work is', () => {
    const text = '{"temperatureC":21.4,"relativeHumidityPct":38,"surfaceC":19.9}';
    expect(readSensorMessage(text)).toEqual({
      reading: { atMs: null, temperatureC: 21.4, relativeHumidityPct: 38, surfaceC: 19.9 },
    });
    expect(readSensorMessage(text.replace('19.9', '"cold"'))).toEqual({
      nonsense: 'surfaceC must be -40…80, got "cold"',
    });
  });

  it.each([
    ['21.4;38', /no JSON/],
    ['[]', /temperatureC is missing/],
    ['null', /no object/],
    ['{"relativeHumidityPct":38}', /temperatureC is missing/],
    ['{"temperatureC":"21","relativeHumidityPct":38}', /temperatureC must be/],
    ['{"temperatureC":21,"relativeHumidityPct":140}', /relativeHumidityPct must be 0…100, got 140/],
    ['{"temperatureC":21,"relativeHumidityPct":40,"at":"noon"}', /at is no time/],
  ])('is refused with its reason: %s', (text, why) => {
    const message = readSensorMessage(text);
    expect('nonsense' in message ? message.nonsense : 'a reading').toMatch(why);
  });

  it('from a wrong clock is stamped with its arrival; one sent late keeps its time', () => {
    expect(sensorInstant(NOON + 6 * MINUTE_MS, NOON)).toEqual({ atMs: NOON, clockOffMs: 6 * MINUTE_MS });
    expect(sensorInstant(NOON - 3 * HOUR_MS, NOON)).toEqual({ atMs: NOON - 3 * HOUR_MS, clockOffMs: null });
    expect(sensorInstant(0, NOON)).toEqual({ atMs: NOON, clockOffMs: -NOON });
    expect(sensorInstant(null, NOON)).toEqual({ atMs: NOON, clockOffMs: null });
  });
});

describe('a sensor that jumps', () => {
  it('is doubted for one wild reading and believed again after it', () => {
    expect(doubtsOf([], [sample(0, 21), sample(1, 48), sample(2, 21.1)])).toEqual([null, 'jump', null]);
  });

  it('is believed when three in a row agree: then it was the room', () => {
    const readings = [sample(0, 21), sample(1, 27), sample(2, 27.2), sample(3, 27.1), sample(4, 27)];
    expect(doubtsOf([], readings)).toEqual([null, 'jump', 'jump', null, null]);
  });

  it('is judged by what came before the message, and not after a long silence', () => {
    const before = [{ ...sample(0, 21), doubt: null }];
    expect(doubtsOf(before, [sample(1, 30)])).toEqual(['jump']);
    expect(doubtsOf(before, [sample(60, 30)])).toEqual([null]);
  });
});

describe('a sensor’s health', () => {
  const hours = (count: number, swingC: number) =>
    Array.from({ length: count }, (_, i) => ({
      atMs: NOON - (count - 1 - i) * HOUR_MS,
      lowC: 21,
      highC: 21 + swingC,
      lowRhPct: 40,
      highRhPct: 40,
    }));

  it('is well, silent or stuck', () => {
    const soon = { nowMs: NOON + 10 * MINUTE_MS, lastMs: NOON + 9 * MINUTE_MS };
    expect(sensorHealth({ hours: hours(12, 0.3), ...soon }).state).toBe('well');
    expect(sensorHealth({ hours: hours(12, 0), ...soon })).toMatchObject({
      state: 'stuck',
      words: expect.stringMatching(/7 h/) as string,
    });
    expect(sensorHealth({ hours: hours(12, 0.3), lastMs: NOON, nowMs: NOON + 5 * HOUR_MS })).toEqual({
      state: 'silent',
      words: 'silent for 5 h',
    });
    expect(sensorHealth({ hours: [], lastMs: null, nowMs: NOON }).state).toBe('never heard');
  });
});

describe('a room', () => {
  const band = { lowPct: 6, highPct: 8.5 };
  const course = (...rh: number[]) =>
    rh.map((relativeHumidityPct, i) => ({
      atMs: NOON + i * HOUR_MS,
      temperatureC: 21.1,
      relativeHumidityPct,
    }));

  it('holds its band: 40 % RH at 21.1 °C is 7.7 % (Wood Handbook, table 4-2), 38 % RH would hold the middle', () => {
    const judgement = judgeRoom(course(40, 40), band);
    expect(judgement.emcPct).toBeCloseTo(7.7, 1);
    expect(judgement.drift).toBeNull();
    expect(judgement.wantedRhPct).toBeCloseTo(37.3, 0);
  });

  it('is judged in a frost too: below −1 °C as at −1 °C, without a humidity to wish for', () => {
    const frost = [{ atMs: NOON, temperatureC: -12, relativeHumidityPct: 50 }];
    // 9.5 % at 30 °F and 50 % RH in the table.
    expect(judgeRoom(frost, band).emcPct).toBeCloseTo(9.5, 0);
    expect(judgeRoom(frost, band).wantedRhPct).toBeNull();
  });

  it('drifts once it is outside for more than an hour', () => {
    expect(judgeRoom(course(40, 40, 55), band).drift).toBeNull();
    expect(judgeRoom(course(40, 55, 55, 55), band).drift).toMatchObject({
      sinceMs: NOON + HOUR_MS,
      hours: 3,
      damp: true,
    });
    expect(judgeRoom(course(40, 20, 20), band).drift).toMatchObject({ hours: 2, damp: false });
    expect(judgeRoom([], band)).toEqual({ emcPct: null, drift: null, wantedRhPct: null });
  });
});
