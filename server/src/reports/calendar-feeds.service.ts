import { randomBytes } from 'node:crypto';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { RefusalException } from '../http/answers.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { CalendarEventsService } from './calendar-events.service.ts';

/** A calendar that somebody subscribes to. */
export interface CalendarFeed {
  token: string;
  madeMs: number;
}

/** 128 bits of chance. */
const TOKEN_BYTES = 16;
const TOKEN = /^[\w-]{22}$/;

/** Calendars under addresses that nobody can guess, and that can be revoked. */
@Injectable()
export class CalendarFeedsService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly events: CalendarEventsService,
  ) {}

  /** The address of a person's calendar, if they have one. */
  async of(person: string): Promise<CalendarFeed | null> {
    const [row] = await this.source.query<{ token: string; made_at: Date }[]>(
      'SELECT token, made_at FROM calendar_feed WHERE person = $1 AND revoked_at IS NULL',
      [person],
    );
    return row ? { token: row.token, madeMs: row.made_at.getTime() } : null;
  }

  /** Makes an address; the one that person had leads nowhere from now on. @throws RefusalException for somebody who is not here */
  async make(by: string): Promise<CalendarFeed> {
    const madeMs = Math.floor(await this.clock.now());
    const token = randomBytes(TOKEN_BYTES).toString('base64url');
    await this.source.transaction(async (manager) => {
      // Pressed twice at once, one after the other makes one.
      await manager.query('SELECT pg_advisory_xact_lock(hashtext($1))', [`calendar of ${by}`]);
      await this.revoked(manager, by);
      await manager.query('INSERT INTO calendar_feed (token, person, made_at) VALUES ($1, $2, $3)', [
        token,
        by,
        new Date(madeMs),
      ]);
    });
    return { token, madeMs };
  }

  /** The address leads nowhere from now on. Nothing is wrong where there is none. @throws RefusalException for somebody who is not here */
  revoke(by: string): Promise<void> {
    return this.revoked(this.source.manager, by);
  }

  private async revoked(manager: EntityManager, by: string): Promise<void> {
    const stranger = await this.setup.stranger(by, manager);
    if (stranger) throw new RefusalException(stranger);
    await manager.query('UPDATE calendar_feed SET revoked_at = $2 WHERE person = $1 AND revoked_at IS NULL', [
      by,
      new Date(await this.clock.now()),
    ]);
  }

  /** @throws NotFoundException, which does not tell an address that was revoked from one that never was. */
  async calendar(token: string): Promise<string> {
    const [row] = TOKEN.test(token)
      ? await this.source.query<unknown[]>(
          'SELECT 1 FROM calendar_feed WHERE token = $1 AND revoked_at IS NULL',
          [token],
        )
      : [];
    if (!row) throw new NotFoundException('there is no such calendar');
    return this.events.calendar();
  }
}
