import {
  factoryDate,
  isRefusal,
  isUsedOnPaper,
  refuse,
  serialCounts,
  serialFromPattern,
  serialProblems,
  serialsDue,
  type BodyOf,
  type SerialRange,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { RefusalException } from '../http/answers.ts';
import { FactsService, type Asked, type Rack } from '../log/facts.service.ts';
import { Refused } from '../log/refused.ts';
import { ChangesService, type Teller } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { SerialSettingRow } from './rows.ts';

export interface SerialSetting {
  pattern: string;
  /** Letters that stand for a model, by its name. */
  letters: Record<string, string>;
  onPaper: SerialRange[];
}

/** What the next instrument of a model would get; null: none, and why. */
export interface NextSerial {
  model: string;
  serial: string | null;
  problem: string | null;
}

export interface SerialsView extends SerialSetting {
  problems: string[];
  next: NextSerial[];
  given: number;
}

/** Before a factory says how: a number overall. */
const FIRST: SerialSetting = { pattern: '{all:6}', letters: {}, onPaper: [] };
/** Numbers that paper has used are stepped over; more than this in a row is a mistake in a range. */
const MOST_SKIPPED = 200_000;

/**
 * Gives serials: one number after the other, under the lock of its counter, in the transaction of the filing. What is taken back keeps
 * its serial for ever: it is not given again.
 */
@Injectable()
export class SerialsService {
  constructor(
    facts: FactsService,
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly clock: FactoryClock,
  ) {
    // Its numbers do not come back: whatever may refuse the entry comes first.
    facts.register(
      { serial: (manager, rack, body, asked) => this.give(manager, rack, body, asked) },
      { last: true },
    );
  }

  /** The entry with its serials. @throws Refused */
  private async give(
    manager: EntityManager,
    { state, route }: Rack,
    body: BodyOf<'serial'>,
    { atMs }: Asked,
  ): Promise<BodyOf<'serial'>> {
    const { serials: _told, ...asked } = body;
    const due = serialsDue(state, route, asked);
    // The reducer says why.
    if (isRefusal(due)) return asked;
    const { calendar } = await this.setup.factory(manager);
    const positions = due.pieces.map(({ position }) => position);
    const serials = await this.take(manager, {
      ...{ model: state.model, date: factoryDate(calendar, atMs), count: positions.length },
    });
    await manager.query(
      `INSERT INTO serial (serial, batch, position, given_at)
       SELECT s.serial, $3, s.position, $4 FROM unnest($1::text[], $2::int[]) AS s (serial, position)`,
      [serials, positions, state.code, new Date(atMs)],
    );
    return { ...asked, pieces: positions, count: undefined, serials };
  }

  /** The next so many of a day and model, in order. The counter is locked until the transaction ends. @throws Refused */
  private async take(
    manager: EntityManager,
    { model, date, count }: { model: string; date: string; count: number },
  ): Promise<string[]> {
    const { pattern, letters, onPaper } = await this.setting(manager);
    const scope = serialCounts(pattern) === 'day' ? date : 'overall';
    await manager.query('INSERT INTO serial_number (scope, last) VALUES ($1, 0) ON CONFLICT DO NOTHING', [
      scope,
    ]);
    const [{ last } = { last: 0 }] = await manager.query<{ last: number }[]>(
      'SELECT last FROM serial_number WHERE scope = $1 FOR UPDATE',
      [scope],
    );
    const taken: string[] = [];
    let sequence = last;
    while (taken.length < count) {
      const wanted = count - taken.length;
      const candidates: string[] = [];
      for (let skipped = 0; candidates.length < wanted;) {
        const made = serialFromPattern(pattern, {
          date,
          model: letters[model] ?? '',
          sequence: (sequence += 1),
        });
        if ('problem' in made) throw new Refused(refuse('in-use', `no serial for ${model}: ${made.problem}`));
        if (!isUsedOnPaper(made.serial, onPaper)) candidates.push(made.serial);
        else if ((skipped += 1) > MOST_SKIPPED)
          throw new Refused(refuse('in-use', 'no serial is left: paper has used all that come next'));
      }
      // After a change of the pattern a number may meet one of before.
      const met = await manager.query<{ serial: string }[]>(
        'SELECT serial FROM serial WHERE serial = ANY($1)',
        [candidates],
      );
      const used = new Set(met.map(({ serial }) => serial));
      taken.push(...candidates.filter((serial) => !used.has(serial)));
    }
    await manager.query('UPDATE serial_number SET last = $2 WHERE scope = $1', [scope, sequence]);
    return taken;
  }

  async setting(manager: EntityManager = this.source.manager): Promise<SerialSetting> {
    const row = await manager.getRepository(SerialSettingRow).findOneBy({ id: 1 });
    return row ? { pattern: row.pattern, letters: row.letters, onPaper: row.onPaper } : FIRST;
  }

  /** How serials are made, and the next of each model that is built. */
  async view(): Promise<SerialsView> {
    const setting = await this.setting();
    const [{ given = 0 } = {}] = await this.source.query<{ given: number }[]>(
      'SELECT count(*)::int AS given FROM serial',
    );
    return { ...setting, ...(await this.preview(setting)), given };
  }

  /** What a setting would give next, model by model, and what is wrong with it; nothing is given. */
  async preview(setting: SerialSetting): Promise<Pick<SerialsView, 'problems' | 'next'>> {
    const { pattern, letters, onPaper } = setting;
    const problems = [...serialProblems(pattern), ...collisions(setting)];
    const models = await this.instrumentModels();
    if (serialProblems(pattern).length > 0)
      return {
        problems,
        next: models.map((model) => ({ model, serial: null, problem: problems[0] ?? null })),
      };
    const [nowMs, { calendar }] = await Promise.all([this.clock.now(), this.setup.factory()]);
    const date = factoryDate(calendar, nowMs);
    const scope = serialCounts(pattern) === 'day' ? date : 'overall';
    const [{ last } = { last: 0 }] = await this.source.query<{ last: number }[]>(
      'SELECT last FROM serial_number WHERE scope = $1',
      [scope],
    );
    const next = models.map((model): NextSerial => {
      for (let sequence = last + 1; ; sequence += 1) {
        const made = serialFromPattern(pattern, { date, model: letters[model] ?? '', sequence });
        if ('problem' in made) return { model, serial: null, problem: made.problem };
        if (!isUsedOnPaper(made.serial, onPaper)) return { model, serial: made.serial, problem: null };
        if (sequence - last > MOST_SKIPPED)
          return { model, serial: null, problem: 'paper has used all that come next' };
      }
    });
    return { problems, next };
  }

  /** Models that become instruments here. */
  private async instrumentModels(): Promise<string[]> {
    const routes = await this.setup.newestRoutes();
    return [
      ...new Set(
        routes.filter(({ operations }) => operations.some(({ serial }) => serial)).map(({ model }) => model),
      ),
    ].toSorted();
  }

  /** Changes how serials are made; what was given stays. @throws RefusalException where the pattern would repeat. */
  async set(teller: Teller, setting: SerialSetting): Promise<SerialsView> {
    const { problems } = await this.preview(setting);
    const [problem] = problems;
    if (problem !== undefined) throw new RefusalException(refuse('bad-value', problem, 'pattern'));
    await this.changes.change({ ...teller, setting: 'serials', name: 'pattern' }, async (manager) => {
      await manager.query(
        `INSERT INTO serial_setting (id, pattern, letters, on_paper) VALUES (1, $1, '{}', '[]') ON CONFLICT DO NOTHING`,
        [FIRST.pattern],
      );
      await manager.query('SELECT 1 FROM serial_setting FOR UPDATE');
      const before = await this.setting(manager);
      await manager.query('UPDATE serial_setting SET pattern = $1, letters = $2, on_paper = $3', [
        ...[setting.pattern, JSON.stringify(setting.letters), JSON.stringify(setting.onPaper)],
      ]);
      return { before, after: setting };
    });
    return this.view();
  }
}

/** Letters that two models share, and ranges that are none. */
function collisions({ pattern, letters, onPaper }: SerialSetting): string[] {
  const by = new Map<string, string[]>();
  for (const [model, said] of Object.entries(letters))
    if (said !== '') by.set(said, [...(by.get(said) ?? []), model]);
  const shared = pattern.includes('{model}')
    ? [...by].flatMap(([said, models]) =>
        models.length > 1 ? [`${models.join(' and ')} have the same letters, ${said}`] : [],
      )
    : [];
  const wrong = onPaper.flatMap(({ from, to }) =>
    from.length !== to.length || from > to
      ? [`${from} to ${to} is no range: both as long, the first before the last`]
      : [],
  );
  return [...shared, ...wrong];
}
