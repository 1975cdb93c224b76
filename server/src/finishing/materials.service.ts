import {
  coatLitres,
  coatsAsked,
  coatsOn,
  DAY_MS,
  daysOfSupply,
  hasLeft,
  HOUR_MS,
  refuse,
  type FinishPlan,
  type Refusal,
  type Supply,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { MaterialLotRow, MaterialRow, MixRow } from '../database/entities.ts';
import { tellAll } from '../log/filing-keys.ts';
import { STANDS } from '../log/stands.ts';
import type { RackInQuestion } from '../routing/holds.service.ts';
import { RacksService } from '../routing/racks.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { RecipeBookService } from './recipe-book.service.ts';

/** Mixes are shown for so long after their pot life. */
const MIX_SHOWN_MS = DAY_MS;
/** A plan is spread over at least so many days. */
const SHORTEST_PLAN_DAYS = 7;

export interface MaterialLotSeen {
  code: string;
  material: string;
  litres: number;
  leftLitres: number;
  receivedMs: number;
  openedMs: number | null;
  finishedMs: number | null;
  expiresMs: number | null;
}

export interface MixSeen {
  code: string;
  material: string;
  lot: string | null;
  litres: number;
  leftLitres: number;
  mixedMs: number;
  endsMs: number;
  endedMs: number | null;
  person: string;
}

export interface MaterialSeen {
  material: string;
  leadDays: number;
  /** How it is mixed, where it is; null: used as it comes. */
  mix: { parts: { name: string; parts: number }[]; potLifeHours: number } | null;
  /** Litres the coats still to come on open racks take. */
  plannedLitres: number;
  planDays: number;
  supply: Supply;
  lots: MaterialLotSeen[];
}

export interface MaterialsSeen {
  nowMs: number;
  zone: string;
  materials: MaterialSeen[];
  mixes: MixSeen[];
}

/** Lots of material, what was mixed of them, and how long they last. */
@Injectable()
export class MaterialsService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly floor: RacksService,
    private readonly book: RecipeBookService,
  ) {}

  async all(): Promise<MaterialsSeen> {
    const nowMs = await this.clock.now();
    const [{ calendar }, materials, lots, mixes, used, planned, recipes] = await Promise.all([
      this.setup.factory(),
      this.source.getRepository(MaterialRow).find({ order: { name: 'ASC' } }),
      this.source.getRepository(MaterialLotRow).find({ order: { receivedAt: 'DESC', code: 'ASC' } }),
      this.source.getRepository(MixRow).find({ order: { mixedAt: 'DESC' } }),
      this.used(),
      this.planned(nowMs),
      this.book.newest(),
    ]);
    const mixedFrom = new Map<string, number>();
    for (const { lot, lotLitres } of mixes)
      if (lot !== null) mixedFrom.set(lot, (mixedFrom.get(lot) ?? 0) + lotLitres);
    const lotSeen = (lot: MaterialLotRow): MaterialLotSeen => ({
      code: lot.code,
      material: lot.material,
      litres: lot.litres,
      leftLitres: lot.finishedAt
        ? 0
        : Math.max(0, lot.litres - (used.get(lot.code) ?? 0) - (mixedFrom.get(lot.code) ?? 0)),
      receivedMs: lot.receivedAt.getTime(),
      openedMs: lot.openedAt?.getTime() ?? null,
      finishedMs: lot.finishedAt?.getTime() ?? null,
      expiresMs: lot.expiresAt?.getTime() ?? null,
    });
    return {
      nowMs,
      zone: calendar.zone,
      materials: materials.map(({ name, leadDays }) => {
        const own = lots.filter(({ material }) => material === name).map(lotSeen);
        const plan = planned.get(name) ?? { litres: 0, days: SHORTEST_PLAN_DAYS };
        const step = recipes
          .flatMap(({ recipe }) => recipe.steps)
          .find((one) => one.kind === 'coat' && one.spec.material === name);
        return {
          material: name,
          leadDays,
          mix: step?.kind === 'coat' ? step.mix : null,
          plannedLitres: plan.litres,
          planDays: plan.days,
          supply: daysOfSupply({ lots: own, litresADay: plan.litres / plan.days, nowMs }),
          lots: own,
        };
      }),
      mixes: mixes
        .filter(
          (mix) =>
            mix.endedAt === null && mix.mixedAt.getTime() + mix.potLifeHours * HOUR_MS > nowMs - MIX_SHOWN_MS,
        )
        .map((mix) => ({
          code: mix.code,
          material: mix.material,
          lot: mix.lot,
          litres: mix.litres,
          leftLitres: Math.max(0, mix.litres - (used.get(mix.code) ?? 0)),
          mixedMs: mix.mixedAt.getTime(),
          endsMs: mix.mixedAt.getTime() + mix.potLifeHours * HOUR_MS,
          endedMs: null,
          person: mix.person,
        })),
    };
  }

  /** Litres that coats took out of each lot or mix, without those taken back. */
  private async used(): Promise<Map<string, number>> {
    const rows = await this.source.query<{ lot: string; litres: number }[]>(
      `SELECT body ->> 'lot' AS lot, sum((body -> 'facts' ->> 'litres')::real) AS litres FROM log_entry e
        WHERE type = 'coat' AND body ? 'lot' AND ${STANDS} GROUP BY 1`,
    );
    return new Map(rows.map(({ lot, litres }) => [lot, litres ?? 0]));
  }

  /** The current plan: coats still to come on every open rack, and on the instruments that bodies will become. */
  private async planned(nowMs: number): Promise<Map<string, { litres: number; days: number }>> {
    const racks = await this.floor.open();
    const litres = new Map<string, number>();
    let lastMs = nowMs + SHORTEST_PLAN_DAYS * DAY_MS;
    for (const rack of racks) {
      const coats = [...this.coming(rack), ...(await this.afterJoin(rack))];
      if (coats.length > 0) lastMs = Math.max(lastMs, rack.state.dueMs);
      const { state } = rack;
      for (const { kind, coat, pieces } of coats) {
        const area = (await this.book.finishOf(state.model, kind))?.areaM2;
        if (area === undefined || pieces === 0) continue;
        const { material, wetUm } = coat.spec;
        const taken = coatLitres({ areaM2: area * pieces, wetUm, transferPct: coat.transferPct });
        litres.set(material, (litres.get(material) ?? 0) + taken);
      }
    }
    const days = (lastMs - nowMs) / DAY_MS;
    return new Map([...litres].map(([material, sum]) => [material, { litres: sum, days }]));
  }

  private coming({ state, route }: RackInQuestion) {
    return route.operations.flatMap((operation, index) =>
      coatsAsked(state, operation).map((coat, number) => ({
        kind: state.kind,
        coat,
        pieces: state.pieces.filter((piece) => {
          if (hasLeft(piece)) return false;
          const at = route.operations.findIndex(({ key }) => key === piece.operation);
          return at < index || (at === index && coatsOn(state, piece) <= number);
        }).length,
      })),
    );
  }

  private async afterJoin({ state, route }: RackInQuestion) {
    const join = route.operations.find(
      (operation) =>
        operation.mode === 'join' && operation.role === 'host' && operation.makesKind !== state.kind,
    );
    if (join?.mode !== 'join') return [];
    const made = await this.setup.newestRoute(state.model, join.makesKind);
    const plan: FinishPlan | undefined =
      made &&
      (await this.book.usual(state.model, join.makesKind, await this.setup.routeOf({ routeId: made.id })));
    const pieces = state.pieces.filter((piece) => !hasLeft(piece)).length;
    return (plan?.coats ?? []).flatMap((coat) =>
      Array.from({ length: coat.coats }, () => ({ kind: join.makesKind, coat, pieces })),
    );
  }

  /** A lot that came in. The same code again is refused. */
  async receive(asked: {
    by: string;
    code: string;
    material: string;
    litres: number;
    expiresMs: number | null;
  }): Promise<MaterialsSeen | Refusal> {
    const { by, code, material, litres, expiresMs } = asked;
    const nowMs = await this.clock.now();
    const wrong = await this.unknown(by);
    if (wrong) return wrong;
    if (!(await this.source.getRepository(MaterialRow).existsBy({ name: material })))
      return refuse('bad-value', `no recipe uses a material '${material}'`);
    if (expiresMs !== null && expiresMs <= nowMs)
      return refuse('bad-value', 'it is past its date already: send it back');
    const there = await this.source.transaction(async (manager) => {
      const made = await manager
        .createQueryBuilder()
        .insert()
        .into(MaterialLotRow)
        .values({
          ...{ code, material, litres, person: by, receivedAt: new Date(nowMs) },
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
  async turn(asked: { by: string; code: string; to: 'open' | 'finished' }): Promise<MaterialsSeen | Refusal> {
    const { by, code, to } = asked;
    const wrong = await this.unknown(by);
    if (wrong) return wrong;
    const lot = await this.source.getRepository(MaterialLotRow).findOneBy({ code });
    if (!lot) throw new NotFoundException(`there is no lot ${code}`);
    if (to === 'open' && lot.openedAt) return refuse('already-open', `lot ${code} is open already`);
    if (lot.finishedAt) return refuse('bad-value', `lot ${code} is used up`);
    const at = new Date(await this.clock.now());
    await this.source.transaction(async (manager) => {
      await manager.update(MaterialLotRow, { code }, to === 'open' ? { openedAt: at } : { finishedAt: at });
      await tellAll(manager, [`lot ${code}`]);
    });
    return this.all();
  }

  /** Something is mixed: its pot life runs from now. The same key twice is one mix. */
  async mix(asked: {
    key: string;
    by: string;
    material: string;
    litres: number;
  }): Promise<MaterialsSeen | Refusal> {
    const { key, by, material, litres } = asked;
    const wrong = await this.unknown(by);
    if (wrong) return wrong;
    const { materials, nowMs } = await this.all();
    const seen = materials.find((one) => one.material === material);
    if (!seen?.mix) return refuse('bad-value', `${material} is used as it comes, not mixed`);
    const { parts, potLifeHours } = seen.mix;
    const base = (parts[0]?.parts ?? 1) / parts.reduce((sum, one) => sum + one.parts, 0);
    const lot = seen.lots.find((one) => one.openedMs !== null && one.finishedMs === null);
    await this.source.transaction(async (manager) => {
      if (await manager.getRepository(MixRow).existsBy({ key })) return;
      const [number] = await manager.query<{ n: string }[]>("SELECT nextval('mix_number') AS n");
      await manager.insert(MixRow, {
        ...{ code: `M-${number?.n ?? ''}`, key, material, litres, potLifeHours, person: by, endedAt: null },
        lot: lot?.code ?? null,
        lotLitres: litres * base,
        mixedAt: new Date(nowMs),
      });
      await tellAll(manager, [`mix ${material}`]);
    });
    return this.all();
  }

  /** A mix is used up or thrown away. */
  async endMix(asked: { by: string; code: string }): Promise<MaterialsSeen | Refusal> {
    const { by, code } = asked;
    const wrong = await this.unknown(by);
    if (wrong) return wrong;
    const mix = await this.source.getRepository(MixRow).findOneBy({ code });
    if (!mix) throw new NotFoundException(`there is no mix ${code}`);
    const at = new Date(await this.clock.now());
    await this.source.transaction(async (manager) => {
      if (mix.endedAt === null) await manager.update(MixRow, { code }, { endedAt: at });
      await tellAll(manager, [`mix ${code}`]);
    });
    return this.all();
  }

  private async unknown(by: string): Promise<Refusal | undefined> {
    return (await this.setup.people()).some(({ code }) => code === by)
      ? undefined
      : refuse('bad-value', `nobody here is called '${by}'`);
  }
}
