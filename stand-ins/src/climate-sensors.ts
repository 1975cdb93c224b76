import { randomStream } from '@ample-crane/core';

/**
 * Simulated climate sensors: one for each room, sending temperature and humidity to the server over HTTP, as a small
 * gateway on the wall would. `node dist/climate-sensors.js http://127.0.0.1:8630`
 */
const address = process.argv[2];
if (!address) throw new Error('climate-sensors: name the server, for example http://127.0.0.1:8630');
/** As often as a real gateway sends; SEND_EVERY_S makes it quicker for a demonstration. */
const everyMs = 1000 * Number(process.env.SEND_EVERY_S ?? 300);

/** How fast a room comes back to its own climate, and how much each reading wanders. */
const PULL = 0.1;
const WANDER_C = 0.12;
const WANDER_PCT = 0.5;
const USUAL = { temperatureC: 21, relativeHumidityPct: 44 };

interface Sensor {
  room: string;
  temperatureC: number;
  relativeHumidityPct: number;
}

const random = randomStream(Date.now() % 2 ** 31);

async function sensorsOf(server: string): Promise<Sensor[]> {
  const response = await fetch(`${server}/api/climate/rooms`);
  if (!response.ok) throw new Error(`the server answers ${response.status}`);
  const rooms = (await response.json()) as { room: string }[];
  return rooms.map(({ room }) => ({ room, ...USUAL }));
}

function step(sensor: Sensor): void {
  sensor.temperatureC += PULL * (USUAL.temperatureC - sensor.temperatureC) + random.normal(0, WANDER_C);
  sensor.relativeHumidityPct +=
    PULL * (USUAL.relativeHumidityPct - sensor.relativeHumidityPct) + random.normal(0, WANDER_PCT);
}

const tenth = (value: number): number => Math.round(10 * value) / 10;

async function send(server: string, sensors: readonly Sensor[]): Promise<void> {
  const board = (await (await fetch(`${server}/api/clock`)).json()) as { nowMs: number };
  const at = new Date(board.nowMs).toISOString();
  const readings = sensors.map(({ room, temperatureC, relativeHumidityPct }) => ({
    room,
    at,
    temperatureC: tenth(temperatureC),
    relativeHumidityPct: tenth(relativeHumidityPct),
  }));
  await fetch(`${server}/api/climate`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ readings }),
  });
}

const sensors = await sensorsOf(address);
for (;;) {
  sensors.forEach(step);
  // A server that is away is tried again at the next reading, as a sensor on the wall would.
  await send(address, sensors).catch((error: unknown) => console.warn(`climate-sensors: ${String(error)}`));
  await new Promise((resolve) => setTimeout(resolve, everyMs));
}
