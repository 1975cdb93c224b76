import {
  factoryDate,
  markedConstraint,
  ropeStages,
  shiftAt,
  stationLoads,
  workNow,
  type Constraint,
  type Station,
  type StationLoad,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RacksService, type RackInQuestion } from '../floor/racks.service.ts';
import { AskedTogether } from '../live/asked-together.ts';
import { LogService } from '../log/log.service.ts';
import { lastFiling } from '../log/entries-in-force.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { FloorDto, OperationNamesDto, StationDto } from './floor.dto.ts';
import { PaceService } from './pace.service.ts';
import { StationDaysService } from './station-days.service.ts';

/** Days the constraint is looked for over, today included. */
export const CONSTRAINT_DAYS = 7;

/** What stands around every page: the clock, the rope, the constraint, the last filing, and the names a line may use. */
@Injectable()
export class FloorService {
  private readonly together = new AskedTogether(() => this.look());

  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly racks: RacksService,
    private readonly stationDays: StationDaysService,
    private readonly pace: PaceService,
    private readonly log: LogService,
  ) {}

  floor(): Promise<FloorDto> {
    return this.together.get();
  }

  private async look(): Promise<FloorDto> {
    const nowMs = await this.clock.now();
    const { name, calendar } = await this.setup.factory();
    const [racks, stations, people, absent, last, lots] = await Promise.all([
      this.racks.open(),
      this.setup.stations(),
      this.setup.people(),
      this.setup.absent(factoryDate(calendar, nowMs)),
      lastFiling(this.source),
      this.log.otherCodes([]),
    ]);
    const { loads, constraint } = await this.load(racks, stations, nowMs);
    return {
      nowMs,
      factory: name,
      zone: calendar.zone,
      shift: shiftAt(calendar, nowMs) ?? null,
      peopleIn: people.length - absent.length,
      peopleAll: people.length,
      stages: ropeStages(racks, stations),
      constraint,
      stations: withLoads(stations, loads),
      racks: racks.map(({ seq, state }) => ({
        ...{ code: state.code, model: state.model, seq, routeId: state.routeId },
      })),
      operations: await this.operationsOf(racks),
      lots,
      lastFiling: last,
    };
  }

  /** Loads of all stations now, and the constraint as it is marked everywhere. */
  async load(
    racks: readonly RackInQuestion[],
    stations: readonly Station[],
    nowMs: number,
  ): Promise<{ loads: StationLoad[]; constraint: Constraint | null }> {
    const shiftHours = await this.setup.shiftHours(nowMs);
    const loads = stationLoads({ work: workNow(racks), stations, shiftHours });
    const days = await this.stationDays.pastDays(nowMs, CONSTRAINT_DAYS - 1);
    const [history, named] = await Promise.all([this.stationDays.loads(days), this.pace.named(nowMs)]);
    return { loads, constraint: markedConstraint(loads, history, named) };
  }

  /** Names of the operations of the routes these racks work, as they are drawn: on all their ways. */
  private async operationsOf(racks: readonly RackInQuestion[]): Promise<OperationNamesDto[]> {
    const ids = [...new Set(racks.map(({ state }) => state.routeId))];
    const routes = await Promise.all(ids.map((id) => this.setup.route(id)));
    return routes.map(({ id, operations }) => ({
      routeId: id,
      operations: operations.map(({ key, name }) => ({ key, name })),
    }));
  }
}

export function withLoads(stations: readonly Station[], loads: readonly StationLoad[]): StationDto[] {
  return stations.flatMap((station) => {
    const load = loads.find((candidate) => candidate.station === station.code);
    return load ? [{ ...station, ...load }] : [];
  });
}
