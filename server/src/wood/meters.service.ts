import {
  DAY_MS,
  fitMeterLine,
  LINE_GOOD_FOR_DAYS,
  METER_TEMPERATURE_C,
  ovenDryMoisturePct,
  UNCORRECTED,
  type LineOf,
  type MeterFit,
  type MeterLine,
} from '@ample-crane/core';
import { BadRequestException, ConflictException, Injectable, NotFoundException } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { MeterLineRow, MeterRow, OvenDrySampleRow } from './rows.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';

export interface NewSample {
  key: string;
  by: string;
  meter: string;
  species: string;
  readingPct: number;
  woodTemperatureC: number;
  wetG: number;
  dryG: number;
}

export interface SampleView {
  atMs: number;
  by: string;
  readingPct: number;
  woodTemperatureC: number;
  wetG: number;
  dryG: number;
  ovenDryPct: number;
}

/** How one meter stands for one species. */
export interface CalibrationView {
  species: string;
  samples: SampleView[];
  /** What the samples say now; null: too few, or all read alike. */
  fit: MeterFit | null;
  /** The line in use; null: uncorrected. */
  line: (MeterLine & { samples: number; residualSdPct: number; atMs: number; by: string }) | null;
  /** The line in use is older than a year. */
  stale: boolean;
}

export interface MeterView {
  code: string;
  name: string;
  kind: 'pin' | 'pinless';
  note: string;
  calibrations: CalibrationView[];
}

type MeterKind = 'pin' | 'pinless';

/** Only pin meters read differently in warm wood. */
const lineFrom = (kind: MeterKind, { a, b }: MeterLine): MeterLine =>
  kind === 'pinless' ? { a, b, ignoresTemperature: true } : { a, b };

/** Meters, their oven-dry samples and the lines fitted from them. */
@Injectable()
export class MetersService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** The line of a meter for a species as it stands; uncorrected without one; null when there is no such meter. */
  async lineOf(
    meter: string,
    species: string | null,
    db: EntityManager = this.source.manager,
  ): Promise<MeterLine | null> {
    const rows = await db.query<{ a: number | null; b: number | null; kind: MeterKind }[]>(
      `SELECT l.a, l.b, m.kind FROM meter m
         LEFT JOIN LATERAL (SELECT a, b FROM meter_line WHERE meter = m.code AND species = $2 ORDER BY id DESC LIMIT 1) l
           ON true
        WHERE m.code = $1`,
      [meter, species],
    );
    const [row] = rows;
    if (!row) return null;
    return lineFrom(row.kind, row.a === null || row.b === null ? UNCORRECTED : { a: row.a, b: row.b });
  }

  /** The lines of all meters for all species, to correct many readings at once. */
  async lines(db: EntityManager = this.source.manager): Promise<(species: string) => LineOf> {
    const [rows, meters] = [
      await db.query<{ meter: string; species: string; a: number; b: number }[]>(
        'SELECT DISTINCT ON (meter, species) meter, species, a, b FROM meter_line ORDER BY meter, species, id DESC',
      ),
      await db.query<{ code: string; kind: MeterKind }[]>('SELECT code, kind FROM meter'),
    ];
    const kinds = new Map(meters.map(({ code, kind }) => [code, kind]));
    const known = new Map(rows.map(({ meter, species, a, b }) => [`${meter}\n${species}`, { a, b }]));
    return (species) => (meter) =>
      meter === null
        ? UNCORRECTED
        : lineFrom(kinds.get(meter) ?? 'pin', known.get(`${meter}\n${species}`) ?? UNCORRECTED);
  }

  async seen(): Promise<MeterView[]> {
    const nowMs = await this.clock.now();
    const [meters, samples, lines] = await Promise.all([
      this.source.getRepository(MeterRow).find({ order: { code: 'ASC' } }),
      this.source.getRepository(OvenDrySampleRow).find({ order: { id: 'ASC' } }),
      this.source.getRepository(MeterLineRow).find({ order: { id: 'ASC' } }),
    ]);
    return meters.map((meter) => {
      const own = samples.filter((sample) => sample.meter === meter.code);
      const ownLines = lines.filter((line) => line.meter === meter.code);
      const species = [...new Set([...own, ...ownLines].map((row) => row.species))].sort();
      return {
        ...meter,
        calibrations: species.map((name) =>
          calibration(
            name,
            meter.kind,
            own.filter((sample) => sample.species === name),
            ownLines.findLast((line) => line.species === name),
            nowMs,
          ),
        ),
      };
    });
  }

  async register(meter: {
    code: string;
    name: string;
    kind: 'pin' | 'pinless';
    note: string;
  }): Promise<void> {
    const added = await this.source.query<unknown[]>(
      'INSERT INTO meter (code, name, kind, note) VALUES ($1, $2, $3, $4) ON CONFLICT DO NOTHING RETURNING 1',
      [meter.code, meter.name, meter.kind, meter.note],
    );
    if (added.length === 0) throw new ConflictException(`there is already a meter '${meter.code}'`);
  }

  /** Keeps one oven-dry sample; the same key twice is one sample. */
  async addSample(sample: NewSample): Promise<void> {
    await this.checkNames(sample);
    if (sample.dryG > sample.wetG)
      throw new BadRequestException(
        `dry wood weighs no more than wet: ${sample.dryG} g dry, ${sample.wetG} g wet`,
      );
    await this.source.query(
      `INSERT INTO oven_dry_sample (key, meter, species, reading_pct, wood_temperature_c, wet_g, dry_g, person, at)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9) ON CONFLICT (key) DO NOTHING`,
      [
        ...[sample.key, sample.meter, sample.species, sample.readingPct, sample.woodTemperatureC],
        ...[sample.wetG, sample.dryG, sample.by, new Date(await this.clock.happened())],
      ],
    );
  }

  /** Puts the line that the samples give into use; readings are corrected by it from now on, old ones too. */
  async useLine(meter: string, species: string, by: string): Promise<MeterFit> {
    await this.checkNames({ meter, species, by });
    const samples = await this.source
      .getRepository(OvenDrySampleRow)
      .find({ where: { meter, species }, order: { id: 'ASC' } });
    const { kind } = await this.source.getRepository(MeterRow).findOneByOrFail({ code: meter });
    const fit = fitOf(samples, kind);
    if (!fit) {
      throw new ConflictException(
        samples.length < 3
          ? `a line needs at least three oven-dry samples; ${meter} has ${samples.length} of ${species}`
          : 'all samples were read alike: test some wetter and some drier wood',
      );
    }
    // The line that is in use already is not put into use again.
    await this.source.query(
      `INSERT INTO meter_line (meter, species, a, b, residual_sd_pct, samples, from_pct, to_pct, person, at)
       SELECT $1, $2, $3, $4, $5, $6, $7, $8, $9, $10
        WHERE NOT EXISTS (SELECT 1 FROM (SELECT a, b, samples FROM meter_line
                                          WHERE meter = $1 AND species = $2 ORDER BY id DESC LIMIT 1) used
                           WHERE (used.a, used.b, used.samples) = ($3, $4, $6))`,
      [
        ...[meter, species, fit.a, fit.b, fit.residualSdPct, fit.count, fit.fromPct, fit.toPct],
        ...[by, new Date(await this.clock.happened())],
      ],
    );
    return fit;
  }

  private async checkNames(named: { meter: string; species: string; by: string }): Promise<void> {
    const [meter, species, stranger] = await Promise.all([
      this.source.getRepository(MeterRow).existsBy({ code: named.meter }),
      this.setup.species(),
      this.setup.stranger(named.by),
    ]);
    if (!meter) throw new NotFoundException(`there is no meter '${named.meter}'`);
    if (!species.some(({ name }) => name === named.species))
      throw new NotFoundException(`there is no species '${named.species}'`);
    if (stranger) throw new BadRequestException(stranger.refused);
  }
}

function fitOf(samples: readonly OvenDrySampleRow[], kind: MeterKind): MeterFit | null {
  return fitMeterLine(
    samples.map(({ readingPct, woodTemperatureC, wetG, dryG }) => ({
      readingPct,
      woodTemperatureC: kind === 'pinless' ? METER_TEMPERATURE_C : woodTemperatureC,
      ovenDryPct: ovenDryMoisturePct({ wetG, dryG }),
    })),
  );
}

function calibration(
  species: string,
  kind: MeterKind,
  samples: readonly OvenDrySampleRow[],
  line: MeterLineRow | undefined,
  nowMs: number,
): CalibrationView {
  return {
    species,
    samples: samples.map((sample) => ({
      ...{ readingPct: sample.readingPct, woodTemperatureC: sample.woodTemperatureC },
      ...{ wetG: sample.wetG, dryG: sample.dryG, by: sample.person, atMs: sample.at.getTime() },
      ovenDryPct: ovenDryMoisturePct(sample),
    })),
    fit: fitOf(samples, kind),
    line: line
      ? {
          ...{ a: line.a, b: line.b, samples: line.samples, residualSdPct: line.residualSdPct },
          ...{ atMs: line.at.getTime(), by: line.person },
        }
      : null,
    stale: line !== undefined && nowMs - line.at.getTime() > LINE_GOOD_FOR_DAYS * DAY_MS,
  };
}
