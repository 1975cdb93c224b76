import {
  DAY_MS,
  fitTestPanel,
  HOUR_MS,
  panelBuffHours,
  roomAir,
  type PanelEnd,
  type PanelVerdict,
  type Recipe,
  type Weighing,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, In, type EntityManager } from 'typeorm';
import { PanelRow, PanelWeighingRow, RecipeRow } from './rows.ts';
import { ClimateService } from '../wood/climate.service.ts';

export interface PanelFitted {
  panel: PanelRow;
  weighings: { atMs: number; hours: number; grams: number; person: string }[];
  verdict: PanelVerdict;
  /** When it was, or will be, cured; null: not enough weighings to tell. */
  curedMs: number | null;
  /** Reference hours to buff that it says of its material, at the recipe's reference film; null as before. */
  referenceHours: number | null;
}

/** Test panels with the curves fitted to their weighings. */
@Injectable()
export class PanelFitsService {
  private readonly verdicts = new Map<string, { by: string; verdict: PanelVerdict }>();

  constructor(
    private readonly source: DataSource,
    private readonly climate: ClimateService,
  ) {}

  /** The curve of a panel, fitted anew only when its weighings are others. */
  private verdictOf(code: string, weighings: readonly Weighing[]): PanelVerdict {
    const by = JSON.stringify(weighings.map(({ hours, grams }) => [hours, grams]));
    const known = this.verdicts.get(code);
    if (known?.by === by) return known.verdict;
    const verdict = fitTestPanel(weighings);
    this.verdicts.set(code, { by, verdict });
    return verdict;
  }

  /** When the panels of some racks are cured, by batch, those that can tell: what holds need, without the air they hung in. */
  async ends(
    batches: readonly string[],
    db: EntityManager = this.source.manager,
  ): Promise<Map<string, PanelEnd[]>> {
    const ends = new Map<string, PanelEnd[]>();
    if (batches.length === 0) return ends;
    const panels = await db
      .getRepository(PanelRow)
      .find({ where: { batch: In([...batches]) }, order: { sprayedAt: 'DESC' } });
    if (panels.length === 0) return ends;
    const rows = await db
      .getRepository(PanelWeighingRow)
      .find({ where: { panel: In(panels.map(({ code }) => code)) }, order: { at: 'ASC' } });
    for (const { code, batch, sprayedAt } of panels) {
      const sprayedMs = sprayedAt.getTime();
      const verdict = this.verdictOf(
        code,
        rows
          .filter(({ panel }) => panel === code)
          .map(({ at, grams }) => ({ hours: (at.getTime() - sprayedMs) / HOUR_MS, grams })),
      );
      if ('notEnough' in verdict) continue;
      const end = { code, curedMs: sprayedMs + verdict.curedAtHours * HOUR_MS };
      ends.set(batch, [...(ends.get(batch) ?? []), end]);
    }
    return ends;
  }

  /** Panels, newest first: all of them, or those of one batch or one code. */
  async fitted(
    which: { batch?: string; code?: string } = {},
    db: EntityManager = this.source.manager,
  ): Promise<PanelFitted[]> {
    const panels = await db.getRepository(PanelRow).find({ where: which, order: { sprayedAt: 'DESC' } });
    if (panels.length === 0) return [];
    const codes = panels.map(({ code }) => code);
    const [weighings, recipes] = [
      await db.getRepository(PanelWeighingRow).find({ where: { panel: In(codes) }, order: { at: 'ASC' } }),
      await db.getRepository(RecipeRow).find({ where: { id: In(panels.map(({ recipe }) => recipe)) } }),
    ];
    const fitted: PanelFitted[] = [];
    for (const panel of panels) {
      const recipe = recipes.find(({ id }) => id === panel.recipe)?.recipe;
      fitted.push(
        await this.fit(
          panel,
          weighings.filter((one) => one.panel === panel.code),
          recipe,
          db,
        ),
      );
    }
    return fitted;
  }

  private async fit(
    panel: PanelRow,
    rows: readonly PanelWeighingRow[],
    recipe: Recipe | undefined,
    db: EntityManager,
  ): Promise<PanelFitted> {
    const sprayedMs = panel.sprayedAt.getTime();
    const weighings = rows.map(({ at, grams, person }) => ({
      atMs: at.getTime(),
      hours: (at.getTime() - sprayedMs) / HOUR_MS,
      grams,
      person,
    }));
    const verdict = this.verdictOf(panel.code, weighings);
    if ('notEnough' in verdict) return { panel, weighings, verdict, curedMs: null, referenceHours: null };
    const curedMs = sprayedMs + verdict.curedAtHours * HOUR_MS;
    const step = recipe?.steps.find(({ key }) => key === panel.step);
    const spec = step?.kind === 'coat' ? step.spec : undefined;
    const series = await this.climate.hourly([panel.room], sprayedMs - DAY_MS, curedMs, db);
    const gathered = spec && roomAir(series.get(panel.room) ?? [])?.hours(sprayedMs, curedMs, spec.q);
    return {
      panel,
      weighings,
      verdict,
      curedMs,
      referenceHours:
        !gathered || !spec
          ? null
          : panelBuffHours(
              verdict,
              { filmUm: panel.filmUm, hoursAtReference: gathered / verdict.curedAtHours },
              spec,
            ),
    };
  }
}
