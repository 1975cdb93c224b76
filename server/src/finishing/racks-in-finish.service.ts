import {
  boothOpenings,
  DAY_MS,
  finishPlan,
  finishViews,
  hasLeft,
  inBooth,
  listed,
  operationOf,
  recipeMisfits,
  refuse,
  roomsInQuestion,
  sendBackCosts,
  type BoothOpenings,
  type FinishAir,
  type FinishView,
  type ListedView,
  type PanelEnd,
  type SendBackCosts,
} from '@ample-crane/core';
import { BadRequestException, Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import type { FilingOutcome } from '../log/filing.ts';
import { LogService } from '../log/log.service.ts';
import { Refused } from '../log/refused.ts';
import type { RackInQuestion } from '../floor/racks.service.ts';
import { RacksService } from '../floor/racks.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { factoryWords } from '../setup/factory-words.ts';
import { SetupService } from '../setup/setup.service.ts';
import { ClimateService } from '../wood/climate.service.ts';
import { RecentAirService } from '../wood/recent-air.service.ts';
import { AskedTogether } from '../live/asked-together.ts';
import { PerRack } from '../floor/per-rack.ts';
import { BoothAirService } from './booth-air.service.ts';
import { PanelFitsService, type PanelFitted } from './panel-fits.service.ts';
import { finishOperations, RecipeBookService } from './recipe-book.service.ts';

export interface FinishRack {
  batch: string;
  kind: string;
  model: string;
  quantity: number;
  dueMs: number;
  /** Name and revision of its recipe, and its title; null: it has none. */
  recipe: string | null;
  recipeTitle: string | null;
  targetUm: number | null;
  minimumUm: number | null;
  views: FinishView[];
  /** Panels sprayed with it that can tell when they are cured. */
  panels: { code: string; curedMs: number }[];
}

/** A rack as lists show it. */
export type ListedRack = Omit<FinishRack, 'views'> & { views: ListedView[] };

export interface FinishList {
  nowMs: number;
  zone: string;
  racks: ListedRack[];
}

type Words = (ms: number, rangeMs?: number) => string;

/** The racks in finish with their ladders: what may be done with each, and when. */
@Injectable()
export class RacksInFinishService {
  private readonly views = new PerRack<FinishView[]>();
  private readonly asked = new AskedTogether(() => this.look());

  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly climate: ClimateService,
    private readonly recentAir: RecentAirService,
    private readonly floor: RacksService,
    private readonly log: LogService,
    private readonly book: RecipeBookService,
    private readonly panels: PanelFitsService,
    private readonly boothAir: BoothAirService,
  ) {}

  /** Every rack with pieces at a finishing station, as its ladder and the air of the booths let it go on. */
  list(): Promise<FinishList> {
    return this.asked.get();
  }

  private async look(): Promise<FinishList> {
    const [nowMs, { calendar }, open] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.floor.open(),
    ]);
    const finishing = await this.finishingStations();
    const racks = open.filter((rack) => isInFinish(rack, finishing));
    const [air, panels, booths] = await Promise.all([
      this.air(racks, nowMs),
      this.panels.ends(racks.map(({ state }) => state.code)),
      this.openings(nowMs),
    ]);
    const words = factoryWords(nowMs, calendar.zone);
    return {
      nowMs,
      zone: calendar.zone,
      racks: racks.map((rack) => {
        const seen = this.see(rack, nowMs, air, words, panels.get(rack.state.code) ?? []);
        const views = seen.views.filter(({ station }) => finishing.has(station));
        return {
          ...seen,
          views: views.map((view) => listed(inBooth(view, booths.get(view.station), words))),
        };
      }),
    };
  }

  /** When the booth used at each station, where no other is named, can be sprayed in. */
  private async openings(nowMs: number): Promise<Map<string, BoothOpenings>> {
    const openings = new Map<string, BoothOpenings>();
    for (const { row, now, ahead } of await this.boothAir.all()) {
      const found = boothOpenings({ name: row.name, judged: now?.judged ?? null, ahead }, nowMs);
      if (found && !openings.has(row.station)) openings.set(row.station, found);
    }
    return openings;
  }

  private async finishingStations(): Promise<Set<string>> {
    const stations = await this.setup.stations();
    return new Set(stations.filter(({ stage }) => stage === 'finishing').map(({ code }) => code));
  }

  private see(
    { state, route }: RackInQuestion,
    nowMs: number,
    air: FinishAir,
    time: Words,
    panels: readonly PanelEnd[],
  ): FinishRack {
    const { finish } = state;
    const by = [
      ...roomsInQuestion(state, route).map((room) => air.climateOf(room)),
      JSON.stringify([panels, air.late]),
    ];
    return {
      batch: state.code,
      kind: state.kind,
      model: state.model,
      quantity: state.quantity,
      dueMs: state.dueMs,
      recipe: finish?.recipe ?? null,
      recipeTitle: finish?.title ?? null,
      targetUm: finish?.targetUm ?? null,
      minimumUm: finish?.minimumUm ?? null,
      views: this.views.get(state, nowMs, by, () => finishViews({ state, route, nowMs, air, time, panels })),
      panels: [...panels],
    };
  }

  /** The air these racks stood in. */
  private async air(racks: readonly RackInQuestion[], nowMs: number): Promise<FinishAir> {
    const rooms = racks.flatMap(({ state, route }) => roomsInQuestion(state, route));
    const [series, late] = await Promise.all([
      this.recentAir.of(rooms, nowMs),
      this.climate.late(nowMs - DAY_MS),
    ]);
    return { climateOf: (room) => series.get(room), late };
  }

  /** One rack with everything its page shows. */
  async rack(code: string) {
    const nowMs = await this.clock.now();
    const [{ calendar }, { seq, state, route }, people, beds] = await Promise.all([
      this.setup.factory(),
      this.floor.rack(code),
      this.setup.people(),
      this.setup.beds(),
    ]);
    const [panels, finish] = await Promise.all([
      this.panels.fitted({ batch: code }),
      this.book.finishOf(state.model, state.kind),
    ]);
    const air = await this.air([{ state, route }], nowMs);
    const [newest, booths] = await Promise.all([this.book.newest(), this.openings(nowMs)]);
    const words = factoryWords(nowMs, calendar.zone);
    const seen = this.see({ state, route }, nowMs, air, words, panelEnds(panels));
    const recipe = newest.find(({ id }) => id === state.finish?.recipe) ?? null;
    return {
      nowMs,
      zone: calendar.zone,
      seq,
      state,
      route,
      rack: {
        ...seen,
        views: seen.views.map((view) => inBooth(view, booths.get(view.station), words)),
      },
      panels: panels.map(panelView),
      /** Recipes it may be moved to, the newest revision of each. */
      recipes: newest
        .filter(
          (one) =>
            (finish?.recipes.includes(one.name) ?? false) &&
            recipeMisfits(one.recipe, finishOperations(route)).length === 0,
        )
        .map(({ id, recipe: { title } }) => ({ id, title })),
      defects: recipe
        ? recipe.recipe.steps.flatMap((step) => step.defects.map((one) => ({ ...one, at: step.at })))
        : [],
      cautions: recipe?.recipe.cautions ?? [],
      able: people.map(({ code: person, name, skills }) => ({ code: person, name, skills })),
      freezers: beds
        .filter((bed) => bed.kind === 'freezer')
        .map(({ code: bed, name, places, station }) => ({ code: bed, name, places, station })),
    };
  }

  /** What it costs when pieces go back: the rack waits for them, or goes on. */
  async sendBack(
    code: string,
    question: { from: string; to: string; pieces: number[] },
  ): Promise<SendBackCosts> {
    const { state, route } = await this.floor.rack(code);
    const { calendar } = await this.setup.factory();
    const here = question.pieces.every((place) =>
      state.pieces.some(
        (piece) => piece.position === place && piece.operation === question.from && !hasLeft(piece),
      ),
    );
    if (!here) throw new BadRequestException(`not all of these pieces of ${code} are at '${question.from}'`);
    const nowMs = await this.clock.now();
    const panels = await this.panels.ends([code]);
    const air = await this.air([{ state, route }], nowMs);
    const words = factoryWords(nowMs, calendar.zone);
    const { views } = this.see({ state, route }, nowMs, air, words, panels.get(code) ?? []);
    const resting = views.filter(
      (view) =>
        view.operation === question.from &&
        view.standing === 'onHold' &&
        view.positions.some((place) => !question.pieces.includes(place)),
    );
    const ends = resting.flatMap(({ fromMs }) => fromMs ?? []);
    try {
      return sendBackCosts({
        state,
        route,
        calendar,
        from: question.from,
        to: question.to,
        positions: question.pieces,
        nowMs,
        holdEndMs: ends.length === resting.length && ends.length > 0 ? Math.max(...ends) : null,
      });
    } catch (error) {
      if (error instanceof RangeError) throw new BadRequestException(error.message);
      throw error;
    }
  }

  /** A rack goes on by another recipe, or another revision of its own, for a reason that stays. */
  refinish(asked: {
    key: string;
    by: string;
    batch: string;
    recipe: string;
    reason: string;
  }): Promise<FilingOutcome> {
    const { key, by, batch, recipe: name, reason } = asked;
    const filing = { key, by, asked: { batch, name, reason }, batches: [batch] };
    return this.log.fileTogether(filing, async (manager) => {
      const finish = await this.planFor(manager, batch, name);
      return [{ batch, body: { type: 'refinish', finish, reason } }];
    });
  }

  private async planFor(manager: EntityManager, batch: string, name: string) {
    const state = (await this.floor.find(batch, manager))?.state;
    if (!state) throw new Refused(refuse('unknown-batch', `there is no batch ${batch}`));
    const recipe = await this.book.newestOf(name, manager);
    if (!recipe) throw new Refused(refuse('bad-value', `there is no recipe '${name}'`));
    const route = await this.setup.routeOf(state, manager);
    const [misfit] = recipeMisfits(recipe, finishOperations(route));
    if (misfit)
      throw new Refused(refuse('route-problem', `${recipe.title} does not fit ${batch}: ${misfit.problem}`));
    return finishPlan(recipe);
  }
}

/** A rack is in finish while one of its pieces stands at a finishing station. */
export function isInFinish({ state, route }: RackInQuestion, stations: ReadonlySet<string>): boolean {
  return state.pieces.some(
    (piece) => !hasLeft(piece) && stations.has(operationOf(route, piece.operation).stations[0] ?? ''),
  );
}

const panelEnds = (fitted: readonly PanelFitted[]): PanelEnd[] =>
  fitted.flatMap(({ panel: { code }, curedMs }) => (curedMs === null ? [] : [{ code, curedMs }]));

/** A panel with its fit, as pages show it. */
export const panelView = ({ panel, weighings, verdict, curedMs, referenceHours }: PanelFitted) => ({
  code: panel.code,
  batch: panel.batch,
  recipe: panel.recipe,
  step: panel.step,
  material: panel.material,
  filmUm: panel.filmUm,
  room: panel.room,
  sprayedMs: panel.sprayedAt.getTime(),
  weighings,
  fit: 'notEnough' in verdict ? null : verdict,
  notEnough: 'notEnough' in verdict ? verdict.notEnough : null,
  curedMs,
  referenceHours,
  /** Share of the solvent gone at the last weighing, %; null: it cannot tell. */
  lostPct:
    'notEnough' in verdict ? null : 100 * (1 - Math.exp(-(weighings.at(-1)?.hours ?? 0) / verdict.tauHours)),
});
