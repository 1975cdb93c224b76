import {
  ACTION_CHECK,
  groupedBy,
  isYesNo,
  DAY_MS,
  readLooks,
  strongestHit,
  summarise,
  type Check,
  type DimensionView,
  type RunRule,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { Kept, oneOf } from '../live/kept.ts';
import { LiveService } from '../live/live.service.ts';
import { ChangesService, type Teller } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { loadsStarted, entriesInForce, type EntryInForce } from '../log/entries-in-force.ts';

/** One look at a dimension. */
export interface CheckPoint {
  atMs: number;
  batch: string;
  load: string | null;
  positions: number[];
  values: number[];
  by: string;
  source: 'typed' | 'gauge';
}

export interface Dimension {
  model: string;
  kind: string;
  operation: string;
  operationName: string;
  check: Check;
}

export interface DimensionSummary extends Dimension {
  looks: number;
  lastMs: number | null;
  view: DimensionView;
}

/** Charts look back so far; calls see the newest points only. */
const CHART_DAYS = 90;
const CHART_POINTS = 300;
/** A chart's limits rest on so many of its first points, once there are as many. */
export const BASELINE_POINTS = 25;
/** Measurements of checks, by dimension, and what their charts say. */
@Injectable()
export class ChecksService {
  private readonly kept: Kept<DimensionSummary[]>;

  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly changes: ChangesService,
    private readonly clock: FactoryClock,
    live: LiveService,
  ) {
    this.kept = new Kept(() => this.summarise(), live.news, oneOf('check', 'start', 'undo'));
  }

  /** Every dimension that the newest routes measure. A check that several operations make is one dimension. */
  async dimensions(): Promise<Dimension[]> {
    const found = new Map<string, Dimension>();
    for (const { model, kind, operations } of await this.setup.newestRoutes()) {
      for (const { key, name, checks } of operations) {
        // What is answered by yes or no, or told by 'measure', has no chart.
        for (const check of (checks ?? []).filter((one) => !isYesNo(one) && one.key !== ACTION_CHECK)) {
          const id = `${model} ${kind} ${check.key}`;
          if (!found.has(id)) found.set(id, { model, kind, operation: key, operationName: name, check });
        }
      }
    }
    return [...found.values()];
  }

  async dimension(model: string, kind: string, check: string): Promise<Dimension> {
    const found = (await this.dimensions()).find(
      (one) => one.model === model && one.kind === kind && one.check.key === check,
    );
    if (!found) throw new NotFoundException(`${model} ${kind} has no check '${check}'`);
    return found;
  }

  /** Looks at one dimension, oldest first; what was taken back is left out. */
  async points(model: string, kind: string, check: string): Promise<CheckPoint[]> {
    const points = await entriesInForce(this.source, {
      ...{ type: 'check', model, kind, says: { check: [check] } },
      afterMs: (await this.clock.now()) - CHART_DAYS * DAY_MS,
      newest: { count: CHART_POINTS },
    });
    return points.map(pointOf);
  }

  /** Every dimension with what its chart says now. */
  summaries(): Promise<DimensionSummary[]> {
    return this.kept.get();
  }

  /** Pieces cut between two full looks, by model and kind: a load is looked at once, so the mean size of its loads. */
  private async piecesALook(sinceMs: number): Promise<(dimension: Dimension) => number> {
    const loads = await loadsStarted(this.source, { afterMs: sinceMs });
    // A first piece cut alone is no load between two looks.
    const counted = loads.filter(({ pieces, firstPiece }) => !(firstPiece && pieces === 1));
    const loadsOf = groupedBy(counted, ({ model, kind }) => `${model} ${kind}`);
    const meanOf = new Map(
      [...loadsOf].map(([of, those]) => [of, summarise(those.map(({ pieces }) => pieces)).mean]),
    );
    // What is cut in no load (by hand, over a template) is at least the pieces that are measured.
    return ({ model, kind, check }) => meanOf.get(`${model} ${kind}`) ?? check.sample;
  }

  /** The looks of one dimension with what its chart needs besides. */
  async chart(dimension: Dimension): Promise<{ points: CheckPoint[]; piecesALook: number }> {
    const { model, kind, check } = dimension;
    const sinceMs = (await this.clock.now()) - CHART_DAYS * DAY_MS;
    const [points, piecesALook] = await Promise.all([
      this.points(model, kind, check.key),
      this.piecesALook(sinceMs),
    ]);
    return { points, piecesALook: piecesALook(dimension) };
  }

  private async summarise(): Promise<DimensionSummary[]> {
    const [dimensions, { runRules }] = await Promise.all([this.dimensions(), this.setup.factory()]);
    const sinceMs = (await this.clock.now()) - CHART_DAYS * DAY_MS;
    const looks = await entriesInForce(this.source, {
      ...{ type: 'check', afterMs: sinceMs },
      newest: { count: CHART_POINTS, ofEach: ['model', 'kind', 'check'] },
    });
    const piecesALook = await this.piecesALook(sinceMs);
    const looksOf = groupedBy(looks, (look) => `${look.model} ${look.kind} ${look.body.check}`);
    return dimensions.map((dimension) => {
      const { model, kind, check } = dimension;
      const points = (looksOf.get(`${model} ${kind} ${check.key}`) ?? []).map(pointOf);
      return {
        ...dimension,
        looks: points.length,
        lastMs: points.at(-1)?.atMs ?? null,
        view: viewOf(dimension, points, { rules: runRules, piecesALook: piecesALook(dimension) }),
      };
    });
  }

  async setRules(teller: Teller, rules: RunRule[]): Promise<void> {
    await this.changes.change({ ...teller, setting: 'run rules', name: '' }, async (manager) => {
      const before = await this.setup.setFactory(manager, { runRules: rules });
      return { before: { rules: before.runRules }, after: { rules } };
    });
    this.kept.forget();
  }
}

const pointOf = ({ atMs, batch, by, body }: EntryInForce<'check'>): CheckPoint => ({
  atMs,
  batch,
  load: body.load ?? null,
  positions: body.pieces ?? [],
  values: body.values,
  by,
  source: body.source ?? 'typed',
});

/** What a chart of a dimension calls for: its drift, and a run rule its newest point completes. */
export function viewOf(
  { model, kind, check }: Pick<Dimension, 'model' | 'kind' | 'check'>,
  points: readonly Pick<CheckPoint, 'values'>[],
  { rules, piecesALook }: { rules: readonly RunRule[]; piecesALook: number },
): DimensionView {
  const looks = points.map(({ values }) => values);
  const read = readLooks({ check, looks, rules, baseline: BASELINE_POINTS });
  // Limits that rest on few looks are drawn, but nobody is called for them.
  const judged = looks.length >= BASELINE_POINTS;
  const last = looks.length - 1;
  return {
    model,
    kind,
    check,
    piecesAPoint: piecesALook,
    drift: read.drift,
    hit: judged ? strongestHit(read.hits, last) : null,
    rangeHit: judged ? (read.rangeHits.find(({ at }) => at === last) ?? null) : null,
    outside: read.outside.find(({ at }) => at === last)?.values ?? [],
    href: `/mill/checks/${encodeURIComponent(model)}/${kind}/${check.key}`,
  };
}
