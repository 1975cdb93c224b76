import { DAY_MS, refuse, type Call, type CallAnswer } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RefusalException } from '../http/answers.ts';
import { tellAll } from '../live/tell.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';

/** What somebody says to a call. */
export interface Said {
  by: string;
  call: string;
  to?: string;
  /** Instant, ISO 8601. */
  until?: string;
  reason: string;
}

/** Nobody puts off for longer, days: what is still there then wants a decision. */
const LONGEST_DAYS = 31;

interface Row {
  call: string;
  at: Date;
  person: string;
  to: string | null;
  until: Date | null;
  reason: string;
  cost: number;
}

/** What people said to calls: put off, given to somebody, brought back. Calls themselves are computed and kept nowhere. */
@Injectable()
export class CallAnswersService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** The newest answer to each of these calls. */
  async of(calls: readonly Call[]): Promise<CallAnswer[]> {
    const rows: Row[] = await this.source.query(
      `SELECT DISTINCT ON (call) call, at, person, given_to AS to, put_off_until AS until, reason, cost
         FROM call_answer WHERE call = ANY($1) ORDER BY call, id DESC`,
      [calls.map(({ id }) => id)],
    );
    return rows.map(({ call, at, person, to, until, reason, cost }) => ({
      ...{ call, atMs: at.getTime(), by: person, to, reason, cost },
      untilMs: until === null ? null : until.getTime(),
    }));
  }

  /**
   * Keeps what is said to one of the calls there are.
   * @throws RefusalException for a call that is gone, people nobody knows, a time that is past or too far off, no reason to put off.
   */
  async answer(said: Said, calls: readonly Call[]): Promise<CallAnswer> {
    const { by, to, until } = said;
    const reason = said.reason.trim();
    for (const person of [by, ...(to === undefined ? [] : [to])]) {
      const stranger = await this.setup.stranger(person);
      if (stranger) throw new RefusalException(stranger);
    }
    const nowMs = await this.clock.now();
    const call = calls.find(({ id }) => id === said.call);
    if (!call) throw no('this call is gone, with its cause');
    if (until !== undefined) {
      const days = (Date.parse(until) - nowMs) / DAY_MS;
      if (!(days > 0)) throw no('a call is put off until a time to come');
      if (days > LONGEST_DAYS) throw no(`a call is put off for ${LONGEST_DAYS} days at most`);
      if (reason === '') throw no('say why it is put off');
    }
    const untilMs = until === undefined ? null : Date.parse(until);
    const answer = { call: call.id, atMs: nowMs, by, to: to ?? null, untilMs, reason, cost: call.cost };
    await this.source.transaction(async (manager) => {
      await manager.query(
        `INSERT INTO call_answer (call, at, person, given_to, put_off_until, reason, cost)
         VALUES ($1, $2, $3, $4, $5, $6, $7)`,
        [call.id, new Date(nowMs), by, answer.to, until ?? null, reason, call.cost],
      );
      await tellAll(manager, []);
    });
    return answer;
  }
}

const no = (why: string): RefusalException => new RefusalException(refuse('bad-value', why));
