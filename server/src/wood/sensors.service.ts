import { readSensorMessage, sensorInstant } from '@ample-crane/core';
import {
  Injectable,
  Logger,
  type BeforeApplicationShutdown,
  type OnApplicationBootstrap,
} from '@nestjs/common';
import { connect, type MqttClient } from 'mqtt';
import { DataSource } from 'typeorm';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService, type NewClimateReading } from './climate.service.ts';

/** Where sensors publish: `ample-crane/climate/<room>`, the room's name in small letters, blanks as dashes. */
export const CLIMATE_TOPIC = 'ample-crane/climate/';
/** Readings are written together this often. */
const WRITE_EVERY_MS = 1000;
const RECONNECT_MS = 2000;
/** Without the database no more than this is remembered: about an hour of 30 sensors. */
const MOST_WAITING = 2000;
const LONGEST_SAID = 120;

export const topicOf = (room: string): string =>
  CLIMATE_TOPIC + room.toLowerCase().replaceAll(/[^a-z0-9]+/g, '-');

/**
 * Hears the climate sensors over MQTT. A broker or database that is away is waited for; nonsense and wrong clocks are
 * counted against the sensor, never guessed at. Two servers that both listen keep each reading once.
 */
@Injectable()
export class SensorsService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly logger = new Logger('sensors');
  private readonly waiting: NewClimateReading[] = [];
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
    client.on('error', (error) => this.logger.warn(`broker: ${error.message}`));
    client.on('message', (topic, payload) => void this.hear(topic, payload.toString('utf8')));
    this.client = client;
    this.timer = setInterval(() => void this.write(), WRITE_EVERY_MS);
  }

  /** One message, as it arrived. */
  async hear(topic: string, text: string): Promise<void> {
    try {
      const room = (await this.setup.rooms()).find(({ name }) => topicOf(name) === topic)?.name;
      if (room === undefined) {
        this.logger.warn(`no room for '${topic}'`);
        return;
      }
      const now = await this.clock.now();
      const message = readSensorMessage(text);
      if ('nonsense' in message) return await this.noteNonsense(room, message.nonsense, now);
      const { atMs, clockOffMs } = sensorInstant(message.reading.atMs, now);
      if (clockOffMs !== null) await this.noteClock(room, clockOffMs, now);
      // Whole seconds: two servers that stamp one message must agree on its instant.
      this.waiting.push({ ...message.reading, room, atMs: Math.floor(atMs / 1000) * 1000 });
      this.waiting.splice(0, this.waiting.length - MOST_WAITING);
    } catch (error) {
      this.logger.warn(`a message was lost: ${(error as Error).message}`);
    }
  }

  /** Writes what was heard; while the database is away it is kept and written later. */
  write(): Promise<void> {
    this.writing = this.writing.then(async () => {
      const readings = this.waiting.splice(0);
      if (readings.length === 0) return;
      try {
        await this.climate.keep(readings);
        await this.source.query(
          `INSERT INTO sensor (room, heard_at) SELECT DISTINCT unnest($1::text[]), $2::timestamptz
           ON CONFLICT (room) DO UPDATE SET heard_at = excluded.heard_at`,
          [readings.map(({ room }) => room), new Date(await this.clock.now())],
        );
      } catch (error) {
        this.logger.warn(`readings wait for the database: ${(error as Error).message}`);
        this.waiting.unshift(...readings);
      }
    });
    return this.writing;
  }

  private async noteNonsense(room: string, said: string, nowMs: number): Promise<void> {
    await this.source.query(
      `INSERT INTO sensor (room, heard_at, nonsense, nonsense_said, nonsense_at) VALUES ($1, $2, 1, $3, $2)
       ON CONFLICT (room) DO UPDATE SET heard_at = $2, nonsense = sensor.nonsense + 1, nonsense_said = $3, nonsense_at = $2`,
      [room, new Date(nowMs), said.slice(0, LONGEST_SAID)],
    );
  }

  private async noteClock(room: string, clockOffMs: number, nowMs: number): Promise<void> {
    await this.source.query(
      `INSERT INTO sensor (room, heard_at, clock_off_ms, clock_at) VALUES ($1, $2, $3, $2)
       ON CONFLICT (room) DO UPDATE SET heard_at = $2, clock_off_ms = $3, clock_at = $2`,
      [room, new Date(nowMs), clockOffMs],
    );
  }

  async beforeApplicationShutdown(): Promise<void> {
    clearInterval(this.timer);
    await this.client?.endAsync(true);
    await this.write();
  }
}
