import {
  csvOf,
  isUsedUp,
  lotSentence,
  lotWords,
  voidedBy,
  type Air,
  type DryingOutlook,
  type ForecastShift,
  type LotBody,
  type LotJudgement,
  type LotState,
  type MoistureWindow,
  type RoomView,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { PerRack } from '../floor/per-rack.ts';
import { Kept } from '../live/kept.ts';
import { LiveService } from '../live/live.service.ts';
import { logOf } from '../log/logged.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { DryingService, type DryingView, outlookOf } from './drying.service.ts';
import { LotsService } from './lots.service.ts';
import { RoomsService } from './rooms.service.ts';

export interface LotSummary {
  code: string;
  species: string;
  thicknessMm: number;
  room: string;
  dryness: string;
  receivedMs: number;
  stacked: number;
  toCut: number;
  cut: number;
  blanksInStock: number;
  papersMissing: boolean;
  verdict: LotJudgement['judgement']['verdict'];
  sentence: string;
  meanPct: number | null;
  readMs: number | null;
  passing: number;
  outlook: DryingOutlook | 'never' | null;
}

export interface LotEntryView {
  seq: number;
  type: LotBody['type'];
  atMs: number;
  by: string;
  byName: string;
  words: string;
  voided: boolean;
}

export interface LotView {
  state: LotState;
  usedUp: boolean;
  papersMissing: boolean;
  judged: LotJudgement;
  sentence: string;
  drying: DryingView;
  /** Newest first. */
  entries: LotEntryView[];
}

/** A room that drifts: its air before, and now. */
interface Drifted {
  room: string;
  usual: Air | null;
  air: Air | null;
}

interface RoomLook {
  view: RoomView;
  drifted: Drifted | null;
}

/** A rack counts as so many pieces where nothing depends on the exact number. */
const PIECES_OF_A_RACK = 12;
/** Days before a drift that say what the room's usual air is. */
const BEFORE_DRIFT_DAYS = 7;

/** Lots as people look at them. */
@Injectable()
export class LotViewsService {
  /** Of the rooms, and the lots in them; the racks are looked at one by one. */
  private readonly kept: Kept<RoomLook[]>;
  private readonly shifts = new PerRack<ForecastShift>();

  constructor(
    private readonly source: DataSource,
    private readonly lots: LotsService,
    private readonly drying: DryingService,
    private readonly rooms: RoomsService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    live: LiveService,
  ) {
    this.kept = new Kept(
      () => this.look(),
      live.news,
      ({ batches }) => batches.some((code) => this.lots.owns(code)),
    );
  }

  /** Lots that are not used up: those with boards drying first, the soonest ready first. */
  async list(): Promise<LotSummary[]> {
    const [lots, window, nowMs] = await Promise.all([this.lots.open(), this.lots.window(), this.clock.now()]);
    return Promise.all(lots.map((state) => this.summary(state, window, nowMs)));
  }

  private async summary(state: LotState, window: MoistureWindow, nowMs: number): Promise<LotSummary> {
    const judged = await this.drying.judge(state, window);
    const { judgement, passing, readMs } = judged;
    const boardsWith = (which: string): number => state.boards.filter((b) => b.status === which).length;
    const stacked = boardsWith('stacked');
    const seen = stacked > 0 ? await this.drying.ofLot(state, judged, window, nowMs) : null;
    return {
      ...{ code: state.code, species: state.species, thicknessMm: state.thicknessMm, room: state.room },
      ...{ dryness: state.dryness, receivedMs: state.receivedMs },
      ...{ stacked, toCut: boardsWith('to-cut'), cut: boardsWith('cut') },
      blanksInStock: state.blanks.filter((blank) => blank.status === 'stock').length,
      papersMissing: await this.papersMissing(state),
      verdict: judgement.verdict,
      sentence: lotSentence(state, judged, window),
      meanPct: judgement.count > 0 ? judgement.meanPct : null,
      readMs,
      passing: passing.length,
      outlook: seen?.outlook ?? null,
    };
  }

  private async papersMissing(state: LotState): Promise<boolean> {
    const species = (await this.setup.species()).find(({ name }) => name === state.species);
    return (species?.papersNeeded ?? false) && state.papers === null;
  }

  async lot(code: string): Promise<LotView> {
    const row = await this.lots.row(code);
    if (!row?.state) throw new NotFoundException(`there is no lot ${code}`);
    const { state } = row;
    const [window, nowMs, people, log] = await Promise.all([
      this.lots.window(),
      this.clock.now(),
      this.setup.people(),
      logOf<LotBody>(this.source.manager, code),
    ]);
    const judged = await this.drying.judge(state, window);
    const voided = voidedBy(log);
    return {
      state,
      usedUp: isUsedUp(state),
      papersMissing: await this.papersMissing(state),
      judged,
      sentence: lotSentence(state, judged, window),
      drying: await this.drying.ofLot(state, judged, window, nowMs),
      entries: log
        .map(({ seq, atMs, by, body }) => ({
          ...{ seq, type: body.type, atMs, by, words: lotWords(body), voided: voided.has(seq) },
          byName: people.find((person) => person.code === by)?.name ?? by,
        }))
        .reverse(),
    };
  }

  /** Readings of a lot as CSV: one row each, raw and corrected, oldest first. */
  async readingsCsv(code: string): Promise<string> {
    const { judged, state } = await this.lot(code);
    const rows = judged.readings.map((r) => [
      new Date(r.atMs).toISOString(),
      r.board === null ? '' : `${state.code}/${r.board}`,
      ...[r.depth, r.meter, r.readingPct, r.correctedPct.toFixed(2)],
    ]);
    return csvOf(['read_at', 'board', 'depth', 'meter', 'reading_pct', 'corrected_pct'], rows);
  }

  /** Rooms with wood in them, as calls look at them: what a drift does to every forecast that depends on the room. */
  async views(): Promise<RoomView[]> {
    return Promise.all(
      (await this.kept.get()).map(async ({ view, drifted }) =>
        drifted ? { ...view, shifts: [...view.shifts, ...(await this.rackShifts(drifted))] } : view,
      ),
    );
  }

  private async look(): Promise<RoomLook[]> {
    const rooms = (await this.rooms.seen()).filter((room) => room.holdsWood);
    return Promise.all(
      rooms.map(async (room) => {
        const { drift, air } = room;
        const drifted = drift && {
          ...{ room: room.room, air },
          usual: await this.rooms.usual(room.room, drift.sinceMs, BEFORE_DRIFT_DAYS),
        };
        const view = {
          ...{ room: room.room, band: room.band, wantedRhPct: room.wantedRhPct },
          ...{ drift, health: room.health },
          relativeHumidityPct: air?.relativeHumidityPct ?? null,
          shifts: drifted ? await this.lotShifts(drifted) : [],
        };
        return { view, drifted };
      }),
    );
  }

  private async lotShifts(drifted: Drifted): Promise<ForecastShift[]> {
    const [window, nowMs] = await Promise.all([this.lots.window(), this.clock.now()]);
    const drying = (await this.lots.open()).filter(
      (lot) => lot.room === drifted.room && lot.boards.some((board) => board.status === 'stacked'),
    );
    return Promise.all(
      drying.map(async (lot) => {
        const seen = await this.drying.ofLot(lot, await this.drying.judge(lot, window), window, nowMs);
        return shiftOf(seen, drifted, lot.boards.length);
      }),
    );
  }

  private async rackShifts(drifted: Drifted): Promise<ForecastShift[]> {
    const racks = await this.drying.racksIn(drifted.room);
    return racks.map(({ state, seen }) =>
      this.shifts.get(state, seen.nowMs, [seen, drifted], () => shiftOf(seen, drifted, PIECES_OF_A_RACK)),
    );
  }
}

/** What its usual air and the air it has now would do to a forecast. */
const shiftOf = (seen: DryingView, { usual, air }: Drifted, pieces: number): ForecastShift => ({
  ...{ code: seen.subject, pieces },
  usual: outlookOf(seen, usual),
  drifted: outlookOf(seen, air),
});
