import type { DryingOutlook } from '../wood/drying/forecast.ts';
import { roomCalls, type RoomView } from './room-calls.ts';

const after = (days: number): DryingOutlook => ({ median: 24 * days, low90: 20 * days, high90: 30 * days });
const room = (extra: Partial<RoomView> = {}): RoomView => ({
  room: 'Wood room',
  band: { lowPct: 6, highPct: 8.5 },
  relativeHumidityPct: 54,
  wantedRhPct: 38,
  drift: { sinceMs: 0, hours: 5, damp: true, emcPct: 9.9 },
  health: { state: 'well', words: '' },
  shifts: [],
  ...extra,
});

describe('a room that drifts', () => {
  it('calls with its numbers and what it does to each forecast', () => {
    const shifts = [
      { code: 'W-74', pieces: 48, usual: after(4), drifted: after(6.5) },
      { code: 'W-75', pieces: 20, usual: after(9), drifted: 'never' as const },
      { code: 'W-76', pieces: 20, usual: after(2), drifted: after(2.2) },
    ];
    const [call] = roomCalls([room({ shifts })]);
    expect(call).toMatchObject({
      kind: 'room-drift',
      title: 'Wood room is too damp',
      detail:
        'EMC 9.9 % for 5 h, should be 6.0–8.5 %. RH 54 %, wanted 38 %. If it stays: W-74 2.5 days later, W-75 not in this air.',
      evidence: '/wood/rooms/Wood%20room',
    });
    // 2 + 0.05 · (48 · 2.5 + 20 · 30).
    expect(call?.cost).toBeCloseTo(38, 6);
  });

  it('is quiet in its band, and calls for a sensor nobody can trust', () => {
    expect(roomCalls([room({ drift: null })])).toEqual([]);
    const silent = { state: 'silent' as const, words: 'silent for 5 h' };
    expect(roomCalls([room({ drift: null, health: silent })])[0]).toMatchObject({
      kind: 'sensor',
      title: 'The sensor in Wood room is silent',
    });
    expect(roomCalls([room({ drift: null, health: { state: 'never heard', words: '' } })])).toEqual([]);
  });
});
