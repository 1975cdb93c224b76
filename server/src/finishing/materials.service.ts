import {
  coatLitres,
  DAY_MS,
  materialsOf,
  HOUR_MS,
  refuse,
  supplyAhead,
  workingClock,
  type CoatStep,
  type Demand,
  type Recipe,
  type Refusal,
  type Supply,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { MaterialLotRow, MaterialRow, MixRow } from './rows.ts';
import { tellAll } from '../live/tell.ts';
import { PerRack } from '../floor/per-rack.ts';
import type { RackInQuestion } from '../floor/racks.service.ts';
import { RacksService } from '../floor/racks.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { happenedMs } from '../setup/touch.ts';
import { coatsAhead, kindAfterJoin, type CoatAhead, type Usual } from './coats-ahead.ts';
import { litresUsed, lotAgainst, noLotOpen, openLot } from './lot-use.ts';
import { RecipeBookService } from './recipe-book.service.ts';

/** Mixes are shown for so long after their pot life. */
const MIX_SHOWN_MS = DAY_MS;
/** Days until more comes of a material nobody said it of. */
const USUAL_LEAD_DAYS = 5;

export interface MaterialLotView {
  code: string;
  material: string;
  litres: number;
  leftLitres: number;
  receivedMs: number;
  openedMs: number | null;
  finishedMs: number | null;
  expiresMs: number | null;
}

export interface MixPageView {
  code: string;
  material: string;
  lot: string | null;
  /** Hardener, thinner: what is mixed in, and out of which lots. */
  additions: { material: string; lot: string | null; litres: number }[];
  litres: number;
  leftLitres: number;
  mixedMs: number;
  endsMs: number;
  endedMs: number | null;
  person: string;
}

export interface MaterialPageView {
  material: string;
  leadDays: number;
  /** How it is mixed, where it is; null: used as it comes. */
  mix: Mix | null;
  supply: Supply;
  lots: MaterialLotView[];
}

export interface MaterialsView {
  nowMs: number;
  zone: string;
  materials: MaterialPageView[];
  mixes: MixPageView[];
}

/** Lots of material, what was mixed of them, and how long they last. */
@Injectable()
export class MaterialsService {
  private readonly ahead = new PerRack<CoatAhead[]>();

  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly floor: RacksService,
    private readonly book: RecipeBookService,
  ) {}

  async all(): Promise<MaterialsView> {
    const nowMs = await this.clock.now();
    const [{ calendar }, materials, lots, allMixes, recipes] = await Promise.all([
      this.setup.factory(),
      this.source.getRepository(MaterialRow).find({ order: { name: 'ASC' } }),
      this.source.getRepository(MaterialLotRow).find({ order: { receivedAt: 'DESC', code: 'ASC' } }),
      this.source.getRepository(MixRow).find({ order: { mixedAt: 'DESC' } }),
      this.book.newest(),
    ]);
    const mixes = allMixes.filter(
      (mix) =>
        mix.endedAt === null && mix.mixedAt.getTime() + mix.potLifeHours * HOUR_MS > nowMs - MIX_SHOWN_MS,
    );
    // What was used up years ago has nothing left, whatever was drawn from it.
    const inStock = lots.filter(({ finishedAt }) => finishedAt === null);
    const used = await litresUsed(
      this.source.manager,
      [...inStock, ...mixes].map(({ code }) => code),
    );
    const mixOf = mixesOf(recipes.map(({ recipe }) => recipe));
    const demand = await this.demand(nowMs, mixOf);
    const lotView = (lot: MaterialLotRow): MaterialLotView => ({
      code: lot.code,
      material: lot.material,
      litres: lot.litres,
      leftLitres: lot.finishedAt ? 0 : Math.max(0, lot.litres - (used.get(lot.code) ?? 0)),
      receivedMs: lot.receivedAt.getTime(),
      openedMs: lot.openedAt?.getTime() ?? null,
      finishedMs: lot.finishedAt?.getTime() ?? null,
      expiresMs: lot.expiresAt?.getTime() ?? null,
    });
    return {
      nowMs,
      zone: calendar.zone,
      materials: materials.map(({ name, leadDays }) => {
        const own = lots.filter(({ material }) => material === name).map(lotView);
        const supply = supplyAhead({ lots: own, demand: demand.get(name) ?? [], nowMs });
        return { material: name, leadDays, mix: mixOf.get(name) ?? null, supply, lots: own };
      }),
      mixes: mixes.map((mix) => ({
        code: mix.code,
        material: mix.material,
        lot: mix.lot,
        additions: mix.additions,
        litres: mix.litres,
        leftLitres: Math.max(0, mix.litres - (used.get(mix.code) ?? 0)),
        mixedMs: mix.mixedAt.getTime(),
        endsMs: mix.mixedAt.getTime() + mix.potLifeHours * HOUR_MS,
        endedMs: null,
        person: mix.person,
      })),
    };
  }

  /** What the racks ahead take by their recipes: coats still to come on every open rack, and on what its bodies will become. */
  private async demand(nowMs: number, mixOf: ReadonlyMap<string, Mix>): Promise<Map<string, Demand[]>> {
    const { calendar } = await this.setup.factory();
    const clock = workingClock(calendar, nowMs);
    const demand = new Map<string, Demand[]>();
    const racks = (await this.floor.open()).map((rack) => ({ ...rack, becomes: kindAfterJoin(rack) }));
    // Of many racks the same becomes: it is asked once.
    const [usuals, areas] = await Promise.all([
      eachOnce(racks, ({ becomes }) => [becomes], this.usualFor.bind(this)),
      eachOnce(racks, ({ state, becomes }) => [state.kind, becomes], this.areaOf.bind(this)),
    ]);
    for (const { becomes, ...rack } of racks) {
      const { state } = rack;
      const usual = usuals(state.model, becomes);
      const rests = [calendar, usual?.route.id, usual?.plan?.recipe];
      const coats = this.ahead.get(state, nowMs, rests, () =>
        coatsAhead(rack, usual, { nowMs, calendar, clock }),
      );
      for (const { kind, coat, pieces, atMs } of coats) {
        const area = areas(state.model, kind);
        if (area === null || pieces === 0) continue;
        const { material, wetUm } = coat.spec;
        const litres = coatLitres({ areaM2: area * pieces, wetUm, transferPct: coat.transferPct });
        for (const part of partsOf(material, litres, mixOf.get(material) ?? null)) {
          const known = demand.get(part.material);
          const one = { batch: state.code, litres: part.litres, atMs };
          if (known) known.push(one);
          else demand.set(part.material, [one]);
        }
      }
    }
    return demand;
  }

  /** The newest route for parts of a kind by its usual ways, and the finish they get there; null: there is no route. */
  private async usualFor(model: string, kind: string): Promise<Usual | null> {
    const newest = await this.setup.newestRoute(model, kind);
    if (!newest) return null;
    const route = await this.setup.routeOf({ routeId: newest.id });
    return { route, plan: await this.book.usual(model, kind, route) };
  }

  /** Area of one part of a kind that gets a finish, m²; null: it gets none. */
  private async areaOf(model: string, kind: string): Promise<number | null> {
    return (await this.book.finishOf(model, kind))?.areaM2 ?? null;
  }

  /** A lot that came in. The same code again is refused. */
  async receive(asked: {
    by: string;
    code: string;
    material: string;
    litres: number;
    expiresMs: number | null;
  }): Promise<MaterialsView | Refusal> {
    const { by, code, material, litres, expiresMs } = asked;
    const nowMs = await this.clock.now();
    const wrong = await this.setup.stranger(by);
    if (wrong) return wrong;
    const recipes = (await this.book.newest()).map(({ recipe }) => recipe);
    if (!(await this.source.getRepository(MaterialRow).existsBy({ name: material }))) {
      if (!materialsOf(recipes).includes(material))
        return refuse('bad-value', `no recipe uses a material '${material}'`);
      await this.source.getRepository(MaterialRow).insert({ name: material, leadDays: USUAL_LEAD_DAYS });
    }
    if (expiresMs !== null && expiresMs <= nowMs)
      return refuse('bad-value', 'it is past its date already: send it back');
    const there = await this.source.transaction(async (manager) => {
      const made = await manager
        .createQueryBuilder()
        .insert()
        .into(MaterialLotRow)
        .values({
          ...{ code, material, litres, person: by, receivedAt: new Date(happenedMs(nowMs)) },
          ...{ openedAt: null, finishedAt: null, expiresAt: expiresMs === null ? null : new Date(expiresMs) },
        })
        .orIgnore()
        .returning('code')
        .execute();
      await tellAll(manager, [`lot ${code}`]);
      return (made.raw as unknown[]).length === 0;
    });
    return there ? refuse('already-open', `there is a lot ${code} already`) : this.all();
  }

  /** A lot is opened, or used up. */
  async turn(asked: { by: string; code: string; to: 'open' | 'finished' }): Promise<MaterialsView | Refusal> {
    const { by, code, to } = asked;
    const wrong = await this.setup.stranger(by);
    if (wrong) return wrong;
    const lot = await this.source.getRepository(MaterialLotRow).findOneBy({ code });
    if (!lot) throw new NotFoundException(`there is no lot ${code}`);
    if (to === 'open' && lot.openedAt) return refuse('already-open', `lot ${code} is open already`);
    if (lot.finishedAt) return refuse('bad-value', `lot ${code} is used up`);
    const at = new Date(await this.clock.happened());
    await this.source.transaction(async (manager) => {
      await manager.update(MaterialLotRow, { code }, to === 'open' ? { openedAt: at } : { finishedAt: at });
      await tellAll(manager, [`lot ${code}`]);
    });
    return this.all();
  }

  /** Something is mixed: its pot life runs from now, and each part comes out of its open lot. The same key twice is one mix. */
  async mix(asked: {
    key: string;
    by: string;
    material: string;
    litres: number;
    because: string | null;
  }): Promise<MaterialsView | Refusal> {
    const { key, by, material, litres, because } = asked;
    const wrong = await this.setup.stranger(by);
    if (wrong) return wrong;
    const { materials, nowMs } = await this.all();
    const seen = materials.find((one) => one.material === material);
    if (!seen?.mix) return refuse('bad-value', `${material} is used as it comes, not mixed`);
    const { potLifeHours } = seen.mix;
    const parts = partsOf(material, litres, seen.mix);
    const against = await this.source.transaction(async (manager) => {
      if (await manager.getRepository(MixRow).existsBy({ key })) return [];
      const drawn = [];
      for (const part of parts) {
        const lot = await openLot(manager, part.material, nowMs);
        const words = lot
          ? await lotAgainst(manager, lot, { litres: part.litres, atMs: nowMs, what: 'this mix' })
          : await noLotOpen(manager, part.material, nowMs);
        drawn.push({ ...part, lot: lot?.code ?? null, words });
      }
      const speaks = drawn.flatMap(({ words }) => words);
      if (speaks.length > 0 && because === null) return speaks;
      const [number] = await manager.query<{ n: string }[]>("SELECT nextval('mix_number') AS n");
      const [base, ...additions] = drawn.map(({ words: _said, ...part }) => part);
      await manager.insert(MixRow, {
        ...{ code: `M-${number?.n ?? ''}`, key, material, litres, potLifeHours, person: by, endedAt: null },
        ...{ lot: base?.lot ?? null, lotLitres: base?.litres ?? litres, additions, because },
        mixedAt: new Date(happenedMs(nowMs)),
      });
      await tellAll(manager, [`mix ${material}`]);
      return [];
    });
    return against.length > 0
      ? refuse('not-enough', `${against.join('; ')}: open another lot, or say why`)
      : this.all();
  }

  /** A mix is used up or thrown away. */
  async endMix(asked: { by: string; code: string }): Promise<MaterialsView | Refusal> {
    const { by, code } = asked;
    const wrong = await this.setup.stranger(by);
    if (wrong) return wrong;
    const mix = await this.source.getRepository(MixRow).findOneBy({ code });
    if (!mix) throw new NotFoundException(`there is no mix ${code}`);
    const at = new Date(await this.clock.happened());
    await this.source.transaction(async (manager) => {
      if (mix.endedAt === null) await manager.update(MixRow, { code }, { endedAt: at });
      await tellAll(manager, [`mix ${code}`]);
    });
    return this.all();
  }
}

type Mix = NonNullable<CoatStep['mix']>;

/** How a material is mixed, by the newest recipes. */
function mixesOf(recipes: readonly Recipe[]): Map<string, Mix> {
  const mixes = new Map<string, Mix>();
  for (const step of recipes.flatMap(({ steps }) => steps))
    if (step.kind === 'coat' && step.mix && !mixes.has(step.spec.material))
      mixes.set(step.spec.material, step.mix);
  return mixes;
}

/** What so many litres of a material are made of: its base, which goes by the material's name, and what is mixed in. */
function partsOf(material: string, litres: number, mix: Mix | null): { material: string; litres: number }[] {
  if (!mix) return [{ material, litres }];
  const whole = mix.parts.reduce((sum, { parts }) => sum + parts, 0);
  return mix.parts.map(({ name, parts }, i) => ({
    material: i === 0 ? material : name,
    litres: (litres * parts) / whole,
  }));
}

/** The answers to a question about the kinds of all racks, each asked once; null for what is not known. */
async function eachOnce<Rack extends RackInQuestion, T>(
  racks: readonly Rack[],
  kinds: (rack: Rack) => (string | null)[],
  ask: (model: string, kind: string) => Promise<T | null>,
): Promise<(model: string, kind: string | null) => T | null> {
  const answers = new Map<string, T | null>();
  for (const rack of racks) {
    const { model } = rack.state;
    for (const kind of kinds(rack))
      if (kind !== null && !answers.has(`${model} ${kind}`))
        answers.set(`${model} ${kind}`, await ask(model, kind));
  }
  return (model, kind) => answers.get(`${model} ${kind}`) ?? null;
}
