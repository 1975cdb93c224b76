import {
  addWorkingMinutes,
  firstComeLoads,
  MINUTE_MS,
  neededMs,
  operationOf,
  planLoads,
  stationCalendar,
  workingClock,
  type Check,
  type FactoryCalendar,
  type LoadPlan,
  type LoadsQuestion,
  type PieceState,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import type { ProgramRow } from './rows.ts';
import { checksOfLoad, loadAgainst } from './first-piece.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import type { RackInQuestion } from '../floor/racks.service.ts';
import { RacksService } from '../floor/racks.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { programName, ProgramsService, type CutterPageView } from './programs.service.ts';
import { LoadsService } from './loads.service.ts';
import type { SetUp } from './set-ups.ts';

export interface LoadView {
  code: string;
  program: string;
  firstPiece: boolean;
  startedMs: number;
  /** By the program's own times, in working hours. */
  endMs: number;
  parts: { batch: string; model: string; pieces: number[] }[];
  /** What stands against its end: the first piece; null: nothing. */
  against: string | null;
  /** What is measured at its operation, and what was measured of this load. */
  checks: Check[];
  measured: { check: string; values: number[] }[];
  caution: string | null;
}

export interface TableView {
  code: string;
  name: string;
  places: number;
  /** What it is set up for; null: nobody knows. */
  program: string | null;
  load: LoadView | null;
}

export interface WaitingView {
  batch: string;
  model: string;
  kind: string;
  operation: string;
  operationName: string;
  /** Null: nobody has written one; it cannot be planned. */
  program: string | null;
  pieces: number[];
  sinceMs: number;
  neededMs: number;
  dueMs: number;
  caution: string | null;
}

export interface MillView {
  nowMs: number;
  zone: string;
  station: string;
  stationName: string;
  tables: TableView[];
  waiting: WaitingView[];
  cutters: CutterPageView[];
  /** Everything a plan needs: the page makes plans of its own from it when somebody moves a load. */
  question: LoadsQuestion;
  plan: LoadPlan;
  firstCome: LoadPlan;
}

type Plans = Pick<MillView, 'plan' | 'firstCome'>;

/** A set-up whose first piece has not passed is none: its next load begins with a first piece again. */
const provedProgram = (setUp: SetUp | undefined): string | null =>
  setUp && setUp.against === null ? setUp.program : null;

/** A mill as it stands: what is on its tables, what waits for them, and today's loads. */
@Injectable()
export class MillService {
  private readonly plans = new Map<string, { by: string; plans: Plans }>();

  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly programs: ProgramsService,
    private readonly floor: RacksService,
    private readonly loads: LoadsService,
  ) {}

  /** Stations with tables. */
  async stations(): Promise<{ code: string; name: string }[]> {
    const [stations, beds] = await Promise.all([this.setup.stations(), this.setup.beds()]);
    return stations
      .filter(({ code }) => beds.some(({ kind, station }) => kind === 'table' && station === code))
      .map(({ code, name }) => ({ code, name }));
  }

  async mill(station: string): Promise<MillView> {
    const [nowMs, { calendar: ofHouse }, stations, allBeds, programs, cutters] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.setup.stations(),
      this.setup.beds(),
      this.programs.newest(),
      this.programs.cutters(station),
    ]);
    const beds = allBeds.filter((bed) => bed.station === station && bed.kind === 'table');
    const found = stations.find(({ code }) => code === station);
    if (!found || beds.length === 0) throw new NotFoundException(`${station} is no station with tables`);
    const calendar = stationCalendar(ofHouse, station);
    const racks = await this.floor.open();
    const last = await this.loads.setUps(
      this.source.manager,
      beds.map(({ code }) => code),
    );
    const tables: TableView[] = [];
    const onTables = loadsOn(racks);
    for (const { code, name, places } of beds) {
      const load = await this.loadOn(onTables.get(code) ?? [], programs, calendar);
      tables.push({ code, name, places, load, program: load?.program ?? provedProgram(last.get(code)) });
    }
    // By when a rack is needed is what the house still has to do to it, on the days it works.
    const waiting = await this.waiting(station, racks, programs, ofHouse);
    // Plans go by minutes: within one the same question has the same plan.
    const minuteMs = Math.floor(nowMs / MINUTE_MS) * MINUTE_MS;
    const question: LoadsQuestion = {
      nowMs: minuteMs,
      calendar,
      tables: tables.map(({ code, places, program, load }) => ({
        code,
        places,
        program,
        freeMs: load ? Math.max(minuteMs, load.endMs) : minuteMs,
      })),
      programs: programs.map((row) => ({
        name: programName(row),
        setUpMinutes: row.setUpMinutes,
        loadMinutes: row.loadMinutes,
        cycleMinutes: row.cycleMinutes,
        tools: row.tools,
      })),
      waiting: waiting.flatMap(({ batch, program, pieces, sinceMs, neededMs: needed }) =>
        program === null ? [] : [{ batch, program, pieces: pieces.length, sinceMs, neededMs: needed }],
      ),
      cutters,
    };
    return {
      nowMs,
      zone: calendar.zone,
      station,
      stationName: found.name,
      tables,
      waiting,
      cutters,
      question,
      ...this.plansOf(station, question),
    };
  }

  /** The loads of a mill as they are best put and as they came, drawn up anew only when what they rest on is another. */
  private plansOf(station: string, question: LoadsQuestion): Plans {
    const by = JSON.stringify(question);
    const known = this.plans.get(station);
    if (known?.by === by) return known.plans;
    const plans = { plan: planLoads(question), firstCome: firstComeLoads(question) };
    this.plans.set(station, { by, plans });
    return plans;
  }

  private async loadOn(
    parts: readonly LoadPart[],
    programs: readonly ProgramRow[],
    calendar: FactoryCalendar,
  ): Promise<LoadView | null> {
    const mark = parts[0]?.pieces[0]?.load;
    const [first] = parts;
    if (!mark || !first) return null;
    const startedMs = Math.min(...parts.flatMap(({ pieces }) => pieces.map((piece) => piece.sinceMs)));
    const program = programs.find((row) => programName(row) === mark.program);
    const minutes = program
      ? program.loadMinutes + program.cycleMinutes + (mark.firstPiece ? program.setUpMinutes : 0)
      : 0;
    const operation = operationOf(first.rack.route, first.pieces[0]?.operation ?? '');
    const against = await loadAgainst(this.source.manager, first.rack, {
      pieces: first.pieces.map((piece) => piece.position),
    });
    return {
      ...mark,
      startedMs,
      endMs: addWorkingMinutes(calendar, startedMs, minutes),
      parts: parts.map(({ rack, pieces }) => ({
        batch: rack.state.code,
        model: rack.state.model,
        pieces: pieces.map((piece) => piece.position),
      })),
      against: against ?? null,
      checks: operation.checks ?? [],
      caution: operation.caution,
      measured: (await checksOfLoad(this.source.manager, mark.code)).map(({ check, values }) => ({
        check,
        values,
      })),
    };
  }

  private async waiting(
    station: string,
    racks: readonly RackInQuestion[],
    programs: readonly ProgramRow[],
    calendar: FactoryCalendar,
  ): Promise<WaitingView[]> {
    const found: WaitingView[] = [];
    if (racks.length === 0) return found;
    const clock = workingClock(calendar, Math.min(...racks.map(({ state }) => state.dueMs)));
    for (const { state, route } of racks) {
      const { model, kind, dueMs } = state;
      const keys = new Set(state.pieces.filter((p) => p.standing === 'waiting').map((p) => p.operation));
      for (const key of keys) {
        const operation = operationOf(route, key);
        if (operation.mode !== 'load' || !operation.stations.includes(station)) continue;
        const pieces = state.pieces.filter((p) => p.standing === 'waiting' && p.operation === key);
        const program = programs.find((p) => p.model === model && p.kind === kind && p.operation === key);
        const then = await this.setup.routeAfter(route);
        found.push({
          batch: state.code,
          model,
          kind,
          operation: key,
          operationName: operation.name,
          program: program ? programName(program) : null,
          pieces: pieces.map((piece) => piece.position),
          sinceMs: Math.min(...pieces.map((piece) => piece.sinceMs)),
          neededMs: neededMs({ route, operation: key, pieces: pieces.length, dueMs, calendar, then, clock }),
          dueMs,
          caution: operation.caution,
        });
      }
    }
    return found.sort((a, b) => a.neededMs - b.neededMs || a.batch.localeCompare(b.batch));
  }
}

/** Pieces of one rack that lie on a table in a load. */
interface LoadPart {
  rack: RackInQuestion;
  pieces: PieceState[];
}

/** What lies on every table in a load, by the code of the table. */
function loadsOn(racks: readonly RackInQuestion[]): Map<string, LoadPart[]> {
  const found = new Map<string, LoadPart[]>();
  for (const rack of racks)
    for (const piece of rack.state.pieces) {
      if (!piece.bed || !piece.load) continue;
      const parts = found.get(piece.bed) ?? [];
      found.set(piece.bed, parts);
      const last = parts.at(-1);
      if (last?.rack === rack) last.pieces.push(piece);
      else parts.push({ rack, pieces: [piece] });
    }
  return found;
}
