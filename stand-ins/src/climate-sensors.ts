import { createServer } from 'node:net';
import { writeFileSync } from 'node:fs';
import { randomStream, type RandomStream } from '@ample-crane/core';
import { Aedes } from 'aedes';
import { connectAsync } from 'mqtt';

/**
 * Simulated climate sensors and the small MQTT broker they publish to, as a factory's own would:
 * `node dist/climate-sensors.js --port-file FILE --server http://127.0.0.1:8630`
 * The broker listens on a free loopback port, whose number is written to the file. Each room's sensor publishes
 * `ample-crane/climate/<room>` with {"at", "temperatureC", "relativeHumidityPct"}; those of booths measure the work too,
 * "surfaceC". SEND_EVERY_S makes them quicker.
 * Now and then one misbehaves, as real ones do: FAULTS=0 keeps them well behaved.
 */
const option = (name: string): string => {
  const value = process.argv[process.argv.indexOf(name) + 1];
  if (!process.argv.includes(name) || value === undefined)
    throw new Error(`climate-sensors: ${name} is missing`);
  return value;
};
const everyMs = 1000 * Number(process.env.SEND_EVERY_S ?? 60);
const faults = process.env.FAULTS !== '0';
const RETRY_MS = 1000;

/** How fast a room comes back to its own climate, and how much each reading wanders. */
const PULL = 0.05;
const WANDER_C = 0.05;
const WANDER_PCT = 0.25;
/** One message in so many is spoilt. */
const FAULT_ONE_IN = 400;

interface Sensor {
  room: string;
  temperatureC: number;
  relativeHumidityPct: number;
  usual: { temperatureC: number; relativeHumidityPct: number };
}

interface RoomAnswer {
  room: string;
  air: { temperatureC: number; relativeHumidityPct: number } | null;
}

/** Starts the broker; gives its address. */
async function startBroker(portFile: string): Promise<string> {
  const broker = await Aedes.createBroker();
  const listener = createServer(broker.handle);
  await new Promise<void>((resolve) => listener.listen(0, '127.0.0.1', resolve));
  const address = listener.address();
  if (typeof address !== 'object' || address === null)
    throw new Error('climate-sensors: the broker has no port');
  writeFileSync(portFile, String(address.port));
  return `mqtt://127.0.0.1:${address.port}`;
}

/** What a server answers, however long it takes to start. */
async function answer<T>(url: string): Promise<T> {
  for (;;) {
    const response = await fetch(url).catch(() => null);
    if (response?.ok) return (await response.json()) as T;
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
  }
}

function step(sensor: Sensor, random: RandomStream): void {
  const { usual } = sensor;
  sensor.temperatureC += PULL * (usual.temperatureC - sensor.temperatureC) + random.normal(0, WANDER_C);
  sensor.relativeHumidityPct +=
    PULL * (usual.relativeHumidityPct - sensor.relativeHumidityPct) + random.normal(0, WANDER_PCT);
}

/** Work comes into a booth a little colder than its air. */
const SURFACE_BELOW_C = 0.9;
const isBooth = (room: string): boolean => /^booth\b/i.test(room);

const tenth = (value: number): number => Math.round(10 * value) / 10;

/** One message, sometimes a bad one. */
function messageOf(sensor: Sensor, atMs: number, random: RandomStream): string {
  const reading = {
    at: new Date(atMs).toISOString(),
    temperatureC: tenth(sensor.temperatureC),
    relativeHumidityPct: tenth(sensor.relativeHumidityPct),
    ...(isBooth(sensor.room) ? { surfaceC: tenth(sensor.temperatureC - SURFACE_BELOW_C) } : {}),
  };
  if (!faults || !random.chance(1 / FAULT_ONE_IN)) return JSON.stringify(reading);
  return random.pick([
    'ERR 7',
    JSON.stringify({ ...reading, temperatureC: null }),
    JSON.stringify({ ...reading, temperatureC: 61.3 }),
    JSON.stringify({ ...reading, at: '2001-01-01T00:00:00Z' }),
  ]);
}

/** Where the server listens for a room; see the server's sensors. */
const topicOf = (room: string): string =>
  `ample-crane/climate/${room.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-')}`;

const broker = await startBroker(option('--port-file'));
const server = option('--server');
const random = randomStream(Date.now() % 2 ** 31);
const rooms = await answer<RoomAnswer[]>(`${server}/api/climate/rooms`);
const { nowMs } = await answer<{ nowMs: number }>(`${server}/api/clock`);
const offsetMs = nowMs - Date.now();
const sensors = rooms.map(({ room, air }): Sensor => {
  const usual = {
    temperatureC: air?.temperatureC ?? 21,
    relativeHumidityPct: air?.relativeHumidityPct ?? 44,
  };
  return { room, ...usual, usual };
});
const client = await connectAsync(broker);
for (;;) {
  for (const sensor of sensors) {
    step(sensor, random);
    await client.publishAsync(topicOf(sensor.room), messageOf(sensor, Date.now() + offsetMs, random));
  }
  await new Promise((resolve) => setTimeout(resolve, everyMs));
}
