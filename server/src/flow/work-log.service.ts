import {
  factoryDate,
  firstPasses,
  operationTimes,
  rolledYieldPct,
  usageOf,
  workingClock,
  type FirstPass,
  type OperationAt,
  type OperationTime,
  type Stage,
  type Usage,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { SetupService } from '../setup/setup.service.ts';
import { LogWindowsService, namesIn, windowOf } from './log-windows.service.ts';

type LoggedMinutes = NonNullable<OperationTime['logged']>;
export type LoggedTime = Omit<OperationTime, keyof OperationAt | 'logged'> & LoggedMinutes;
export type Counts = Pick<FirstPass, 'pieces' | 'good' | 'sentBack' | 'scrapped'>;

/** One operation of the newest route of a model and kind, as the log has it. */
export interface WorkedOperation extends OperationAt {
  kindName: string;
  stationName: string | null;
  /** Revision of the route it is held against. */
  revision: number;
  /** How long it takes; null: nothing of it was measured. */
  time: LoggedTime | null;
  /** What became of pieces that came to it the first time; null: none did. */
  first: Counts | null;
}

/** How many of a hundred get through the whole route without being sent back or scrapped. */
export interface RolledYield {
  model: string;
  kind: string;
  kindName: string;
  rolledPct: number;
  /** At the operation where it was lost most. */
  worst: string;
  worstPct: number;
}

export interface UsedHours extends Usage {
  name: string;
  /** Null: a skill. */
  stage: Stage | null;
}

export interface WorkView {
  nowMs: number;
  zone: string;
  fromDay: string;
  toDay: string;
  operations: WorkedOperation[];
  yields: RolledYield[];
  used: UsedHours[];
}

/** What comes a second time had mostly come the first time within so many days before the window. */
const CAME_BEFORE_DAYS = 60;

/** What work takes and what it gives: times beside the route's, first passes, hours that were used. */
@Injectable()
export class WorkLogService {
  constructor(
    private readonly windows: LogWindowsService,
    private readonly setup: SetupService,
  ) {}

  /** @param count working days before today */
  async view(count: number): Promise<WorkView> {
    const [days, newest, kinds] = await Promise.all([
      this.windows.days(count, CAME_BEFORE_DAYS),
      this.setup.newestRoutes(),
      this.setup.kinds(),
    ]);
    const { nowMs, fromMs, calendar, stays, stations } = days;
    const firstMs = stays.reduce((least, stay) => Math.min(least, stay.fromMs), fromMs);
    const { between } = workingClock(calendar, firstMs);
    const keyOf = ({ model, kind, operation }: OperationAt): string => `${model}|${kind}|${operation}`;
    const times = new Map(operationTimes({ stays, newest, fromMs, between }).map((one) => [keyOf(one), one]));
    const passes = firstPasses({ stays, newest, fromMs });
    const firsts = new Map(passes.map((one) => [keyOf(one), one]));
    const kindNames = new Map(kinds.map(({ letter, name }) => [letter, name]));
    const nameOf = namesIn(days);
    const stages = new Map(stations.map(({ code, stage }) => [code, stage]));
    return {
      ...{ nowMs, zone: calendar.zone },
      ...{ fromDay: factoryDate(calendar, fromMs), toDay: factoryDate(calendar, nowMs) },
      operations: newest.flatMap(({ model, kind, revision, operations }) =>
        operations.flatMap(({ key, name, stations: [station = null] }): WorkedOperation[] => {
          const at = { model, kind, operation: key, operationName: name, station };
          const time = times.get(keyOf(at));
          const first = firsts.get(keyOf(at));
          if (!time?.logged && !first) return [];
          return [
            {
              ...{ ...at, revision, kindName: kindNames.get(kind) ?? kind },
              stationName: station === null ? null : nameOf({ code: station, by: 'station' }),
              time: time?.logged ? timeOf(time, time.logged) : null,
              first: first ? countsOf(first) : null,
            },
          ];
        }),
      ),
      yields: newest.flatMap(({ model, kind }) => {
        const own = passes.filter((one) => one.model === model && one.kind === kind);
        const worst = own.toSorted((a, b) => a.good / a.pieces - b.good / b.pieces)[0];
        if (!worst) return [];
        return [
          {
            ...{ model, kind, kindName: kindNames.get(kind) ?? kind, rolledPct: rolledYieldPct(own) },
            ...{ worst: worst.operationName, worstPct: (100 * worst.good) / worst.pieces },
          },
        ];
      }),
      used: usageOf({ stays, fromMs, resources: windowOf(days, fromMs, nowMs).resources }).map((one) => ({
        ...one,
        name: nameOf(one),
        stage: one.by === 'station' ? (stages.get(one.code) ?? null) : null,
      })),
    };
  }
}

const countsOf = ({ pieces, good, sentBack, scrapped }: Counts): Counts => ({
  ...{ pieces, good, sentBack, scrapped },
});

const timeOf = (
  { per, flashes, samples, leftOut, routeMinutes }: OperationTime,
  logged: LoggedMinutes,
): LoggedTime => ({ ...{ per, flashes, samples, leftOut, routeMinutes }, ...logged });
