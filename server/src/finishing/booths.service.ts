import {
  factoryDate,
  isRefusal,
  judgeBooth,
  sprayFirst,
  startOfFactoryDay,
  type BoothHour,
  type BoothJudgement,
  type BoothLimits,
  type NextCoat,
  type FactoryCalendar,
  type ListedView,
  type Refusal,
  type SprayFirst,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { BoothRow, FilterChangeRow, RecipeRow } from './rows.ts';
import { Kept, oneOf } from '../live/kept.ts';
import { LiveService } from '../live/live.service.ts';
import { tellAll } from '../live/tell.ts';
import { entriesInForce } from '../log/entries-in-force.ts';
import { RacksService } from '../floor/racks.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { BoothAirService, type BoothAir, type JudgedSample } from './booth-air.service.ts';
import { RacksInFinishService, type FinishList, type ListedRack } from './racks-in-finish.service.ts';

/** The coats a group of pieces still wants at a booth's station, the next one of them as `NextCoat`. */
export interface BoothRack extends NextCoat {
  model: string;
  operation: string;
  standing: 'waiting' | 'inHand';
  dueMs: number;
  /** The first of its places on the rack. */
  place: number;
  /** Coats asked for at this operation. */
  of: number;
  /** Of spraying, for all the coats that are still to come here. */
  allMinutes: number;
}

export interface BoothPageView {
  code: string;
  name: string;
  station: string;
  room: string;
  limits: BoothLimits;
  now: JudgedSample | null;
  /** Today by the hour as it was logged, with what each hour allowed. */
  logged: (Omit<JudgedSample, 'judged'> & Pick<BoothJudgement, 'dewC' | 'marginC' | 'verdict'>)[];
  /** The hours to come, forecast from the pattern of two weeks. */
  ahead: BoothHour[];
  closesMs: number | null;
  opensMs: number | null;
  /** What waits to be sprayed here, most urgent first, and what is in hand. */
  racks: BoothRack[];
  /** What to spray before its air closes it; null: nothing is due by then, it does not close, or it is closed. */
  first: SprayFirst | null;
  filterHours: number;
  filterLifeHours: number;
  filterChangedMs: number | null;
}

interface FilterUse {
  filterHours: number;
  filterChangedMs: number | null;
}

/** Booths: their air against their limits, through the day and on; what waits for them; their filters. */
@Injectable()
export class BoothsService {
  private readonly filters: Kept<Map<string, FilterUse>>;

  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly air: BoothAirService,
    private readonly inFinish: RacksInFinishService,
    private readonly floor: RacksService,
    live: LiveService,
  ) {
    this.filters = new Kept(() => this.filtersUsed(), live.news, oneOf('coat', 'refinish', 'undo'));
  }

  /** Every booth. */
  async all(): Promise<{ nowMs: number; zone: string; booths: BoothPageView[] }> {
    const list = await this.inFinish.list();
    const { nowMs, zone } = list;
    return { nowMs, zone, booths: await this.before(list) };
  }

  /** Every booth, with what of a list of racks wants spraying there. */
  async before(list: FinishList): Promise<BoothPageView[]> {
    const [airs, { calendar }, filters] = await Promise.all([
      this.air.all(),
      this.setup.factory(),
      this.filters.get(),
    ]);
    return airs.map((air) => boothPage(air, list, calendar, filters));
  }

  /** Hours of spraying since the filters of each booth were changed: the booth minutes of every coat laid there. */
  private async filtersUsed(): Promise<Map<string, FilterUse>> {
    const [booths, changes, recipes] = await Promise.all([
      this.source.getRepository(BoothRow).find(),
      this.source.query<{ booth: string; at: Date }[]>(
        'SELECT booth, max(at) AS at FROM filter_change GROUP BY booth',
      ),
      this.source.getRepository(RecipeRow).find(),
    ]);
    const used = new Map<string, FilterUse>();
    for (const { code } of booths) {
      const at = changes.find(({ booth }) => booth === code)?.at;
      const minutes = await this.minutesSince(code, at?.getTime() ?? 0, recipes);
      used.set(code, { filterHours: minutes / 60, filterChangedMs: at?.getTime() ?? null });
    }
    return used;
  }

  private async minutesSince(booth: string, sinceMs: number, recipes: readonly RecipeRow[]): Promise<number> {
    const laid = await entriesInForce(this.source, {
      type: 'coat',
      afterMs: sinceMs,
      says: { booth: [booth] },
    });
    const states = await this.floor.statesOf(laid.map(({ batch }) => batch));
    return laid.reduce((sum, { batch, operation, atMs, pieces }) => {
      const { coats, finish } = states.get(batch) ?? {};
      const step = coats?.find((coat) => coat.atMs === atMs && coat.operation === operation)?.step;
      const recipe = recipes.find(({ id }) => id === finish?.recipe)?.recipe;
      const found = recipe?.steps.find(({ key }) => key === step);
      const each = found?.kind === 'coat' ? found.boothMinutes / found.coats : 0;
      return sum + each * pieces;
    }, 0);
  }

  /** Filters changed: their hours begin again. The same key twice is one change. */
  async changeFilters(change: { key: string; by: string; booth: string }): Promise<BoothPageView | Refusal> {
    const { key, by, booth } = change;
    const stranger = await this.setup.stranger(by);
    if (stranger) return stranger;
    const seen = await this.one(booth);
    if (isRefusal(seen)) return seen;
    const at = new Date(await this.clock.happened());
    await this.source.transaction(async (manager) => {
      await manager
        .createQueryBuilder()
        .insert()
        .into(FilterChangeRow)
        .values({ key, booth, usedHours: seen.filterHours, person: by, at })
        .orIgnore()
        .execute();
      await tellAll(manager, [`booth ${booth}`]);
    });
    // Its own news may come after the answer.
    this.filters.forget();
    return this.one(booth);
  }

  private async one(code: string): Promise<BoothPageView> {
    const found = (await this.all()).booths.find((booth) => booth.code === code);
    if (!found) throw new NotFoundException(`there is no booth '${code}'`);
    return found;
  }
}

function boothPage(
  { row, samples, now, ahead, closesMs, opensMs }: BoothAir,
  { nowMs, racks }: FinishList,
  calendar: FactoryCalendar,
  filters: ReadonlyMap<string, FilterUse>,
): BoothPageView {
  const { code, name, station, room, limits, filterLifeHours } = row;
  const dayMs = startOfFactoryDay(calendar, factoryDate(calendar, nowMs));
  const waiting = racks
    .flatMap((rack) => rack.views.flatMap((view) => nextCoat(rack, view, station)))
    .sort(byUrgency);
  return {
    ...{ code, name, station, room, limits, now, ahead, closesMs, opensMs },
    logged: samples
      .filter(({ atMs }) => atMs >= dayMs)
      .map((sample) => {
        const { dewC, marginC, verdict } = judgeBooth(sample, limits);
        return { ...sample, dewC, marginC, verdict };
      }),
    racks: waiting,
    first: closesMs === null || now?.judged.verdict !== 'spray' ? null : sprayFirst(waiting, closesMs, nowMs),
    ...(filters.get(code) ?? { filterHours: 0, filterChangedMs: null }),
    filterLifeHours,
  };
}

const byUrgency = (a: BoothRack, b: BoothRack): number =>
  Number(b.standing === 'inHand') - Number(a.standing === 'inHand') ||
  a.dueMs - b.dueMs ||
  a.batch.localeCompare(b.batch) ||
  a.place - b.place;

/** The next coat of a group of pieces that stands at a station, waiting or in hand; none where it rests or wants no more. */
function nextCoat(rack: ListedRack, view: ListedView, station: string): BoothRack[] {
  const { coat, standing } = view;
  if (!coat || standing === 'onHold' || view.station !== station) return [];
  const { number, of, minutes, fromMs } = coat;
  return [
    {
      ...{ batch: rack.batch, model: rack.model, dueMs: rack.dueMs, operation: view.operationName, standing },
      ...{ place: view.positions[0] ?? 0, pieces: view.positions.length, number, of, minutes, fromMs },
      allMinutes: minutes * (of - number + 1),
    },
  ];
}
