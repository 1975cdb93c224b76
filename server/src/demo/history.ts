import {
  addWorkingMinutes,
  type BodyOf,
  type BoothSample,
  type Check,
  DAY_MS,
  type FactoryCalendar,
  factoryDate,
  type HoldOperation,
  HOUR_MS,
  type LoadOperation,
  MINUTE_MS,
  nearestWorkingDays,
  type Operation,
  operationOf,
  placeOf,
  randomStream,
  type RandomStream,
  type Route,
  shiftDate,
  startOfFactoryDay,
  workedRoute,
  workingMinutesOfDay,
  workMinutes,
} from '@ample-crane/core';
import type { FilingRequest } from '../log/filing.ts';
import { BenchStory } from './bench-story.ts';
import { FinishStory, type Drawn } from './finish-story.ts';
import { WORKED_ROUTES } from './tarrow-routes.ts';
import {
  BEDS,
  CAUSES,
  ORIGINS,
  CREWS,
  KINDS,
  MODELS,
  REWORK_REASONS,
  SCRAP_REASONS,
  STATIONS,
  tarrowCalendar,
} from './tarrow-works.ts';

/** Weeks before now that the works begin: enough for the first racks to have left long before the window shown. */
const WEEKS = 12;
/** A pair of racks, bodies and necks, is opened this often, working minutes. */
const OPEN_EVERY_MINUTES = 830;
/** The promise that was made for every rack, days. */
const LEAD_DAYS = 52;
/** Working days back from now on which stations stood still: the sprayer away, the spindle in service. */
const STOOD_STILL: Record<string, number[]> = { colour: [1, 5, 12], 'body-mill': [1, 2, 3, 4, 5, 6] };
/** The fixture of the pockets wears and narrows them: change for each load since it was trued, mm. */
const WEAR_MM = -0.001;
/** Loads between truings. */
const LOADS_A_TRUING = 80;
const SCRAP_CHANCE = 0.1;
const REWORK_CHANCE = 0.16;

/** What the benches read is drawn from a stream of its own. */
const BENCH_SEED = 20_261_130;
/** Looks the main stream of the story takes at set-up besides the action: they keep it in step. */
const OTHER_LOOKS = 3;

/** Pieces of one batch that move together. */
interface Lot {
  batch: string;
  route: Route;
  pieces: number[];
  at: number;
  /** Number of the pair: bodies and necks opened together meet. */
  pair: number;
}

interface Job {
  lot: Lot;
  /** For joins, the lot of necks that meets these bodies. */
  guest?: Lot;
}

export interface PlannedFiling extends Omit<FilingRequest, 'key'> {
  atMs: number;
  /** Of a coat: what it takes, which must be there by then. */
  drawn?: Drawn;
  /** Instead of actions: the rack goes on by other ways of its route and another recipe. */
  aged?: { routeId: string; ways: Record<string, string>; recipe: string; reason: string };
}

/** Every so many pairs of Bowlines, one is aged. */
const AGED_EVERY = 4;
const AGED = { ways: { buff: 'age' }, recipe: 'thin-lacquer-aged', reason: 'ordered aged' };
/** Turns of cold and warm until the lacquer checks as wanted. */
const AGED_CYCLES = 3;
const NEXT_LOOK_HOURS = 24;

/**
 * The story of Tarrow Works up to now, as filings in order of time: a seeded simulation of racks that queue for
 * stations, rest, cure, meet and ship. It knows nothing of the server; every filing goes through the reducer like any
 * other, and one that were refused would stop the loading.
 */
export function tarrowHistory(options: {
  nowMs: number;
  seed: number;
  climateOf: (room: string) => readonly BoothSample[];
}): PlannedFiling[] {
  return new Works(options.nowMs, randomStream(options.seed), options.climateOf).run();
}

class Works {
  private readonly filings: PlannedFiling[] = [];
  private readonly events: { atMs: number; order: number; run: (atMs: number) => void }[] = [];
  private readonly queues = new Map<string, Job[]>(STATIONS.map((station) => [station.code, []]));
  private readonly busy = new Map<string, number>();
  private readonly meeting: Lot[] = [];
  private readonly made = new Map<string, number>();
  private readonly numbers = new Map(KINDS.map((kind) => [kind.letter, kind.nextNumber]));
  private readonly calendar: FactoryCalendar;
  private readonly shortened: Map<string, FactoryCalendar>;
  private readonly finish: FinishStory;
  private readonly bench: BenchStory;
  private order = 0;
  private loads = 0;
  /** What each table is set up for, and the loads it cut since its fixture was trued. */
  private readonly tables = new Map<string, { program: string; worn: number }>();
  /** Places taken in presses and carousels. */
  private readonly lying = new Map<string, number>();

  constructor(
    private readonly nowMs: number,
    private readonly random: RandomStream,
    climateOf: (room: string) => readonly BoothSample[],
  ) {
    this.calendar = tarrowCalendar(nowMs);
    this.finish = new FinishStory(climateOf, this.random, nowMs);
    this.bench = new BenchStory(randomStream(BENCH_SEED));
    this.shortened = new Map(
      Object.entries(STOOD_STILL).map(([station, daysBack]) => [
        station,
        { ...this.calendar, closedDays: this.daysAway(daysBack) },
      ]),
    );
  }

  run(): PlannedFiling[] {
    let atMs = this.later(this.nowMs - WEEKS * 7 * DAY_MS, 30);
    for (let i = 0; atMs < this.nowMs; i += 1) {
      this.at(atMs, (ms) => this.openPair(ms, i));
      atMs = this.later(atMs, OPEN_EVERY_MINUTES * this.random.logNormal(1, 0.2));
    }
    for (let next = this.nextEvent(); next && next.atMs <= this.nowMs; next = this.nextEvent()) {
      this.events.splice(this.events.indexOf(next), 1);
      next.run(next.atMs);
    }
    return this.filings.filter((filing) => filing.atMs <= this.nowMs).sort((a, b) => a.atMs - b.atMs);
  }

  private daysAway(daysBack: readonly number[]): string[] {
    const today = factoryDate(this.calendar, this.nowMs);
    const back = Array.from({ length: 7 * WEEKS }, (_, i) => shiftDate(today, -1 - i));
    const worked = back.filter((day) => workingMinutesOfDay(this.calendar, day) > 0);
    return daysBack.flatMap((n) => worked[n - 1] ?? []);
  }

  private at(atMs: number, run: (atMs: number) => void): void {
    this.events.push({ atMs, order: (this.order += 1), run });
  }

  private nextEvent() {
    return this.events.reduce<(typeof this.events)[number] | undefined>(
      (first, event) =>
        !first || event.atMs < first.atMs || (event.atMs === first.atMs && event.order < first.order)
          ? event
          : first,
      undefined,
    );
  }

  /** Working minutes later, at the earliest in a shift, on a whole minute. */
  private later(atMs: number, minutes: number, station?: string): number {
    const calendar = this.shortened.get(station ?? '') ?? this.calendar;
    return Math.ceil(addWorkingMinutes(calendar, atMs, minutes) / MINUTE_MS) * MINUTE_MS;
  }

  /** The usual lead time from now; where that day is closed, the same hour of the next working day. */
  private dueMs(atMs: number): number {
    const dueMs = atMs + LEAD_DAYS * DAY_MS;
    const date = factoryDate(this.calendar, dueMs);
    const { after = date } = nearestWorkingDays(this.calendar, date);
    return dueMs + startOfFactoryDay(this.calendar, after) - startOfFactoryDay(this.calendar, date);
  }

  private file(
    atMs: number,
    batch: string | null,
    station: string,
    ...actions: FilingRequest['actions']
  ): void {
    const by = this.random.pick(CREWS[station] ?? ['ostrander']);
    this.filings.push({ atMs, batch, by, actions });
  }

  private openPair(atMs: number, index: number): void {
    const model = MODELS[index % 5 < 2 ? 0 : index % 5 < 4 ? 1 : 2]?.name ?? '';
    const quantity = this.random.chance(0.05) ? 1 : this.random.pick([10, 12, 12, 12, 14]);
    for (const kind of ['N', 'B']) {
      const route = routeOf(model, kind);
      const number = this.numbers.get(kind) ?? 1;
      this.numbers.set(kind, number + 1);
      const dueMs = this.dueMs(atMs);
      const openMs = atMs + (kind === 'B' ? 2 * MINUTE_MS : 0);
      this.filings.push({
        atMs: openMs,
        batch: null,
        by: 'ostrander',
        actions: [{ type: 'open', kind, model, quantity, dueMs }],
      });
      const pieces = Array.from({ length: quantity }, (_, i) => i + 1);
      this.arrive(openMs, { batch: `${kind}-${number}`, route, pieces, at: 0, pair: index });
    }
  }

  /** A lot comes to its next operation. */
  private arrive(atMs: number, lot: Lot): void {
    const operation = lot.route.operations[lot.at];
    if (!operation || lot.pieces.length === 0) return;
    if (operation.mode === 'hold') this.rest(atMs, lot, operation);
    else if (operation.mode === 'join') this.meet(atMs, lot);
    else {
      if (operation.kit) this.kitted(atMs, lot, operation.stations[0] ?? '');
      this.enqueue(atMs, operation.stations[0] ?? '', { lot });
    }
  }

  /** The kits of a rack are picked when it comes to where they are wanted. */
  private kitted(atMs: number, lot: Lot, station: string): void {
    const kits = this.bench.kits(rackOf(lot));
    const by = CREWS[station]?.[0] ?? 'rusk';
    if (kits) this.filings.push({ atMs, batch: lot.batch, by, actions: [kits] });
  }

  private advance(atMs: number, lot: Lot): void {
    this.arrive(atMs, { ...lot, at: lot.at + 1 });
  }

  // ---- holds ----------------------------------------------------------------------------------------------------

  private rest(atMs: number, lot: Lot, operation: Extract<Operation, { mode: 'hold' }>): void {
    const station = operation.stations[0] ?? '';
    const beds = operation.bedded ? this.placed(atMs, lot, operation, station) : [];
    const letGo = (endMs: number): void => {
      const endedMs = this.later(endMs, this.random.logNormal(70, 0.8));
      this.at(endedMs, (ms) => {
        for (const { code, pieces } of beds) this.lying.set(code, (this.lying.get(code) ?? 0) - pieces);
        this.file(ms, lot.batch, station, { type: 'end', operation: operation.key, pieces: lot.pieces });
        this.advance(ms, lot);
      });
    };
    this.finish.rest(lot, operation, atMs);
    const { rule } = operation;
    switch (rule.rule) {
      case 'elapsed':
        letGo(atMs + rule.hours * HOUR_MS);
        return;
      case 'cure':
        letGo(this.finish.curedAt(lot, operation, atMs));
        return;
      case 'ageing':
        this.chill(atMs, lot, operation, station);
        return;
      case 'settle': {
        const measuredMs = this.later(atMs + rule.hours * HOUR_MS, 60);
        this.at(measuredMs, (ms) => {
          this.hands(lot);
          this.file(ms, lot.batch, station, ...this.bench.again(rackOf(lot)));
        });
        letGo(measuredMs + MINUTE_MS);
        return;
      }
      case 'moisture': {
        const days = this.random.between(6, 11);
        for (const [share, wet] of [
          [0.35, 0.45],
          [1, -0.45],
        ] as const) {
          const readMs = this.later(atMs + days * share * DAY_MS, this.random.between(10, 90));
          this.at(readMs, (ms) =>
            this.file(ms, lot.batch, station, this.readings(lot, operation.key, rule.window.highPct + wet)),
          );
          if (share === 1) letGo(readMs);
        }
      }
    }
  }

  /** Pieces are laid in the presses of the station as far as there is room; the rest stands in hand clamps. */
  private placed(
    atMs: number,
    lot: Lot,
    operation: Operation,
    station: string,
  ): { code: string; pieces: number }[] {
    let left = lot.pieces;
    const used: { code: string; pieces: number }[] = [];
    for (const { code, places } of BEDS.filter((bed) => bed.station === station)) {
      const pieces = left.slice(0, places - (this.lying.get(code) ?? 0));
      if (pieces.length === 0) continue;
      left = left.slice(pieces.length);
      this.lying.set(code, (this.lying.get(code) ?? 0) + pieces.length);
      used.push({ code, pieces: pieces.length });
      this.file(atMs, lot.batch, station, { type: 'place', operation: operation.key, pieces, bed: code });
    }
    return used;
  }

  /** Piece by piece around a mean; wood that passes is kept clear of the limit. */
  private readings(lot: Lot, operation: string, meanPct: number): FilingRequest['actions'][number] {
    // A piece that was wetter than its rack stays so: it is the same piece that is read again.
    const own = (piece: number): number => (((piece * 7) % 12) - 5.5) / 18;
    const valuesPct = lot.pieces.map((piece) => {
      const value = this.random.normal(meanPct + own(piece), 0.05);
      return Math.round(10 * (meanPct < 8 ? Math.min(8.4, Math.max(6.2, value)) : value)) / 10;
    });
    return { type: 'read', operation, pieces: lot.pieces, valuesPct, woodTemperatureC: 20.5 };
  }

  /** How far the action of each instrument lies from the shop's hand, mm. */
  private hands(lot: Lot): number[] {
    return lot.pieces.map(() => this.random.normal(0, 0.012));
  }

  /** Into the freezer when it has room, out of it when the cold is over, and so on until it is enough. */
  private chill(atMs: number, lot: Lot, operation: HoldOperation, station: string, cycle = 1): void {
    const { rule } = operation;
    if (rule.rule !== 'ageing') return;
    const freezer = BEDS.find((bed) => bed.station === station);
    const lying = this.lying.get(freezer?.code ?? '') ?? 0;
    if (!freezer || lying + lot.pieces.length > freezer.places) {
      this.at(atMs + NEXT_LOOK_HOURS * HOUR_MS, (ms) => this.chill(ms, lot, operation, station, cycle));
      return;
    }
    const here = { operation: operation.key, pieces: lot.pieces };
    this.lying.set(freezer.code, lying + lot.pieces.length);
    this.file(atMs, lot.batch, station, { type: 'age', ...here, to: 'cold', bed: freezer.code });
    this.at(this.later(atMs + rule.coldHours * HOUR_MS, 10), (ms) => {
      this.lying.set(freezer.code, (this.lying.get(freezer.code) ?? 0) - lot.pieces.length);
      this.file(ms, lot.batch, station, { type: 'age', ...here, to: 'warm' });
      this.at(this.later(ms + rule.warmHours * HOUR_MS, 20), (then) => {
        if (cycle < AGED_CYCLES) return this.chill(then, lot, operation, station, cycle + 1);
        this.file(then, lot.batch, station, { type: 'end', ...here, seen: 'fine checks across the top' });
        this.advance(then, lot);
      });
    });
  }

  // ---- stations -------------------------------------------------------------------------------------------------

  private enqueue(atMs: number, station: string, job: Job): void {
    this.queues.get(station)?.push(job);
    this.serve(atMs, station);
  }

  private serve(atMs: number, code: string): void {
    const parallel = STATIONS.find((station) => station.code === code)?.parallel ?? 1;
    const queue = this.queues.get(code) ?? [];
    while (queue.length > 0 && (this.busy.get(code) ?? 0) < parallel) {
      const job = queue.shift();
      if (!job) return;
      this.busy.set(code, (this.busy.get(code) ?? 0) + 1);
      this.work(this.later(atMs, this.random.between(2, 15), code), code, job);
    }
  }

  private free(atMs: number, station: string): void {
    this.busy.set(station, (this.busy.get(station) ?? 1) - 1);
    this.serve(atMs, station);
  }

  private work(startMs: number, station: string, job: Job): void {
    const { lot, guest } = job;
    const operation = lot.route.operations[lot.at];
    if (!operation) return;
    const minutes = workMinutes(operation, lot.pieces.length) * this.random.logNormal(0.95, 0.12);
    const rack = { ...lot, model: lot.route.model, kind: lot.route.kind };
    const plan = this.finish.plan(lot.batch, rack.model, rack.kind);
    const wanted =
      plan?.coats.filter(({ at }) => at === operation.key).reduce((sum, one) => sum + one.coats, 0) ?? 0;
    const coats =
      wanted === 0
        ? []
        : this.finish.coatTimes(rack, operation, startMs, minutes / (wanted + 0.2), (ms, more) =>
            this.later(ms, more, station),
          );
    const endMs = Math.max(
      this.later(startMs, minutes, station),
      this.later(coats.at(-1)?.atMs ?? 0, 5, station),
    );
    const part = (share: number): number => this.later(startMs, minutes * share, station);
    const here = { operation: operation.key, pieces: lot.pieces };
    const beds = BEDS.filter((bed) => bed.station === station && bed.kind === 'table');
    if (operation.mode === 'load' && beds.length > 0) this.cut(startMs, part, station, lot, operation, beds);
    if (operation.accepts)
      this.at(startMs, (ms) => {
        const by = CREWS[station]?.[0] ?? 'rusk';
        this.filings.push({ atMs: ms, batch: lot.batch, by, actions: [{ type: 'accept', ...here }] });
      });
    this.at(startMs, (ms) => {
      if (operation.mode !== 'load' || beds.length === 0)
        this.file(ms, lot.batch, station, { type: 'start', ...here });
      if (guest)
        this.file(ms, guest.batch, station, {
          type: 'start',
          operation: operation.key,
          pieces: guest.pieces,
        });
    });
    if (plan?.sandings.some(({ at }) => at === operation.key))
      this.at(part(operation.key === 'buff' ? 0.4 : 0.02), (ms) =>
        this.file(ms, lot.batch, station, { type: 'sand', ...here }),
      );
    for (const [i, { atMs, wetUm, drawn, scuffed }] of coats.entries())
      this.at(atMs, (ms) => {
        if (scuffed) this.file(ms, lot.batch, station, { type: 'sand', ...here, scuff: true });
        this.file(ms, lot.batch, station, { type: 'coat', ...here, wetUm, number: i + 1 });
        const filed = this.filings.at(-1);
        if (filed) filed.drawn = drawn;
      });
    if (plan?.colour && operation.key === 'colour') {
      const { l, a, b } = plan.colour.lab;
      const labs = lot.pieces.map(() => ({
        l: tenth(this.random.normal(l, 0.5)),
        a: tenth(this.random.normal(a, 0.7)),
        b: tenth(this.random.normal(b, 0.9)),
      }));
      this.at(endMs, (ms) => this.file(ms, lot.batch, station, { type: 'colour', ...here, labs }));
    }
    if (operation.key === 'assemble')
      this.at(startMs, (ms) => {
        const given = this.bench.serials(rackOf(lot));
        const by = CREWS[station]?.[0] ?? 'rusk';
        if (given) this.filings.push({ atMs: ms, batch: lot.batch, by, actions: [given] });
      });
    if (operation.key === 'setup') this.at(part(0.5), (ms) => this.setUp(ms, station, lot));
    else if (operation.key === 'final') this.at(part(0.5), (ms) => this.inspect(ms, station, lot, operation));
    else if (operation.mode === 'attended' || operation.mode === 'gate')
      for (const check of operation.checks ?? [])
        this.at(part(0.5), (ms) => this.measured(ms, station, lot, check, lot.pieces));
    if (operation.key === 'gate')
      this.at(part(0.8), (ms) => this.file(ms, lot.batch, station, this.readings(lot, 'gate', 7.5)));
    const half = coats.length > 0 || plan ? [] : this.halfDone(operation, lot);
    if (half.length > 0)
      this.at(part(0.55), (ms) =>
        this.file(ms, lot.batch, station, { type: 'done', operation: operation.key, pieces: half }),
      );
    this.at(endMs, (ms) => {
      if (guest) this.joined(ms, station, lot, guest);
      else this.finished(ms, station, lot, operation, half);
      this.free(ms, station);
    });
  }

  /** A rack goes onto the tables in loads; the first piece off a new set-up is measured, then one load in full samples. */
  private cut(
    startMs: number,
    part: (share: number) => number,
    station: string,
    lot: Lot,
    operation: LoadOperation,
    beds: readonly { code: string; places: number }[],
  ): void {
    const program = `${lot.route.model.toLowerCase()}-${lot.route.kind.toLowerCase()}/${operation.key} r1`;
    let left = lot.pieces;
    for (const { code: bed, places } of beds) {
      const pieces = left.slice(0, places);
      if (pieces.length === 0) continue;
      left = left.slice(places);
      const table = this.tables.get(bed) ?? { program: '', worn: 0 };
      const firstPiece = table.program !== program;
      const worn = table.worn >= LOADS_A_TRUING ? 0 : table.worn + 1;
      this.tables.set(bed, { program, worn });
      this.loads += 1;
      const load = { code: `L-${this.loads}`, program, firstPiece };
      const here = { operation: operation.key, pieces };
      this.at(startMs, (ms) => this.file(ms, lot.batch, station, { type: 'start', ...here, bed, load }));
      const checks = operation.checks ?? [];
      if (firstPiece) {
        for (const check of checks.filter((one) => one.firstPiece))
          this.at(part(0.2), (ms) =>
            this.measured(ms, station, lot, check, pieces.slice(0, 1), load.code, worn),
          );
      }
      for (const check of checks) {
        // Bodies show their odd pieces and necks their even ones, so that a sample seldom stands for a pair.
        const rest = lot.route.kind === 'N' ? 0 : 1;
        const preferred = pieces.toSorted((a, b) => Number(b % 2 === rest) - Number(a % 2 === rest));
        const sample = preferred.slice(0, check.sample);
        this.at(part(0.95), (ms) => this.measured(ms, station, lot, check, sample, load.code, worn));
      }
    }
  }

  private setUp(atMs: number, station: string, lot: Lot): void {
    const own = this.hands(lot);
    this.file(atMs, lot.batch, station, ...this.bench.setUp(rackOf(lot), own));
    for (let i = 0; i < OTHER_LOOKS; i += 1) this.lookAway(station, lot);
  }

  private inspect(atMs: number, station: string, lot: Lot, { checks = [] }: Operation): void {
    this.file(atMs, lot.batch, station, ...this.bench.inspected(rackOf(lot)));
    for (const _check of checks.slice(1)) this.lookAway(station, lot);
    this.hands(lot);
  }

  /** As much chance as a look of its own would take. */
  private lookAway(station: string, lot: Lot): void {
    this.hands(lot);
    this.random.pick(CREWS[station] ?? ['ostrander']);
  }

  private measured(
    atMs: number,
    station: string,
    lot: Lot,
    check: Check,
    pieces: number[],
    load?: string,
    worn = 0,
  ): void {
    const within = ((check.upper ?? check.nominal) - (check.lower ?? check.nominal)) / 2;
    const drift = check.key === 'pocket-width' ? WEAR_MM * worn : 0;
    const values = pieces.map(() => {
      const value = this.random.normal(check.nominal + drift, within / 5);
      const kept = Math.max(check.nominal - 0.9 * within, Math.min(check.nominal + 0.9 * within, value));
      return Math.round(kept * 100) / 100;
    });
    this.file(atMs, lot.batch, station, {
      type: 'check',
      check: check.key,
      pieces,
      values,
      ...(load === undefined ? { source: 'typed' } : { load, source: 'gauge' }),
    });
  }

  /** Some racks are logged in two parts. */
  private halfDone(operation: Operation, lot: Lot): number[] {
    const splits =
      operation.mode === 'attended' && !operation.coats && lot.pieces.length > 5 && this.random.chance(0.6);
    return splits ? lot.pieces.slice(0, Math.floor(lot.pieces.length / 2)) : [];
  }

  private finished(atMs: number, station: string, lot: Lot, operation: Operation, half: number[]): void {
    if (operation.mode === 'ship') {
      const n = this.random.between(11, 39);
      this.file(atMs, lot.batch, station, this.bench.shipped(rackOf(lot), { n, atMs }));
      return;
    }
    let rest = lot.pieces.filter((piece) => !half.includes(piece));
    const stage = STATIONS.find((candidate) => candidate.code === station)?.stage ?? 'wood';
    if (operation.mode !== 'gate' && rest.length > 1 && this.random.chance(SCRAP_CHANCE)) {
      const lost = rest.slice(-1);
      rest = rest.slice(0, -1);
      this.file(atMs, lot.batch, station, {
        type: 'scrap',
        operation: operation.key,
        pieces: lost,
        reason: this.random.pick(SCRAP_REASONS[stage] ?? ['flaw']),
        // What breaks at a machine or on a bench breaks there.
        ...(stage === 'finishing' ? {} : { origin: placeOf(lot.route.kind, operation.key) }),
      });
    }
    const reasons = REWORK_REASONS[operation.key];
    // Parts go back too, but the story keeps to instruments: a part that trails its rack would miss its partner.
    if (
      lot.route.kind === 'I' &&
      operation.reworkTo &&
      reasons &&
      rest.length > 1 &&
      this.random.chance(REWORK_CHANCE)
    ) {
      const back = rest.slice(-1);
      rest = rest.slice(0, -1);
      const reason = this.random.pick(reasons);
      const cause = CAUSES[reason];
      const origin = ORIGINS[reason];
      this.file(atMs, lot.batch, station, {
        type: 'rework',
        operation: operation.key,
        to: operation.reworkTo,
        pieces: back,
        reason,
        ...(cause === undefined ? {} : { cause }),
        ...(origin === undefined ? {} : { origin }),
      });
      const target = lot.route.operations.findIndex((candidate) => candidate.key === operation.reworkTo);
      const again = lot.route.operations.slice(target).map(({ key }) => key);
      this.finish.strip(lot.batch, back, again);
      this.arrive(atMs, { ...lot, pieces: back, at: target });
    }
    if (rest.length > 0)
      this.file(atMs, lot.batch, station, { type: 'done', operation: operation.key, pieces: rest });
    this.advance(atMs, { ...lot, pieces: [...half, ...rest] });
  }

  // ---- joins ----------------------------------------------------------------------------------------------------

  private meet(atMs: number, lot: Lot): void {
    const role = roleOf(lot);
    const partner = this.meeting.find((other) => other.pair === lot.pair && roleOf(other) !== role);
    if (!partner) {
      this.meeting.push(lot);
      return;
    }
    this.meeting.splice(this.meeting.indexOf(partner), 1);
    const [host, guest] = role === 'host' ? [lot, partner] : [partner, lot];
    const pairs = Math.min(host.pieces.length, guest.pieces.length);
    const station = operationOf(host.route, 'join').stations[0] ?? '';
    const job = {
      lot: { ...host, pieces: host.pieces.slice(0, pairs) },
      guest: { ...guest, pieces: guest.pieces.slice(0, pairs) },
    };
    this.enqueue(atMs, station, job);
    for (const rest of [host, guest]) {
      if (rest.pieces.length > pairs)
        this.putAside(atMs, { ...rest, pieces: rest.pieces.slice(pairs) }, station);
    }
  }

  /** What finds no partner is kept as a sample and booked off a few days later. */
  private putAside(atMs: number, lot: Lot, station: string): void {
    this.at(this.later(atMs, 4 * 540), (ms) =>
      this.file(ms, lot.batch, station, {
        type: 'scrap',
        operation: 'join',
        pieces: lot.pieces,
        reason: 'no partner, kept as a sample',
      }),
    );
  }

  private joined(atMs: number, station: string, host: Lot, guest: Lot): void {
    this.file(atMs, host.batch, station, {
      type: 'join',
      partner: guest.batch,
      count: host.pieces.length,
      because: 'eased by hand at the bench',
    });
    const batch = `I-${host.batch.split('-')[1] ?? ''}`;
    const before = this.made.get(batch) ?? 0;
    this.made.set(batch, before + host.pieces.length);
    const pieces = host.pieces.map((_, i) => before + i + 1);
    const { model } = host.route;
    const isAged = model === 'Bowline' && host.pair % (5 * AGED_EVERY) === 0;
    if (isAged && before === 0) {
      this.finish.give(batch, AGED.recipe);
      const aged = { ...AGED, routeId: routeOf(model, 'I').id };
      this.filings.push({ atMs, batch, by: 'ostrander', actions: [], aged });
    }
    const route = routeOf(model, 'I', isAged ? AGED.ways : undefined);
    this.arrive(atMs, { batch, route, pieces, at: 0, pair: host.pair });
  }
}

function roleOf(lot: Lot): BodyOf<'join'>['role'] {
  const operation = operationOf(lot.route, 'join');
  if (operation.mode !== 'join') throw new Error(`roleOf: '${lot.route.id}' does not end in a join`);
  return operation.role;
}

const rackOf = ({ batch, route, pieces }: Lot) => ({ batch, model: route.model, pieces });

const tenth = (value: number): number => Math.round(10 * value) / 10;

function routeOf(model: string, kind: string, ways?: Record<string, string>): Route {
  const route = WORKED_ROUTES.find((candidate) => candidate.model === model && candidate.kind === kind);
  if (!route) throw new Error(`routeOf: Tarrow Works has no route for ${model} ${kind}`);
  return workedRoute(route, ways);
}
