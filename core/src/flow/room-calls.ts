import { spanWords } from '../time/span-words.ts';
import type { DryingOutlook } from '../wood/drying/forecast.ts';
import type { MoistureWindow } from '../wood/gate.ts';
import type { RoomDrift } from '../wood/room.ts';
import type { SensorHealth } from '../wood/sensor.ts';
import type { SingleCall } from './call.ts';

/** One forecast in the room's usual air and in the air as it is now. */
export interface ForecastShift {
  /** Code of a lot or a batch. */
  code: string;
  pieces: number;
  usual: DryingOutlook | 'never' | null;
  drifted: DryingOutlook | 'never' | null;
}

export interface RoomView {
  room: string;
  band: MoistureWindow;
  relativeHumidityPct: number | null;
  wantedRhPct: number | null;
  drift: RoomDrift | null;
  health: SensorHealth;
  shifts: readonly ForecastShift[];
}

/** What a board or piece that waits a day longer costs, against an instrument-day. */
const COST_A_PIECE_DAY = 0.05;
/** A drift is worth looking at even when no date moves yet, and so is a sensor nobody can trust. */
const DRIFT_COST = 2;
const SENSOR_COST = 1;
/** A date that will never come counts as so many days. */
const NEVER_DAYS = 30;
const HOURS_A_DAY = 24;
const SHIFTS_NAMED = 3;

/** Calls for rooms that drift, with what that does to each forecast, and for sensors that cannot be believed. */
export function roomCalls(rooms: readonly RoomView[]): SingleCall[] {
  return rooms.flatMap((room) => [
    ...(room.drift ? [driftCall(room, room.drift)] : []),
    ...(room.health.state === 'silent' || room.health.state === 'stuck' ? [sensorCall(room)] : []),
  ]);
}

function driftCall(room: RoomView, drift: RoomDrift): SingleCall {
  const { band, relativeHumidityPct, wantedRhPct, shifts } = room;
  const moved = shifts.filter((shift) => Math.abs(daysLater(shift)) >= 0.5);
  const named = moved.slice(0, SHIFTS_NAMED).map(shiftWords);
  const more = moved.length > SHIFTS_NAMED ? `, and ${moved.length - SHIFTS_NAMED} more` : '';
  const effect =
    named.length > 0 ? ` If it stays: ${named.join(', ')}${more}.` : ' No date moves by half a day yet.';
  const wanted = wantedRhPct === null ? '' : `, wanted ${wantedRhPct.toFixed(0)} %`;
  const air = relativeHumidityPct === null ? '' : ` RH ${relativeHumidityPct.toFixed(0)} %${wanted}.`;
  return {
    id: `room-drift:${room.room}`,
    kind: 'room-drift',
    subject: room.room,
    cause: null,
    pieces: 0,
    title: `${room.room} is too ${drift.damp ? 'damp' : 'dry'}`,
    detail: `EMC ${drift.emcPct.toFixed(1)} % for ${spanWords(drift.hours)}, should be ${band.lowPct.toFixed(1)}–${band.highPct.toFixed(1)} %.${air}${effect}`,
    cost:
      DRIFT_COST +
      COST_A_PIECE_DAY * moved.reduce((sum, shift) => sum + shift.pieces * Math.max(0, daysLater(shift)), 0),
    actions: [{ label: 'See the room', href: roomPage(room.room) }],
    evidence: roomPage(room.room),
  };
}

/** Days a forecast moves: later is positive; a date that is lost counts as NEVER_DAYS. */
function daysLater({ usual, drifted }: ForecastShift): number {
  if (usual === null || drifted === null || usual === drifted) return 0;
  if (drifted === 'never') return NEVER_DAYS;
  if (usual === 'never') return -NEVER_DAYS;
  return (drifted.median - usual.median) / HOURS_A_DAY;
}

function shiftWords(shift: ForecastShift): string {
  if (shift.drifted === 'never') return `${shift.code} not in this air`;
  const days = daysLater(shift);
  return `${shift.code} ${Math.abs(days).toFixed(days < 10 ? 1 : 0)} days ${days > 0 ? 'later' : 'sooner'}`;
}

function sensorCall(room: RoomView): SingleCall {
  return {
    id: `sensor:${room.room}`,
    kind: 'sensor',
    subject: room.room,
    cause: null,
    pieces: 0,
    title: `The sensor in ${room.room} is ${room.health.state}`,
    detail: `It is ${room.health.words}. Dates that rest on it go by what it said before.`,
    cost: SENSOR_COST,
    actions: [{ label: 'See the room', href: roomPage(room.room) }],
    evidence: roomPage(room.room),
  };
}

const roomPage = (room: string): string => `/wood/rooms/${encodeURIComponent(room)}`;
