import {
  believedOf,
  believedReadings,
  DAY_MS,
  dryingAir,
  fitDrying,
  forecastDrying,
  HOUR_MS,
  judgeLot,
  judgeRack,
  lastInsideMarginPct,
  takenReadings,
  USUAL_DAYS,
  WANDER_DAYS,
  windowOf,
  yearPerInchDays,
  type Air,
  type BatchState,
  type ClimateSample,
  type DryingOutlook,
  type DryingSpecies,
  type HoldOperation,
  type LotJudgement,
  type LotState,
  type MoistureRule,
  type MoistureWindow,
  type TakenReading,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { PerRack } from '../floor/per-rack.ts';
import { RacksService, type RackInQuestion } from '../floor/racks.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from './climate.service.ts';
import { MetersService } from './meters.service.ts';
import { RecentAirService } from './recent-air.service.ts';
import { airAlong, UNKNOWN_WOOD } from './readings.service.ts';
import { RoomsService } from './rooms.service.ts';

export interface DryingReadingView {
  atMs: number;
  board: number | null;
  depth: 'shell' | 'core';
  readingPct: number;
  correctedPct: number;
}

/** All that a drying forecast is made from, so that the browser can make it again with other air. */
export interface DryingView {
  subject: string;
  nowMs: number;
  room: string;
  /** Those that are believed. */
  readings: DryingReadingView[];
  /** Those that count for nothing until they are confirmed. */
  setAside: DryingReadingView[];
  /** Logged air where the wood was, thinned for long times. */
  climate: ClimateSample[];
  /** What is assumed of the days to come: the room's mean of the last week; null: nothing is logged. */
  air: Air | null;
  window: MoistureWindow;
  marginPct: number;
  thicknessMm: number;
  species: string | null;
  basicSpecificGravity: number;
  /** The route's own time constant; null: from species and thickness. */
  tauDays: number | null;
  /** Of green lumber: when the old rule of a year an inch would have it dry. */
  oldRuleMs: number | null;
  outlook: DryingOutlook | 'never' | null;
}

const MOST_SAMPLES = 1000;

/** What a forecast is asked of: the wood, its readings and where it was. */
interface Subject {
  subject: string;
  room: string;
  moves: readonly { atMs: number; room: string }[];
  readings: DryingReadingView[];
  setAside: DryingReadingView[];
  window: MoistureWindow;
  marginPct: number;
  thicknessMm: number;
  species: string | null;
  basicSpecificGravity: number;
  tauDays: number | null;
  oldRuleMs: number | null;
}

/** Drying forecasts of lots and of resting racks. */
@Injectable()
export class DryingService {
  private readonly racks = new PerRack<DryingView>();

  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly floor: RacksService,
    private readonly climate: ClimateService,
    private readonly recentAir: RecentAirService,
    private readonly rooms: RoomsService,
    private readonly meters: MetersService,
    private readonly clock: FactoryClock,
  ) {}

  async ofLot(
    state: LotState,
    judged: LotJudgement,
    window: MoistureWindow,
    nowMs: number,
  ): Promise<DryingView> {
    const species = (await this.setup.species()).find(({ name }) => name === state.species);
    return this.see(
      {
        subject: state.code,
        room: state.room,
        moves: state.moves,
        readings: believedOf(judged.readings),
        setAside: judged.judgement.setAside.map(readingView),
        window,
        marginPct: judged.marginPct,
        thicknessMm: state.thicknessMm,
        species: state.species,
        basicSpecificGravity: species?.basicSpecificGravity ?? UNKNOWN_WOOD.basicSpecificGravity,
        tauDays: null,
        oldRuleMs:
          state.dryness === 'green' ? state.receivedMs + yearPerInchDays(state.thicknessMm) * DAY_MS : null,
      },
      nowMs,
    );
  }

  /** Judges a lot by the meters' lines of today. */
  async judge(state: LotState, window: MoistureWindow): Promise<LotJudgement> {
    return judgeLot(state, { window, lineOf: (await this.meters.lines())(state.species) });
  }

  /** A rack that rests under a moisture rule. @throws NotFoundException when it does not. */
  async ofBatch(code: string): Promise<DryingView> {
    const rack = await this.floor.rack(code);
    const hold = restsIn(rack);
    if (!hold) throw new NotFoundException(`${code} does not rest under a moisture rule now`);
    const nowMs = await this.clock.now();
    const [air, wood] = await Promise.all([
      this.recentAir.of([hold.operation.room], nowMs),
      this.woodOf(rack.state),
    ]);
    return seeRack(rack.state, hold, { samples: air.get(hold.operation.room) ?? [], wood, nowMs });
  }

  /** Racks that rest under a moisture rule in a room; what is seen of them is shared with whoever asked within the minute. */
  async racksIn(room: string): Promise<{ state: BatchState; seen: DryingView }[]> {
    const [nowMs, open] = await Promise.all([this.clock.now(), this.floor.open()]);
    const samples = (await this.recentAir.of([room], nowMs)).get(room) ?? [];
    const resting: { state: BatchState; seen: DryingView }[] = [];
    for (const { state, route } of open) {
      const hold = restsIn({ state, route });
      if (hold?.operation.room !== room) continue;
      const wood = await this.woodOf(state);
      const seen = this.racks.get(state, nowMs, [samples, JSON.stringify(wood)], () =>
        seeRack(state, hold, { samples, wood, nowMs }),
      );
      resting.push({ state, seen });
    }
    return resting;
  }

  /** What the pieces of a rack are made of, as far as its model says. */
  private async woodOf({ model, kind }: BatchState): Promise<RackWood> {
    const part = (await this.setup.model(model))?.wood?.parts[kind];
    const species = (await this.setup.species()).find(({ name }) => name === part?.species);
    return {
      species: part?.species ?? null,
      thicknessMm: part?.blankMm.thicknessMm ?? UNKNOWN_WOOD.thicknessMm,
      basicSpecificGravity: species?.basicSpecificGravity ?? UNKNOWN_WOOD.basicSpecificGravity,
    };
  }

  private async see(subject: Subject, nowMs: number): Promise<DryingView> {
    const { moves, ...shown } = subject;
    const firstMs = Math.min(nowMs - WANDER_DAYS * DAY_MS, ...subject.readings.map(({ atMs }) => atMs));
    const [climate, usual] = await Promise.all([
      this.climateWhere(moves, firstMs, nowMs),
      this.rooms.usual(subject.room, nowMs, USUAL_DAYS),
    ]);
    const air = usual && { temperatureC: usual.temperatureC, relativeHumidityPct: usual.relativeHumidityPct };
    const seen: DryingView = { ...shown, nowMs, climate, air, outlook: null };
    return { ...seen, outlook: outlookOf(seen, air) };
  }

  /** The air where the wood was, room after room. */
  private async climateWhere(
    moves: readonly { atMs: number; room: string }[],
    fromMs: number,
    toMs: number,
  ): Promise<ClimateSample[]> {
    const hoursASpan = Math.max(1, Math.ceil((toMs - fromMs) / HOUR_MS / MOST_SAMPLES));
    const rooms = [...new Set(moves.map(({ room }) => room))];
    const series = await this.climate.spans(rooms, { fromMs, toMs, hoursASpan });
    return airAlong(moves, series);
  }
}

interface RackWood {
  species: string | null;
  thicknessMm: number;
  basicSpecificGravity: number;
}

/** A hold under a moisture rule that pieces of a rack are in. */
interface Resting {
  operation: HoldOperation;
  rule: MoistureRule;
  sinceMs: number;
}

function restsIn({ state, route }: RackInQuestion): Resting | undefined {
  for (const { operation: key, standing, sinceMs } of state.pieces) {
    const operation = route.operations.find((one) => one.key === key);
    if (standing === 'onHold' && operation?.mode === 'hold' && operation.rule.rule === 'moisture')
      return { operation, rule: operation.rule, sinceMs };
  }
  return undefined;
}

function seeRack(
  state: BatchState,
  { operation, rule, sinceMs }: Resting,
  known: {
    samples: readonly ClimateSample[];
    wood: RackWood;
    nowMs: number;
  },
): DryingView {
  const { samples, wood, nowMs } = known;
  const read = rackReadings(state, { sinceMs, atMs: nowMs });
  const logged = dryingAir(
    samples,
    nowMs,
    read.readings.map(({ atMs }) => atMs),
  );
  const air = logged?.usual ?? null;
  const seen: DryingView = {
    ...{ subject: state.code, nowMs, room: operation.room },
    ...read,
    ...{ climate: logged?.climate ?? [], air, outlook: null },
    window: windowOf(rule),
    marginPct: rackMargin(state, operation.key, { sinceMs, rule, nowMs }),
    ...wood,
    tauDays: rule.tauDays,
    oldRuleMs: null,
  };
  return { ...seen, outlook: outlookOf(seen, air) };
}

/** The forecast of what was seen, in some air. Null: nothing read, or no air known. */
export function outlookOf(seen: DryingView, air: Air | null): DryingOutlook | 'never' | null {
  if (!air || seen.readings.length === 0 || seen.climate.length === 0) return null;
  const hoursAt = (ms: number): number => (ms - seen.nowMs) / HOUR_MS;
  const species: DryingSpecies = { basicSpecificGravity: seen.basicSpecificGravity };
  const fit = fitDrying({
    readings: seen.readings.map(({ atMs, correctedPct }) => ({ hours: hoursAt(atMs), mcPct: correctedPct })),
    climate: seen.climate.map(({ atMs, ...rest }) => ({ hours: hoursAt(atMs), ...rest })),
    thicknessMm: seen.thicknessMm,
    species,
    ...(seen.tauDays === null ? {} : { tauDays: seen.tauDays }),
  });
  // A reading filed a moment ahead of this server's clock must not stop the forecast.
  const fromHours = Math.max(0, fit.lastHours);
  return forecastDrying(fit, {
    climate: air,
    gate: { ...seen.window, marginPct: seen.marginPct },
    fromHours,
  });
}

/** A rack's readings as its hold is judged by them: those that are believed, and those set aside. */
function rackReadings(
  state: BatchState,
  span: { sinceMs: number; atMs: number },
): Pick<DryingView, 'readings' | 'setAside'> {
  const { believed, setAside } = believedReadings(takenReadings(state.readings, span));
  return { readings: believed.map(readingView), setAside: setAside.map(readingView) };
}

const readingView = ({ atMs, piece, depth, shownPct, pct }: TakenReading): DryingReadingView => ({
  ...{ atMs, board: piece, depth: depth ?? 'shell', readingPct: shownPct, correctedPct: pct },
});

/** How far the piece that comes inside last lies from the mean, as its hold is judged. */
function rackMargin(
  state: BatchState,
  operation: string,
  { sinceMs, rule, nowMs }: { sinceMs: number; rule: MoistureRule; nowMs: number },
): number {
  const positions = state.pieces.flatMap((p) => (p.operation === operation ? [p.position] : []));
  const span = { sinceMs, atMs: nowMs, positions };
  return lastInsideMarginPct(judgeRack(windowOf(rule), state.readings, span));
}
