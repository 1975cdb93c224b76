import {
  answered,
  boardRows,
  calls,
  dayStarts,
  isLike,
  FREE_DAYS,
  meetingCalls,
  meetingForecast,
  millCalls,
  operationAfter,
  roomCalls,
  rowToScale,
  shiftAt,
  woodCalls,
  type BoardRow,
  type Call,
  type CallAnswer,
  type HoldView,
  type RackQuestion,
  type Stage,
  type Station,
  type SingleCall,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { BackupService } from '../backup/backup.service.ts';
import { FinishCallsService } from '../finishing/finish-calls.service.ts';
import { AskedTogether } from '../live/asked-together.ts';
import { MillViewsService } from '../machining/mill-views.service.ts';
import type { HoldDto } from '../routing/rack.dto.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { factoryWords } from '../setup/factory-words.ts';
import { SetupService } from '../setup/setup.service.ts';
import { LotViewsService } from '../wood/lot-views.service.ts';
import { StockService } from '../wood/stock.service.ts';
import type { BoardDto, BoardRowDto, RackLineDto, StageRowDto } from './board.dto.ts';
import { CallAnswersService, type Said } from './call-answers.service.ts';
import { FloorService } from './floor.service.ts';
import { JudgedRacksService, type JudgedRack } from './judged-racks.service.ts';

/** Racks and holds told of one station of the board; its stage has all of them. */
const MOST_RACKS = 3;
const MOST_HOLDS = 4;

/** What is called for by a room that comes after this one. */
type CallsBeside = (nowMs: number) => Promise<readonly SingleCall[]>;

/** The Now board and its parts: where every rack stands, and what wants the manager. */
@Injectable()
export class BoardService {
  private readonly beside: CallsBeside[] = [];
  private readonly together = new AskedTogether(() => this.look());

  constructor(
    private readonly floor: FloorService,
    private readonly racks: JudgedRacksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly backups: BackupService,
    private readonly lots: LotViewsService,
    private readonly mills: MillViewsService,
    private readonly finish: FinishCallsService,
    private readonly stock: StockService,
    private readonly answers: CallAnswersService,
  ) {}

  /** A room that knows of calls beside the floor's own says so here. */
  register(calls: CallsBeside): void {
    this.beside.push(calls);
  }

  /** What the board draws: the first of every station, and all calls. */
  board(): Promise<BoardDto> {
    return this.together.get();
  }

  /** The same, drawn with those racks alone that are like what is asked. */
  async boardOf(asked: RackQuestion): Promise<BoardDto> {
    const [whole, { racks, stations, days }] = await Promise.all([this.board(), this.standing()]);
    const like = racks.filter(({ line }) => line && isLike(line, asked));
    return { ...whole, drawn: like.length, days, rows: drawnRows(like, stations, days) };
  }

  /** Keeps what somebody says to one of the calls. */
  async answer(said: Said): Promise<CallAnswer> {
    const { calls: open, putOff } = await this.board();
    return this.answers.answer(said, [...open, ...putOff]);
  }

  private async look(): Promise<BoardDto> {
    const { nowMs, racks, stations, days } = await this.standing();
    const found = await this.calls(nowMs, racks);
    const { open, putOff } = answered(found, await this.answers.of(found), nowMs);
    return {
      racks: racks.length,
      drawn: racks.length,
      days,
      rows: drawnRows(racks, stations, days),
      calls: open,
      putOff,
    };
  }

  /** The stations of one stage, with everything that stands at them. */
  async stage(stage: Stage): Promise<StageRowDto[]> {
    const { racks, stations } = await this.standing();
    return boardRows(
      stations.filter((station) => station.stage === stage),
      racks.map(({ drawn }) => drawn),
    );
  }

  /** Every open rack, in order of their codes. */
  async list(): Promise<RackLineDto[]> {
    const { racks } = await this.standing();
    return racks.flatMap(({ line }) => line ?? []);
  }

  /** The open racks as they stand, and what they stand at. */
  private async standing() {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const [racks, stations] = await Promise.all([this.racks.all(nowMs, calendar), this.setup.stations()]);
    return { nowMs, racks, stations, days: dayStarts(nowMs, calendar.zone, FREE_DAYS) };
  }

  private async calls(nowMs: number, racks: readonly JudgedRack[]): Promise<Call[]> {
    const { calendar } = await this.setup.factory();
    const stations = await this.setup.stations();
    const [rooms, mills, finish, backups, wood, { loads, constraint }, ...beside] = await Promise.all([
      this.lots.views(),
      this.mills.views(),
      this.finish.calls(),
      this.backups.calls(),
      this.stock.woodOf(racks),
      this.floor.load(racks, stations, nowMs),
      ...this.beside.map((calls) => calls(nowMs)),
    ]);
    const time = factoryWords(nowMs, calendar.zone);
    const sides = racks.flatMap(({ side }) => side ?? []);
    const holds = racks.flatMap((rack) => rack.holds.map((hold) => hold.view));
    return calls({
      nowMs,
      stations,
      loads,
      constraint,
      open: shiftAt(calendar, nowMs) !== undefined,
      holds,
      due: racks.flatMap(({ due }) => due ?? []),
      arrivals: arrivals(racks, holds),
      others: [
        ...racks.flatMap((rack) => rack.calls),
        ...woodCalls(wood),
        ...roomCalls(rooms),
        ...millCalls(mills),
        ...finish,
        ...backups,
        ...beside.flat(),
        ...meetingCalls(meetingForecast(sides), sides, nowMs, time),
      ],
      time,
    });
  }
}

const drawnRows = (
  racks: readonly JudgedRack[],
  stations: readonly Pick<Station, 'code'>[],
  days: readonly number[],
): BoardRowDto[] =>
  boardRows(
    stations,
    racks.map(({ drawn }) => drawn),
  ).map((row) => ({ ...firstOf(row), scale: rowToScale(row, days) }));

const firstOf = ({ waiting, inHand, holds, ...row }: BoardRow<HoldDto>): Omit<BoardRowDto, 'scale'> => ({
  ...row,
  waiting: waiting.slice(0, MOST_RACKS),
  moreWaiting: Math.max(0, waiting.length - MOST_RACKS),
  inHand: inHand.slice(0, MOST_RACKS),
  moreInHand: Math.max(0, inHand.length - MOST_RACKS),
  holds: holds.slice(0, MOST_HOLDS),
  moreHolds: Math.max(0, holds.length - MOST_HOLDS),
});

/** When the next rack comes off a hold to each station. */
function arrivals(
  racks: readonly JudgedRack[],
  holds: readonly HoldView[],
): Map<string, { batch: string; atMs: number }> {
  const routes = new Map(racks.map(({ state, route }) => [state.code, route]));
  const next = new Map<string, { batch: string; atMs: number }>();
  for (const hold of holds) {
    const route = routes.get(hold.batch);
    const station = route && operationAfter(route, hold.operation)?.stations[0];
    if (!station || hold.endMs === null) continue;
    const known = next.get(station);
    if (!known || hold.endMs < known.atMs) next.set(station, { batch: hold.batch, atMs: hold.endMs });
  }
  return next;
}
