import { readSensorMessage, sensorInstant } from '@ample-crane/core';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { connect, type MqttClient } from 'mqtt';
import { DataSource } from 'typeorm';
import { isOfTheValues } from '../database/failure.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService, type NewClimateReading } from './climate.service.ts';

/** Where sensors publish: `ample-crane/climate/<room>`, the room's name in small letters, blanks as dashes. */
export const CLIMATE_TOPIC = 'ample-crane/climate/';
/** Readings are written together this often, and so many at once. */
const WRITE_EVERY_MS = 1000;
const WRITTEN_AT_ONCE = 5000;
const RECONNECT_MS = 2000;
/** Without the database no more than this is remembered: two days of 30 sensors. What is older is dropped, and counted. */
const MOST_WAITING = 100_000;
const LONGEST_SAID = 120;
const CONTROL_CHARACTERS = /\p{Cc}/gu;

export const topicOf = (room: string): string =>
  CLIMATE_TOPIC + room.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-');

/** What went wrong with one room's sensor since it was last written down. */
interface Trouble {
  nonsense: number;
  said: string | null;
  dropped: number;
  clockOffMs: number | null;
}

/**
 * Hears the climate sensors over MQTT. A broker or database that is away is waited for; nonsense, wrong clocks and readings
 * that had to be dropped are counted against the sensor, never guessed at. A reading the database will not have is set aside
 * alone. Two servers that both listen keep each reading once.
 */
@Injectable()
export class SensorsService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly logger = new Logger('sensors');
  private waiting: NewClimateReading[] = [];
  /** By topic. */
  private roomOf: ReadonlyMap<string, string> = new Map();
  private learning: Promise<ReadonlyMap<string, string>> | undefined;
  private troubles = new Map<string, Trouble>();
  private client: MqttClient | undefined;
  private timer: NodeJS.Timeout | undefined;
  private writing: Promise<void> = Promise.resolve();

  constructor(
    private readonly source: DataSource,
    private readonly climate: ClimateService,
    private readonly clock: FactoryClock,
    private readonly setup: SetupService,
  ) {}

  onApplicationBootstrap(): void {
    const { MQTT_URL: url } = process.env;
    if (url) this.listen(url);
  }

  listen(url: string): void {
    const client = connect(url, { reconnectPeriod: RECONNECT_MS, clean: true });
    client.on('connect', () => client.subscribe(`${CLIMATE_TOPIC}+`));
    this.learnRooms().catch((error: Error) => this.logger.warn(`rooms: ${error.message}`));
    client.on('error', (error) => this.logger.warn(`broker: ${error.message}`));
    client.on(
      'message',
      (topic, payload, { retain }) => void this.hear(topic, payload.toString('utf8'), { retained: retain }),
    );
    this.client = client;
    this.timer = setInterval(() => void this.write(), WRITE_EVERY_MS);
  }

  /** One message, as it arrived; `retained`: the broker kept it for whoever comes, nobody knows for how long. */
  async hear(topic: string, text: string, { retained = false } = {}): Promise<void> {
    try {
      const room = this.roomOf.get(topic) ?? (await this.learnRooms()).get(topic);
      if (room === undefined) {
        this.logger.warn(`no room for '${topic}'`);
        return;
      }
      const now = await this.clock.now();
      const message = readSensorMessage(text);
      if ('nonsense' in message) return this.noteNonsense(room, message.nonsense);
      if (retained && message.reading.atMs === null)
        return this.noteNonsense(room, 'kept by the broker and without a time: it may be of any day');
      const { atMs, clockOffMs } = sensorInstant(message.reading.atMs, now);
      if (clockOffMs !== null) this.troubleOf(room).clockOffMs = clockOffMs;
      // Whole seconds: two servers that stamp one message must agree on its instant.
      this.waiting.push({ ...message.reading, room, atMs: Math.floor(atMs / 1000) * 1000 });
      this.dropOldest();
    } catch (error) {
      this.logger.warn(`a message was lost: ${(error as Error).message}`);
    }
  }

  /** Once known, a room is known also while the database is away, and its messages wait for nothing. Asked once for all who wait. */
  private learnRooms(): Promise<ReadonlyMap<string, string>> {
    this.learning ??= this.setup
      .rooms()
      .then((rooms) => (this.roomOf = new Map(rooms.map(({ name }) => [topicOf(name), name]))))
      .finally(() => (this.learning = undefined));
    return this.learning;
  }

  private dropOldest(): void {
    for (const { room } of this.waiting.splice(0, this.waiting.length - MOST_WAITING))
      this.troubleOf(room).dropped += 1;
  }

  private troubleOf(room: string): Trouble {
    const known = this.troubles.get(room) ?? { nonsense: 0, said: null, dropped: 0, clockOffMs: null };
    this.troubles.set(room, known);
    return known;
  }

  private noteNonsense(room: string, said: string): void {
    const trouble = this.troubleOf(room);
    trouble.nonsense += 1;
    trouble.said = said.replaceAll(CONTROL_CHARACTERS, '\u{fffd}').slice(0, LONGEST_SAID);
  }

  /** Writes what was heard; while the database is away it is kept and written later. */
  write(): Promise<void> {
    this.writing = this.writing.then(async () => {
      try {
        await this.writeReadings();
        await this.writeTroubles();
      } catch (error) {
        this.logger.warn(`readings wait for the database: ${(error as Error).message}`);
      }
    });
    return this.writing;
  }

  private async writeReadings(): Promise<void> {
    while (this.waiting.length > 0) {
      const readings = this.waiting.splice(0, WRITTEN_AT_ONCE);
      try {
        await this.keep(readings);
      } catch (error) {
        this.waiting.unshift(...readings);
        throw error;
      }
      await this.source.query(
        `INSERT INTO sensor (room, heard_at) SELECT DISTINCT unnest($1::text[]), $2::timestamptz
         ON CONFLICT (room) DO UPDATE SET heard_at = excluded.heard_at`,
        [readings.map(({ room }) => room), new Date(await this.clock.now())],
      );
    }
  }

  /** Keeps them together; when the database will not have something among them, all but that. */
  private async keep(readings: NewClimateReading[]): Promise<void> {
    try {
      await this.climate.keep(readings);
    } catch (error) {
      if (!isOfTheValues(error)) throw error;
      const [first] = readings;
      if (first && readings.length === 1)
        return this.noteNonsense(first.room, `it cannot be kept: ${(error as Error).message}`);
      const half = Math.ceil(readings.length / 2);
      await this.keep(readings.slice(0, half));
      await this.keep(readings.slice(half));
    }
  }

  private async writeTroubles(): Promise<void> {
    const troubles = this.troubles;
    if (troubles.size === 0) return;
    this.troubles = new Map();
    try {
      await this.source.query(
        `INSERT INTO sensor AS s (room, heard_at, nonsense, nonsense_said, nonsense_at, dropped, dropped_at, clock_off_ms, clock_at)
         SELECT t.room, $2::timestamptz, t.nonsense, t.said, CASE WHEN t.nonsense > 0 THEN $2::timestamptz END,
                t.dropped, CASE WHEN t.dropped > 0 THEN $2::timestamptz END,
                t."clockOffMs", CASE WHEN t."clockOffMs" IS NOT NULL THEN $2::timestamptz END
           FROM jsonb_to_recordset($1::jsonb) AS t(room text, nonsense int, said text, dropped int, "clockOffMs" bigint)
         ON CONFLICT (room) DO UPDATE SET
           heard_at = excluded.heard_at,
           nonsense = s.nonsense + excluded.nonsense,
           nonsense_said = coalesce(excluded.nonsense_said, s.nonsense_said),
           nonsense_at = coalesce(excluded.nonsense_at, s.nonsense_at),
           dropped = s.dropped + excluded.dropped,
           dropped_at = coalesce(excluded.dropped_at, s.dropped_at),
           clock_off_ms = coalesce(excluded.clock_off_ms, s.clock_off_ms),
           clock_at = coalesce(excluded.clock_at, s.clock_at)`,
        [
          JSON.stringify([...troubles].map(([room, trouble]) => ({ room, ...trouble }))),
          new Date(await this.clock.now()),
        ],
      );
    } catch (error) {
      for (const [room, before] of troubles) {
        const since = this.troubleOf(room);
        since.nonsense += before.nonsense;
        since.dropped += before.dropped;
        since.said ??= before.said;
        since.clockOffMs ??= before.clockOffMs;
      }
      throw error;
    }
  }

  async beforeApplicationShutdown(): Promise<void> {
    clearInterval(this.timer);
    await this.client?.endAsync(true);
    await this.write();
  }
}
