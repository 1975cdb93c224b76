import { backlogAt, factoryDate, startOfFactoryDay, workedRoute } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { FloorService } from '../flow/floor.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { OrderViewsService } from './order-views.service.ts';

/** What is ordered and not begun, due in one month. */
export interface BacklogMonth {
  /** Its first day. */
  fromMs: number;
  pieces: number;
  /** Hours at the constraint. */
  hours: number;
}

export interface BacklogView {
  zone: string;
  pieces: number;
  /** What paces the factory; null: nobody can say yet. */
  station: string | null;
  stationName: string | null;
  hours: number;
  /** Weeks of the constraint's work, at the hours it has in a working week; null: it has none, or there is none. */
  weeks: number | null;
  months: BacklogMonth[];
}

/** Working days of a week. */
const WEEK_DAYS = 5;

/** How much is ordered and not begun: in pieces, in weeks of what paces the factory, and by when it is due. */
@Injectable()
export class BacklogService {
  constructor(
    private readonly setup: SetupService,
    private readonly floor: FloorService,
    private readonly views: OrderViewsService,
  ) {}

  async view(): Promise<BacklogView> {
    const [{ calendar }, { constraint, stations }, wanted, routes] = await Promise.all([
      this.setup.factory(),
      this.floor.floor(),
      this.views.wanted(),
      this.setup.newestRoutes(),
    ]);
    const station = stations.find(({ code }) => code === constraint?.station);
    const worked = routes.map((route) => workedRoute(route, {}));
    const lines = backlogAt(station?.code ?? '', wanted, worked);
    const months = new Map<string, BacklogMonth>();
    for (const { dueMs, pieces, hours } of lines) {
      const first = `${factoryDate(calendar, dueMs).slice(0, 7)}-01`;
      const month = months.get(first) ?? { fromMs: startOfFactoryDay(calendar, first), pieces: 0, hours: 0 };
      months.set(first, { ...month, pieces: month.pieces + pieces, hours: month.hours + hours });
    }
    const hours = lines.reduce((sum, line) => sum + line.hours, 0);
    const aWeek = WEEK_DAYS * (station?.hoursADay ?? 0);
    return {
      ...{ zone: calendar.zone, hours, weeks: aWeek > 0 ? hours / aWeek : null },
      ...{ station: station?.code ?? null, stationName: station?.name ?? null },
      pieces: lines.reduce((sum, line) => sum + line.pieces, 0),
      months: [...months.values()].toSorted((a, b) => a.fromMs - b.fromMs),
    };
  }
}
