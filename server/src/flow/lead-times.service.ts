import {
  addLeadParts,
  countUpTo,
  cumulativeFlow,
  cycleTimes,
  lateness,
  DAY_MS,
  factoryDate,
  groupedBy,
  hasLeft,
  leadTimeSplit,
  LEAD_PARTS,
  noLeadParts,
  pieceCode,
  shiftDate,
  STAGES,
  startOfFactoryDay,
  throughput,
  wipAgainstCap,
  workingClock,
  type CycleTimes,
  type Lateness,
  type LeadParts,
  type LeadTimeSplit,
  type PieceAt,
  type Leg,
  type Stage,
  type WipAgainstCap,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import { shippedSince, type ShippedPiece } from '../log/pieces.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { StationDaysService } from './station-days.service.ts';
import { WaysService } from './ways.service.ts';

/** One instrument that left, with its lead time taken apart, days. */
export interface LeadLine {
  piece: string;
  batch: string;
  position: number;
  model: string;
  serial: string | null;
  leftMs: number;
  /** Days after its rack was due, before it negative; null: not known. */
  lateDays: number | null;
  days: number;
  parts: LeadParts;
}

/** Where the time of what left went, on average, days an instrument. */
export interface StageTime {
  stage: Stage;
  parts: LeadParts;
}

export interface LeadTimesView {
  nowMs: number;
  zone: string;
  fromDay: string;
  toDay: string;
  /** Models of which something left. */
  models: string[];
  /** Instruments that left a working day, today not counted. */
  leftADay: number;
  cycle: CycleTimes | null;
  /** Against the days their racks were due; null: none is known. */
  late: Lateness | null;
  parts: LeadParts;
  stages: StageTime[];
  /** The newest first. */
  lines: LeadLine[];
  /** More left in that time: these are the newest. */
  more: boolean;
}

/** One stretch of an instrument's way, days. */
export interface LeadStretch {
  batch: string | null;
  operationName: string;
  stage: Stage | null;
  fromMs: number;
  toMs: number;
  parts: LeadParts;
}

export interface LeadTimeView extends LeadLine {
  zone: string;
  stretches: LeadStretch[];
}

/** How many instruments had come to each stage, or left, at the end of each day. */
export interface CumulativeView {
  nowMs: number;
  zone: string;
  /** Factory days, today the last of them. */
  days: string[];
  /** For each day: come to the wood room, to machining … to assembly, left. Each no more than the one before it. */
  reached: number[][];
  /** What is in the house now, held against the cap that the wanted lead time sets, by what left in that time. */
  wip: WipAgainstCap;
  /** Lead time that is wanted, days by the calendar; null: none. */
  wantedDays: number | null;
}

/** What was in each stage at the end of one of those days, by the racks it is on now. */
export interface InHouseView {
  /** Factory day, 'YYYY-MM-DD'. */
  day: string;
  zone: string;
  stages: {
    stage: Stage;
    /** What came to it first, first. */
    racks: { batch: string; positions: number[]; sinceMs: number }[];
  }[];
}

/** Instruments whose way is taken apart for one page. */
const MOST = 400;
/** In the house and gone within the window, at most. */
const MOST_FLOWING = 10_000;

/** Where lead time goes: by what left, stage by stage, and of one instrument stay by stay. */
@Injectable()
export class LeadTimesService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly ways: WaysService,
    private readonly racks: RacksService,
    private readonly stationDays: StationDaysService,
  ) {}

  /** Of what left within so many working days and today. @param model of this one only */
  async view(days: number, model?: string): Promise<LeadTimesView> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const toDay = factoryDate(calendar, nowMs);
    const past = await this.stationDays.pastDays(nowMs, days);
    const [fromDay = toDay] = past;
    const fromMs = startOfFactoryDay(calendar, fromDay);
    const all = await shippedSince(this.source, { fromMs, most: MOST_FLOWING });
    const left = all.filter((piece) => model === undefined || piece.model === model);
    const splits = await this.splitsOf(left.slice(0, MOST), nowMs);
    const known = splits.flatMap(({ piece, split }) => (split ? [{ piece, split }] : []));
    const mean = (sums: LeadParts): LeadParts => inDays(sums, known.length);
    const total = noLeadParts();
    const byStage = new Map(STAGES.map((stage) => [stage, noLeadParts()]));
    for (const { split } of known) {
      addLeadParts(total, split.parts);
      for (const { stage, parts } of split.stays) {
        const sum = stage === null ? undefined : byStage.get(stage);
        if (sum) addLeadParts(sum, parts);
      }
    }
    return {
      ...{ nowMs, zone: calendar.zone, fromDay, toDay },
      models: [...new Set(all.map((piece) => piece.model))].toSorted(),
      leftADay: throughput(
        [...groupedBy(left, ({ leftMs }) => leftMs)].flatMap(([leftMs, together]) => {
          const day = factoryDate(calendar, leftMs);
          return together.map(() => day);
        }),
        past,
      ).aDay,
      cycle: cycleTimes(known.map(({ split }) => split)),
      late: lateness(
        known.flatMap(({ piece: { leftMs, dueMs } }) => (dueMs === null ? [] : [{ leftMs, dueMs }])),
      ),
      parts: mean(total),
      stages: [...byStage].map(([stage, parts]) => ({ stage, parts: mean(parts) })),
      lines: known.map(({ piece, split }) => lineOf(piece, split)),
      more: left.length > MOST,
    };
  }

  /**
   * Cumulative flow of what is in the house or left within so many working days and today: instruments, and bodies that become one. A
   * body stands for its instrument until they are joined.
   */
  async cumulative(days: number): Promise<CumulativeView> {
    const { nowMs, calendar, wantedDays, shown, fromMs, ends, pieces, counted } = await this.flowing(days);
    const points = cumulativeFlow(
      pieces.map(({ reached }) => reached),
      ends,
    );
    const windowDays = (nowMs - fromMs) / DAY_MS;
    return {
      ...{ nowMs, zone: calendar.zone, days: shown, wantedDays },
      reached: points.map(({ reached }) => reached),
      wip: wipAgainstCap({ ...counted, windowDays, wantedDays }),
    };
  }

  /** The racks behind one day of the cumulative flow over the same window. @throws NotFoundException for a day outside it */
  async inHouse(days: number, day: string): Promise<InHouseView> {
    const { calendar, shown, ends, pieces } = await this.flowing(days);
    const atMs = ends[shown.indexOf(day)];
    if (atMs === undefined) throw new NotFoundException(`${day} is not one of the days that are looked at`);
    const standing = pieces.flatMap(({ batch, position, reached }) => {
      const last = countUpTo(reached, atMs) - 1;
      const stage = STAGES[last];
      return stage === undefined ? [] : [{ batch, position, stage, sinceMs: reached[last] ?? atMs }];
    });
    const inStage = groupedBy(standing, ({ stage }) => stage);
    return {
      ...{ day, zone: calendar.zone },
      stages: STAGES.map((stage) => ({
        stage,
        racks: [...groupedBy(inStage.get(stage) ?? [], ({ batch }) => batch)]
          .map(([batch, own]) => ({
            batch,
            positions: own.map(({ position }) => position).toSorted((a, b) => a - b),
            sinceMs: Math.min(...own.map(({ sinceMs }) => sinceMs)),
          }))
          .toSorted((a, b) => a.sinceMs - b.sinceMs),
      })),
    };
  }

  /** When what is in the house, or left within a window, came to each stage; what left is told first. */
  private async flowing(days: number) {
    const nowMs = await this.clock.now();
    const { calendar, wantedLeadDays: wantedDays } = await this.setup.factory();
    const today = factoryDate(calendar, nowMs);
    const shown = [...(await this.stationDays.pastDays(nowMs, days)), today];
    const fromMs = startOfFactoryDay(calendar, shown[0] ?? today);
    const [left, racks, stations] = await Promise.all([
      shippedSince(this.source, { fromMs, most: MOST_FLOWING }),
      this.racks.open(),
      this.setup.stations(),
    ]);
    const here = racks
      .filter(({ route }) =>
        route.operations.some((one) => one.mode === 'ship' || (one.mode === 'join' && one.role === 'host')),
      )
      .flatMap(({ state }) =>
        state.pieces.flatMap((piece): PieceAt[] =>
          hasLeft(piece) ? [] : [{ batch: state.code, position: piece.position }],
        ),
      );
    const stages = new Map(stations.map(({ code, stage }) => [code, STAGES.indexOf(stage)]));
    const flowing = [...left, ...here].slice(0, MOST_FLOWING);
    const ways = await this.ways.of(flowing, nowMs);
    return {
      ...{ nowMs, calendar, wantedDays, shown, fromMs },
      counted: { inHouse: here.length, left: left.length },
      /** End of each day, of today up to now. */
      ends: shown.map((day) => Math.min(nowMs, startOfFactoryDay(calendar, shiftDate(day, 1)))),
      pieces: flowing.map(({ batch, position }, i) => {
        // What left is behind every stage, whichever of them it passed by.
        const times = [...reachedOf(ways[i] ?? [], stages), left[i]?.leftMs ?? Infinity];
        return {
          ...{ batch, position },
          /** When it first stood at each stage or a later one, and left; none before the one in front of it. */
          reached: times.map((ms, at) => Math.min(ms, ...times.slice(at + 1))),
        };
      }),
    };
  }

  /** One instrument, stay by stay. @throws NotFoundException when there is none, or it was nowhere yet */
  async one({ batch, position }: PieceAt): Promise<LeadTimeView> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const { legs, split } = await this.splitOf({ batch, position }, nowMs);
    const [first] = legs;
    if (!split || !first) throw new NotFoundException(`there is no piece ${pieceCode(batch, position)}`);
    const model = legs.at(-1)?.route.model ?? first.route.model;
    const names = new Map(
      legs.flatMap((leg) =>
        leg.route.operations.map(({ key, name }) => [`${leg.batch} ${key}`, name] as const),
      ),
    );
    return {
      ...lineOf({ batch, position, model, serial: null, dueMs: null, leftMs: split.toMs }, split),
      zone: calendar.zone,
      stretches: split.stays.map(({ operation, parts, ...stay }) => ({
        ...stay,
        operationName: names.get(`${stay.batch} ${operation}`) ?? operation,
        parts: inDays(parts, 1),
      })),
    };
  }

  private async splitOf(piece: PieceAt, nowMs: number) {
    const [legs = []] = await this.ways.of([piece], nowMs);
    const [split = null] = await this.taken([legs]);
    return { legs, split };
  }

  private async splitsOf(
    pieces: readonly ShippedPiece[],
    nowMs: number,
  ): Promise<{ piece: ShippedPiece; split: LeadTimeSplit | null }[]> {
    const splits = await this.taken(await this.ways.of(pieces, nowMs));
    return pieces.map((piece, i) => ({ piece, split: splits[i] ?? null }));
  }

  private async taken(ways: Awaited<ReturnType<WaysService['of']>>): Promise<(LeadTimeSplit | null)[]> {
    const [{ calendar }, stations] = await Promise.all([this.setup.factory(), this.setup.stations()]);
    const stages = new Map(stations.map(({ code, stage }) => [code, stage]));
    const firstMs = Math.min(...ways.flatMap((legs) => legs.flatMap(({ stays }) => stays[0]?.fromMs ?? [])));
    if (!Number.isFinite(firstMs)) return ways.map(() => null);
    const { between } = workingClock(calendar, firstMs);
    return ways.map((legs) =>
      leadTimeSplit({ legs, between, stageOf: (station) => stages.get(station) ?? null }),
    );
  }
}

/** When a piece first stood at each stage or at a later one, ms, in the order of the stages. */
function reachedOf(legs: readonly Leg[], stages: ReadonlyMap<string, number>): number[] {
  const first = STAGES.map(() => Infinity);
  for (const { route, stays } of legs) {
    const usual = new Map(route.operations.map(({ key, stations: [station] }) => [key, station]));
    for (const { operation, fromMs } of stays) {
      const stage = stages.get(usual.get(operation) ?? '') ?? -1;
      for (let at = 0; at <= stage; at += 1) first[at] = Math.min(first[at] ?? Infinity, fromMs);
    }
  }
  return first;
}

const inDays = (parts: LeadParts, of: number): LeadParts => {
  const days = noLeadParts();
  if (of > 0) for (const part of LEAD_PARTS) days[part] = parts[part] / of / DAY_MS;
  return days;
};

const lineOf = (
  { batch, position, model, serial, dueMs, leftMs }: ShippedPiece,
  split: LeadTimeSplit,
): LeadLine => ({
  ...{ piece: pieceCode(batch, position), batch, position, model, serial, leftMs },
  lateDays: dueMs === null ? null : (leftMs - dueMs) / DAY_MS,
  ...{ days: (split.toMs - split.fromMs) / DAY_MS, parts: inDays(split.parts, 1) },
});
