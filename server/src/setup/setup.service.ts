import {
  type ChosenUnits,
  factoryDate,
  refuse,
  workingMinutesOfDay,
  shiftDate,
  withDegree,
  workedRoute,
  type BatchState,
  type FactoryCalendar,
  type HourRates,
  type MoistureGate,
  type Refusal,
  type Route,
  type Skilled,
  type SkillDegree,
  type RouteBook,
  type RunRule,
  type Station,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import {
  AbsenceRow,
  BedRow,
  FactoryRow,
  KindRow,
  ModelRow,
  PersonRow,
  SkillRow,
  RoomRow,
  RouteRow,
  SpeciesRow,
  StationRow,
} from './rows.ts';
import { AnswersKept } from '../live/answers-kept.ts';

/** Master data changes rarely; another server's change is seen after at most this long. Reading it takes no time. */
const LASTING = { freshMs: 10_000, patienceMs: 1_000 };

export interface Factory {
  name: string;
  calendar: FactoryCalendar;
  woodGate: MoistureGate;
  runRules: RunRule[];
  hourRates: HourRates;
  /** How long an instrument should take, days by the calendar; null: nobody wants anything. */
  wantedLeadDays: number | null;
}

/**
 * Master data: factory, stations, people, models, routes. Whoever asks from within a transaction gives its manager: a
 * transaction that waited for a second connection would, with enough of its like, wait for ever.
 */
@Injectable()
export class SetupService {
  private calendar: FactoryCalendar | undefined;
  private readonly routes = new Map<string, Route>();
  private readonly kept = new AnswersKept(LASTING);

  constructor(private readonly source: DataSource) {}

  /** The calendar as it was handed out before, while nothing in it changed: its days, once laid out, are kept with it. */
  private sameCalendar(read: FactoryCalendar): FactoryCalendar {
    if (!this.calendar || JSON.stringify(this.calendar) !== JSON.stringify(read)) this.calendar = read;
    return this.calendar;
  }

  /** Master data was written here: what is kept is no longer true. */
  forget(): void {
    this.kept.forget();
    this.routes.clear();
  }

  factory(db: EntityManager = this.source.manager): Promise<Factory> {
    return this.kept.get('factory', async () => {
      const row = await db.getRepository(FactoryRow).findOneBy({ id: 1 });
      if (!row) throw new NotFoundException('no factory is set up: start with the demo, or load master data');
      const { name, woodGate, runRules, hourRates, wantedLeadDays } = row;
      return {
        name,
        calendar: this.sameCalendar(row.calendar),
        woodGate,
        runRules,
        hourRates,
        wantedLeadDays,
      };
    });
  }

  stations(): Promise<Station[]> {
    return this.kept.get('stations', () =>
      this.source.getRepository(StationRow).find({ order: { position: 'ASC' } }),
    );
  }

  people(db: EntityManager = this.source.manager): Promise<PersonRow[]> {
    return this.kept.get('people', () => db.getRepository(PersonRow).find({ order: { name: 'ASC' } }));
  }

  /** Keeps the units somebody reads and types in. @throws NotFoundException when nobody here is called so */
  async chooseUnits(code: string, { length, temperature }: ChosenUnits): Promise<void> {
    const { affected } = await this.source
      .getRepository(PersonRow)
      .update({ code }, { units: { length, temperature } });
    if (affected === 0) throw new NotFoundException(`nobody here is called '${code}'`);
    this.kept.forget();
  }

  /** Why somebody may file nothing: nobody here is called so. Null: somebody is. */
  async stranger(by: string, db?: EntityManager): Promise<Refusal | null> {
    const known = (await this.people(db)).some(({ code }) => code === by);
    return known ? null : refuse('bad-value', `nobody here is called '${by}'`);
  }

  models(): Promise<ModelRow[]> {
    return this.kept.get('models', () =>
      this.source.getRepository(ModelRow).find({ order: { name: 'ASC' } }),
    );
  }

  model(name: string, db: EntityManager = this.source.manager): Promise<ModelRow | null> {
    return this.kept.get(`model ${name}`, () => db.getRepository(ModelRow).findOneBy({ name }));
  }

  /** Tables, presses, carousels, moulds and freezers, in the order in which they stand. */
  beds(db: EntityManager = this.source.manager): Promise<BedRow[]> {
    return this.kept.get('beds', () => db.getRepository(BedRow).find({ order: { position: 'ASC' } }));
  }

  kinds(): Promise<KindRow[]> {
    return this.kept.get('kinds', () =>
      this.source.getRepository(KindRow).find({ order: { letter: 'ASC' } }),
    );
  }

  /** Takes the next number of a kind; undefined: there is no such kind. */
  async nextNumber(manager: EntityManager, kind: string): Promise<number | undefined> {
    const [numbers] = await manager.query<[{ number: number }[], number]>(
      'UPDATE kind SET next_number = next_number + 1 WHERE letter = $1 RETURNING next_number - 1 AS number',
      [kind],
    );
    return numbers[0]?.number;
  }

  /** Rooms whose air is logged. */
  rooms(): Promise<RoomRow[]> {
    return this.kept.get('rooms', () =>
      this.source.getRepository(RoomRow).find({ order: { position: 'ASC' } }),
    );
  }

  species(db: EntityManager = this.source.manager): Promise<SpeciesRow[]> {
    return this.kept.get('species', () => db.getRepository(SpeciesRow).find({ order: { name: 'ASC' } }));
  }

  /** Adds a species or changes one, within a transaction; gives how it stood and stands. */
  async setSpecies(
    manager: EntityManager,
    species: SpeciesRow,
  ): Promise<{ before: object | null; after: object }> {
    const rows = manager.getRepository(SpeciesRow);
    const before = await rows.findOne({
      where: { name: species.name },
      lock: { mode: 'pessimistic_write' },
    });
    await rows.save({ ...species });
    return { before: before && { ...before }, after: { ...species } };
  }

  /** The factory as it is set up, which nobody else changes before the transaction ends. */
  lockFactory(manager: EntityManager): Promise<FactoryRow> {
    return manager
      .getRepository(FactoryRow)
      .findOneOrFail({ where: { id: 1 }, lock: { mode: 'pessimistic_write' } });
  }

  /** Changes what the factory judges by, within a transaction; gives how it stood. */
  async setFactory(
    manager: EntityManager,
    changed: Partial<Pick<FactoryRow, 'calendar' | 'woodGate' | 'runRules' | 'wantedLeadDays'>>,
  ): Promise<FactoryRow> {
    const before = await this.lockFactory(manager);
    await manager.update(FactoryRow, { id: 1 }, changed);
    return before;
  }

  /** Changes what a room should hold, within a transaction; gives how it stood. @throws NotFoundException */
  async setRoom(
    manager: EntityManager,
    name: string,
    changed: Pick<RoomRow, 'emcLowPct' | 'emcHighPct'>,
  ): Promise<RoomRow> {
    const before = await manager
      .getRepository(RoomRow)
      .findOne({ where: { name }, lock: { mode: 'pessimistic_write' } });
    if (!before) throw new NotFoundException(`there is no room '${name}'`);
    await manager.update(RoomRow, { name }, changed);
    return before;
  }

  /**
   * How well somebody can do something from now on, within a transaction; gives what they could do, were learning and could teach
   * before and can since. @throws NotFoundException
   */
  async setDegree(
    manager: EntityManager,
    code: string,
    skill: string,
    degree: SkillDegree,
  ): Promise<{ before: Skilled; after: Skilled }> {
    const { skills, learning, teaches } = await this.lockedPerson(manager, code);
    const before = { skills, learning, teaches };
    const after = withDegree(before, skill, degree);
    await manager.update(PersonRow, { code }, { ...after });
    return { before, after };
  }

  /** Working days until somebody can do a skill alone, by skill; those nobody has said are missing. */
  async trainingDays(): Promise<ReadonlyMap<string, number>> {
    return this.kept.get('training', async () => {
      const rows = await this.source.getRepository(SkillRow).find();
      return new Map(rows.map(({ name, trainingDays }) => [name, trainingDays]));
    });
  }

  /** Changes how long a skill takes to learn, within a transaction; gives how it stood, null: nobody had said. */
  async setTrainingDays(manager: EntityManager, name: string, trainingDays: number): Promise<number | null> {
    await manager.query('SELECT pg_advisory_xact_lock(hashtext($1))', [`skill ${name}`]);
    const before = await manager.findOneBy(SkillRow, { name });
    await manager.save(SkillRow, { name, trainingDays });
    return before?.trainingDays ?? null;
  }

  /**
   * Somebody is away on some factory days, or here again, within a transaction; gives the days of those on which they were away
   * before. @throws NotFoundException
   */
  async setAway(
    manager: EntityManager,
    code: string,
    { days, away }: { days: readonly string[]; away: boolean },
  ): Promise<string[]> {
    await this.lockedPerson(manager, code);
    const before = await manager.query<{ day: string }[]>(
      'SELECT day::text FROM absence WHERE person = $1 AND day = ANY($2::date[]) ORDER BY day',
      [code, days],
    );
    await manager.query(
      away
        ? 'INSERT INTO absence (person, day) SELECT $1, unnest($2::date[]) ON CONFLICT DO NOTHING'
        : 'DELETE FROM absence WHERE person = $1 AND day = ANY($2::date[])',
      [code, days],
    );
    return before.map(({ day }) => day);
  }

  private async lockedPerson(manager: EntityManager, code: string): Promise<PersonRow> {
    const person = await manager
      .getRepository(PersonRow)
      .findOne({ where: { code }, lock: { mode: 'pessimistic_write' } });
    if (!person) throw new NotFoundException(`nobody here is called '${code}'`);
    return person;
  }

  /** Takes a station out, within a transaction. Whoever asks has seen to it that nothing goes through it. */
  async removeStation(manager: EntityManager, code: string): Promise<void> {
    await manager.delete(StationRow, { code });
  }

  /** Revisions of what belongs to a model are made one after the other: whoever makes one holds its model. */
  async lockModel(manager: EntityManager, name: string): Promise<void> {
    await manager.query('SELECT 1 FROM model WHERE name = $1 FOR UPDATE', [name]);
  }

  /** Codes of the people absent on a factory day. */
  absent(day: string): Promise<string[]> {
    return this.kept.get(`absent ${day}`, async () => {
      const rows = await this.source.getRepository(AbsenceRow).findBy({ day });
      return rows.map((row) => row.person);
    });
  }

  /** Who is not there on which of some factory days, both ends included. */
  async absences(fromDay: string, toDay: string): Promise<{ person: string; day: string }[]> {
    return this.source.query<{ person: string; day: string }[]>(
      'SELECT person, day::text FROM absence WHERE day BETWEEN $1 AND $2 ORDER BY day, person',
      [fromDay, toDay],
    );
  }

  /** A route at its revision. Routes never change, so they are kept for good. */
  async route(id: string, db: EntityManager = this.source.manager): Promise<Route> {
    const known = this.routes.get(id);
    if (known) return known;
    const row = await db.getRepository(RouteRow).findOneByOrFail({ id });
    const { model, kind, revision, operations } = row;
    const route = { id, model, kind, revision, operations };
    this.routes.set(id, route);
    return route;
  }

  /** The route a batch works: its revision, by its ways. */
  async routeOf(
    { routeId, ways }: Pick<BatchState, 'routeId' | 'ways'>,
    db: EntityManager = this.source.manager,
  ): Promise<Route> {
    return workedRoute(await this.route(routeId, db), ways);
  }

  /** All routes of some ids at hand, for a replay that may meet any of them. */
  async routeBook(ids: readonly string[], db: EntityManager = this.source.manager): Promise<RouteBook> {
    const book = new Map<string, Route>();
    for (const id of new Set(ids)) book.set(id, await this.route(id, db));
    return (id) => {
      const route = book.get(id);
      if (!route) throw new Error(`routeBook: '${id}' was not asked for`);
      return route;
    };
  }

  /** All routes with what was said of them, or those of one model: by model and kind, the newest revision first. */
  revisions(model?: string, db: EntityManager = this.source.manager): Promise<RouteRow[]> {
    return db.getRepository(RouteRow).find({
      where: model === undefined ? {} : { model },
      order: { model: 'ASC', kind: 'ASC', revision: 'DESC' },
    });
  }

  /** The newest of all routes, or of those of one model. */
  async newestRoutes(model?: string, db: EntityManager = this.source.manager): Promise<RouteRow[]> {
    const rows = await this.revisions(model, db);
    return rows.filter((row, i) => row.kind !== rows[i - 1]?.kind || row.model !== rows[i - 1]?.model);
  }

  async hasRoute(id: string, db: EntityManager = this.source.manager): Promise<boolean> {
    return db.getRepository(RouteRow).existsBy({ id });
  }

  async addRevision(manager: EntityManager, revision: RouteRow): Promise<void> {
    await manager.insert(RouteRow, revision);
  }

  /** The newest revision of a model's route for a kind, or undefined; as a transaction sees it when its manager is given. */
  newestRoute(model: string, kind: string, db?: EntityManager): Promise<Route | undefined> {
    if (db) return this.newestRouteIn(db, model, kind);
    // Asked for every rack that waits at a mill.
    return this.kept.get(`route ${model} ${kind}`, () =>
      this.newestRouteIn(this.source.manager, model, kind),
    );
  }

  private async newestRouteIn(db: EntityManager, model: string, kind: string): Promise<Route | undefined> {
    const [row] = await db.getRepository(RouteRow).find({
      where: { model, kind },
      order: { revision: 'DESC' },
      take: 1,
    });
    return row && this.route(row.id, db);
  }

  /** The newest route of what a route's join makes of its pieces; null: it has none, they ship as they are. */
  async routeAfter(route: Pick<Route, 'model' | 'operations'>): Promise<Route | null> {
    const join = route.operations.find(({ mode }) => mode === 'join');
    return join?.mode === 'join' ? ((await this.newestRoute(route.model, join.makesKind)) ?? null) : null;
  }

  /** Model names with the kinds that can be opened by hand (those no join makes). */
  async openable(): Promise<{ model: string; kinds: string[] }[]> {
    const rows = await this.source.getRepository(RouteRow).find();
    const made = new Set(
      rows.flatMap((r) =>
        r.operations.flatMap((o) => {
          if (o.mode === 'split') return o.makesKinds.map((kind) => `${r.model} ${kind}`);
          const makesNew = o.mode === 'join' && o.makesKind !== (o.role === 'host' ? r.kind : o.partnerKind);
          return makesNew ? [`${r.model} ${o.makesKind}`] : [];
        }),
      ),
    );
    const models = await this.models();
    return models.map(({ name }) => ({
      model: name,
      kinds: [
        ...new Set(rows.filter((r) => r.model === name && !made.has(`${name} ${r.kind}`)).map((r) => r.kind)),
      ].sort(),
    }));
  }

  /** Working hours of one person in the last working day up to `atMs` (today, unless today is closed). */
  async shiftHours(atMs: number): Promise<number> {
    const { calendar } = await this.factory();
    let day = factoryDate(calendar, atMs);
    for (let i = 0; i < 14; i += 1) {
      const minutes = workingMinutesOfDay(calendar, day);
      if (minutes > 0) return minutes / 60;
      day = shiftDate(day, -1);
    }
    return 0;
  }
}
