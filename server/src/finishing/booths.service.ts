import {
  boothOutlook,
  closesMs,
  coatsAsked,
  coatsOn,
  DAY_MS,
  HOUR_MS,
  isRefusal,
  judgeBooth,
  operationOf,
  opensMs,
  startOfFactoryDay,
  factoryDate,
  type BoothHour,
  type BoothJudgement,
  type BoothLimits,
  type BoothSample,
  type Refusal,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { BoothRow, FilterChangeRow, RecipeRow } from './rows.ts';
import { Kept, oneOf } from '../live/kept.ts';
import { LiveService } from '../live/live.service.ts';
import { tellAll } from '../live/tell.ts';
import { entriesInForce } from '../log/entries-in-force.ts';
import type { RackInQuestion } from '../floor/racks.service.ts';
import { RacksService } from '../floor/racks.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from '../wood/climate.service.ts';

/** The pattern of the day is taken from so many days; core looks at fourteen. */
const LOOK_BACK_DAYS = 15;
const AHEAD_HOURS = 30;
/** Air older than this says nothing of now. */
const AIR_HOLDS_MS = 2 * HOUR_MS;

export interface BoothRack {
  batch: string;
  model: string;
  operation: string;
  standing: 'waiting' | 'inHand';
  pieces: number;
  dueMs: number;
  /** Of spraying, for the coats that are still to come here. */
  minutes: number;
}

export interface BoothPageView {
  code: string;
  name: string;
  station: string;
  room: string;
  limits: BoothLimits;
  now: (BoothSample & { judged: BoothJudgement }) | null;
  /** Today by the hour as it was logged, with what each hour allowed. */
  logged: (BoothSample & Pick<BoothJudgement, 'dewC' | 'marginC' | 'verdict'>)[];
  /** The hours to come, forecast from the pattern of two weeks. */
  ahead: BoothHour[];
  closesMs: number | null;
  opensMs: number | null;
  /** What waits to be sprayed here, most urgent first, and what is in hand. */
  racks: BoothRack[];
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
    private readonly climate: ClimateService,
    private readonly floor: RacksService,
    live: LiveService,
  ) {
    this.filters = new Kept(() => this.filtersUsed(), live.news, oneOf('coat', 'refinish', 'undo'));
  }

  async all(): Promise<{ nowMs: number; zone: string; booths: BoothPageView[] }> {
    const [nowMs, { calendar }, rows, racks] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.source.getRepository(BoothRow).find({ order: { position: 'ASC' } }),
      this.floor.open(),
    ]);
    const booths: BoothPageView[] = [];
    for (const row of rows) booths.push(await this.see(row, racks, nowMs));
    return { nowMs, zone: calendar.zone, booths };
  }

  private async see(row: BoothRow, racks: readonly RackInQuestion[], nowMs: number): Promise<BoothPageView> {
    const { code, name, station, room, limits, filterLifeHours } = row;
    const [{ calendar }, samples, filters] = await Promise.all([
      this.setup.factory(),
      this.climate.booth(room, nowMs - LOOK_BACK_DAYS * DAY_MS, nowMs),
      this.filters.get(),
    ]);
    const dayMs = startOfFactoryDay(calendar, factoryDate(calendar, nowMs));
    const last = samples.at(-1);
    const ahead = boothOutlook({ samples, nowMs, hours: AHEAD_HOURS, limits }) ?? [];
    return {
      ...{ code, name, station, room, limits },
      now:
        last && nowMs - last.atMs <= AIR_HOLDS_MS + HOUR_MS
          ? { ...last, judged: judgeBooth(last, limits) }
          : null,
      logged: samples
        .filter(({ atMs }) => atMs >= dayMs)
        .map((sample) => {
          const { dewC, marginC, verdict } = judgeBooth(sample, limits);
          return { ...sample, dewC, marginC, verdict };
        }),
      ahead,
      closesMs: closesMs(ahead),
      opensMs: opensMs(ahead),
      racks: racks.flatMap((rack) => waitsFor(rack, station)).sort(byUrgency),
      ...(filters.get(code) ?? { filterHours: 0, filterChangedMs: null }),
      filterLifeHours,
    };
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
    const row = await this.source.getRepository(BoothRow).findOneBy({ code });
    if (!row) throw new NotFoundException(`there is no booth '${code}'`);
    return this.see(row, await this.floor.open(), await this.clock.now());
  }
}

const byUrgency = (a: BoothRack, b: BoothRack): number =>
  Number(b.standing === 'inHand') - Number(a.standing === 'inHand') ||
  a.dueMs - b.dueMs ||
  a.batch.localeCompare(b.batch);

/** The coats a rack still wants at a station, as far as it stands there now. */
function waitsFor({ state, route }: RackInQuestion, station: string): BoothRack[] {
  return (['inHand', 'waiting'] as const).flatMap((standing) => {
    const pieces = state.pieces.filter(
      (piece) => piece.standing === standing && operationOf(route, piece.operation).stations[0] === station,
    );
    const [first] = pieces;
    if (!first) return [];
    const operation = operationOf(route, first.operation);
    const wanted = coatsAsked(state, operation).length - coatsOn(state, first);
    if (operation.mode !== 'attended' || wanted <= 0) return [];
    const all = coatsAsked(state, operation).length;
    return [
      {
        batch: state.code,
        model: state.model,
        operation: operation.name,
        standing,
        pieces: pieces.length,
        dueMs: state.dueMs,
        minutes: (pieces.length * operation.pieceMinutes * wanted) / all,
      },
    ];
  });
}
