import type { MigrationInterface, QueryRunner } from 'typeorm';

/** What somebody said to a call: put off until when and why, given to whom, or brought back. Added to, never changed; the newest counts. */
export class CallAnswers1700000000012 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query(`
      CREATE TABLE call_answer (
        id bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
        call text NOT NULL,
        at timestamptz NOT NULL,
        person text NOT NULL,
        given_to text,
        put_off_until timestamptz,
        reason text NOT NULL,
        -- What the call cost then, instrument-days for each day.
        cost double precision NOT NULL
      );
      CREATE INDEX call_answer_newest ON call_answer (call, id DESC);
    `);
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query('DROP TABLE call_answer');
  }
}
