import { refuse, rescaledHours, type Refusal, type RescaledHours } from '@ample-crane/core';
import { BadRequestException, Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { PanelRow, PanelWeighingRow } from './rows.ts';
import { RacksService } from '../floor/racks.service.ts';
import { tellAll } from '../live/tell.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { PanelFitsService } from './panel-fits.service.ts';
import { cureRoomsOf } from './recipe-book.service.ts';
import { panelView } from './racks-in-finish.service.ts';

export type PanelPageView = ReturnType<typeof panelView>;

/** What the panels of one recipe's coat say of its hours. */
export interface PanelOffer {
  recipe: string;
  step: string;
  material: string;
  /** Hours to buff as the recipe has them. */
  hoursNow: number;
  offered: RescaledHours;
}

/** Test panels: sprayed with a batch, weighed, believed. */
@Injectable()
export class PanelsService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly fits: PanelFitsService,
  ) {}

  async all(): Promise<{ nowMs: number; zone: string; panels: PanelPageView[]; offers: PanelOffer[] }> {
    const [nowMs, { calendar }, fitted] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.fits.fitted(),
    ]);
    const recipes = await this.source.query<{ id: string; name: string; recipe: { steps: unknown[] } }[]>(
      'SELECT id, name, recipe FROM recipe',
    );
    const byStep = new Map<string, { recipe: string; step: string; material: string; hours: number[] }>();
    for (const { panel, referenceHours } of fitted) {
      const name = recipes.find(({ id }) => id === panel.recipe)?.name;
      if (name === undefined || referenceHours === null) continue;
      const id = `${name}|${panel.step}`;
      const known = byStep.get(id) ?? { recipe: name, step: panel.step, material: panel.material, hours: [] };
      known.hours.push(referenceHours);
      byStep.set(id, known);
    }
    const offers: PanelOffer[] = [];
    for (const { recipe, step, material, hours } of byStep.values()) {
      const offered = rescaledHours(hours);
      const hoursNow = await this.hoursNow(recipe, step);
      if (offered && hoursNow !== null) offers.push({ recipe, step, material, hoursNow, offered });
    }
    return { nowMs, zone: calendar.zone, panels: fitted.map(panelView), offers };
  }

  private async hoursNow(recipe: string, step: string): Promise<number | null> {
    const [row] = await this.source.query<{ buff: number | null }[]>(
      `SELECT (s -> 'spec' -> 'hours' ->> 'buff')::real AS buff
         FROM (SELECT recipe FROM recipe WHERE name = $1 ORDER BY revision DESC LIMIT 1) r,
              jsonb_array_elements(r.recipe -> 'steps') s
        WHERE s ->> 'key' = $2`,
      [recipe, step],
    );
    return row?.buff ?? null;
  }

  /** A panel sprayed with a batch. The same key twice is one panel. */
  async spray(asked: {
    key: string;
    by: string;
    batch: string;
    step: string;
    filmUm?: number | undefined;
    sprayedMs?: number | undefined;
    grams?: number | undefined;
  }): Promise<PanelPageView | Refusal> {
    const { key, by, batch, step } = asked;
    const nowMs = await this.clock.now();
    const wrong = await this.strange(by, asked.sprayedMs, nowMs);
    if (wrong) return wrong;
    const { state, route } = await this.floor.rack(batch);
    const { finish, coats } = state;
    const planned = finish?.coats.find((one) => one.step === step);
    if (!finish || !planned)
      return refuse('bad-value', `the recipe of ${batch} has no coats '${step}' a panel could stand for`);
    const laid = coats.filter((coat) => coat.step === step);
    const last = laid.at(-1);
    const [cures] = cureRoomsOf(route.operations);
    const room = cures ?? last?.room;
    if (room === undefined) return refuse('bad-value', 'no room is known for it to hang in');
    const filmUm = asked.filmUm ?? (planned.coats * planned.spec.wetUm * planned.spec.solidsPct) / 100;
    const sprayedAt = new Date(asked.sprayedMs ?? last?.atMs ?? (await this.clock.happened()));
    const code = await this.source.transaction(async (manager) => {
      const known = await manager.getRepository(PanelRow).findOneBy({ key });
      if (known) return known.code;
      const [number] = await manager.query<{ n: string }[]>("SELECT nextval('panel_number') AS n");
      const made = `TP-${number?.n ?? ''}`;
      await manager.insert(PanelRow, {
        ...{ code: made, key, batch, step, filmUm, room, sprayedAt, person: by },
        recipe: finish.recipe,
        material: planned.spec.material,
      });
      if (asked.grams !== undefined)
        await manager.insert(PanelWeighingRow, {
          ...{ key: `${key}-first`, panel: made, grams: asked.grams, person: by, at: sprayedAt },
        });
      await tellAll(manager, [batch, `panel ${made}`]);
      return made;
    });
    return this.one(code);
  }

  /** A panel put on the balance. The same key twice is one weighing. */
  async weigh(asked: {
    key: string;
    by: string;
    panel: string;
    grams: number;
    atMs?: number | undefined;
  }): Promise<PanelPageView | Refusal> {
    const { key, by, panel, grams } = asked;
    const nowMs = await this.clock.now();
    const wrong = await this.strange(by, asked.atMs, nowMs);
    if (wrong) return wrong;
    const row = await this.source.getRepository(PanelRow).findOneBy({ code: panel });
    if (!row) throw new NotFoundException(`there is no test panel ${panel}`);
    const atMs = Math.floor((asked.atMs ?? (await this.clock.happened())) / 1000) * 1000;
    if (atMs < row.sprayedAt.getTime()) return refuse('too-early', `${panel} was sprayed after that`);
    const before = await this.source
      .getRepository(PanelWeighingRow)
      .find({ where: { panel }, order: { at: 'ASC' } });
    const last = before.findLast(({ at }) => at.getTime() < atMs);
    if (before.some(({ at, key: known }) => at.getTime() === atMs && known !== key))
      return refuse('taken', `${panel} was weighed at that very moment already`);
    if (last && grams > last.grams * 1.002)
      return refuse(
        'implausible',
        `${grams} g is more than the ${last.grams} g it weighed before: solvent leaves, it does not come`,
      );
    await this.source.transaction(async (manager) => {
      await manager
        .createQueryBuilder()
        .insert()
        .into(PanelWeighingRow)
        .values({ key, panel, grams, person: by, at: new Date(atMs) })
        .orIgnore()
        .execute();
      await tellAll(manager, [row.batch, `panel ${panel}`]);
    });
    return this.one(panel);
  }

  private async strange(by: string, atMs: number | undefined, nowMs: number): Promise<Refusal | undefined> {
    const stranger = await this.setup.stranger(by);
    if (stranger) return stranger;
    return atMs !== undefined && atMs > nowMs
      ? refuse('in-the-future', 'that has not happened yet')
      : undefined;
  }

  private async one(code: string): Promise<PanelPageView> {
    const [found] = await this.fits.fitted({ code });
    if (!found) throw new BadRequestException(`there is no test panel ${code}`);
    return panelView(found);
  }
}
