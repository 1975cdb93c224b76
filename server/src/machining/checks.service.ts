import {
  ACTION_CHECK,
  isYesNo,
  DAY_MS,
  readLooks,
  strongestHit,
  type Check,
  type DimensionView,
  type RunRule,
} from '@ample-crane/core';
import { Injectable, NotFoundException } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { FactoryRow, RouteRow } from '../database/entities.ts';
import { Kept, oneOf } from '../live/kept.ts';
import { LiveService } from '../live/live.service.ts';
import { ChangesService } from '../setup/changes.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { STANDS } from '../log/stands.ts';

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
    const rows = await this.source
      .getRepository(RouteRow)
      .createQueryBuilder('r')
      .distinctOn(['r.model', 'r.kind'])
      .orderBy('r.model')
      .addOrderBy('r.kind')
      .addOrderBy('r.revision', 'DESC')
      .getMany();
    const found = new Map<string, Dimension>();
    for (const { model, kind, operations } of rows) {
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
    const since = new Date((await this.clock.now()) - CHART_DAYS * DAY_MS);
    const rows = await this.source.query<PointRow[]>(
      `SELECT * FROM (${POINTS} AND b.model = $2 AND b.kind = $3 AND e.body->>'check' = $4
        ORDER BY e.happened_at DESC, e.id DESC LIMIT ${CHART_POINTS}) newest ORDER BY at, id`,
      [since, model, kind, check],
    );
    return rows.map(pointOf);
  }

  /** Every dimension with what its chart says now. */
  summaries(): Promise<DimensionSummary[]> {
    return this.kept.get();
  }

  /** Pieces cut between two full looks, by model and kind: a load is looked at once, so the mean size of its loads. */
  private async piecesALook(since: Date): Promise<(dimension: Dimension) => number> {
    const rows = await this.source.query<{ model: string; kind: string; pieces: number }[]>(
      `SELECT b.model, b.kind, sum(e.pieces)::float / count(DISTINCT e.body->'load'->>'code') AS pieces
         FROM log_entry e JOIN batch b ON b.code = e.batch
        WHERE e.type = 'start' AND e.body ? 'load' AND e.happened_at >= $1 AND ${STANDS}
          AND (e.pieces > 1 OR NOT (e.body->'load'->>'firstPiece')::boolean)
        GROUP BY 1, 2`,
      [since],
    );
    const known = new Map(rows.map(({ model, kind, pieces }) => [`${model} ${kind}`, pieces]));
    // What is cut in no load (by hand, over a template) is at least the pieces that are measured.
    return ({ model, kind, check }) => known.get(`${model} ${kind}`) ?? check.sample;
  }

  /** The looks of one dimension with what its chart needs besides. */
  async chart(dimension: Dimension): Promise<{ points: CheckPoint[]; piecesALook: number }> {
    const { model, kind, check } = dimension;
    const since = new Date((await this.clock.now()) - CHART_DAYS * DAY_MS);
    const [points, piecesALook] = await Promise.all([
      this.points(model, kind, check.key),
      this.piecesALook(since),
    ]);
    return { points, piecesALook: piecesALook(dimension) };
  }

  private async summarise(): Promise<DimensionSummary[]> {
    const [dimensions, { runRules }] = await Promise.all([this.dimensions(), this.setup.factory()]);
    const since = new Date((await this.clock.now()) - CHART_DAYS * DAY_MS);
    const rows = await this.source.query<(PointRow & { model: string; kind: string; check_key: string })[]>(
      `SELECT * FROM (
         SELECT p.*, row_number() OVER (PARTITION BY model, kind, check_key ORDER BY at DESC, id DESC) AS back
           FROM (${POINTS}) p) newest
        WHERE back <= ${CHART_POINTS} ORDER BY at, id`,
      [since],
    );
    const piecesALook = await this.piecesALook(since);
    const byDimension = new Map<string, PointRow[]>();
    for (const row of rows) {
      const id = `${row.model} ${row.kind} ${row.check_key}`;
      const known = byDimension.get(id);
      if (known) known.push(row);
      else byDimension.set(id, [row]);
    }
    return dimensions.map((dimension) => {
      const { model, kind, check } = dimension;
      const points = (byDimension.get(`${model} ${kind} ${check.key}`) ?? []).map(pointOf);
      return {
        ...dimension,
        looks: points.length,
        lastMs: points.at(-1)?.atMs ?? null,
        view: sightOf(dimension, points, { rules: runRules, piecesALook: piecesALook(dimension) }),
      };
    });
  }

  async setRules(by: string, rules: RunRule[]): Promise<void> {
    await this.changes.change({ by, setting: 'run rules', name: '' }, async (manager) => {
      const factory = await manager
        .getRepository(FactoryRow)
        .findOneOrFail({ where: { id: 1 }, lock: { mode: 'pessimistic_write' } });
      await manager.update(FactoryRow, { id: 1 }, { runRules: rules });
      return { before: { rules: factory.runRules }, after: { rules } };
    });
    this.kept.forget();
  }
}

interface PointRow {
  id: string;
  at: Date;
  batch: string;
  person: string;
  body: { values: number[]; pieces?: number[]; load?: string; source?: 'typed' | 'gauge' };
}

const POINTS = `
  SELECT e.id, e.happened_at AS at, e.batch, e.person, e.body, b.model, b.kind, e.body->>'check' AS check_key
    FROM log_entry e JOIN batch b ON b.code = e.batch
   WHERE e.type = 'check' AND e.happened_at >= $1
     AND ${STANDS}`;

const pointOf = ({ at, batch, person, body }: PointRow): CheckPoint => ({
  atMs: at.getTime(),
  batch,
  load: body.load ?? null,
  positions: body.pieces ?? [],
  values: body.values,
  by: person,
  source: body.source ?? 'typed',
});

/** What a chart of a dimension calls for: its drift, and a run rule its newest point completes. */
export function sightOf(
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
