import type { MigrationInterface, QueryRunner } from 'typeorm';

/** Calendars that others subscribe to, and what their events said when they were last fetched. */
export class CalendarFeeds1700000000018 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE calendar_feed (
        token text PRIMARY KEY,
        person text NOT NULL,
        made_at timestamptz NOT NULL,
        -- Its address leads nowhere since then.
        revoked_at timestamptz
      );
      -- One address leads somewhere.
      CREATE UNIQUE INDEX calendar_feed_by_person ON calendar_feed (person) WHERE revoked_at IS NULL;
      -- A calendar program takes a change over when its number is higher than the one it knows.
      CREATE TABLE calendar_event (
        uid text PRIMARY KEY,
        sequence int NOT NULL,
        says text NOT NULL
      );
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE calendar_feed, calendar_event');
  }
}
