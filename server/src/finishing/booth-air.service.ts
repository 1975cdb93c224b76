import {
  boothOutlook,
  closesMs,
  HOUR_MS,
  judgeBooth,
  opensMs,
  type BoothHour,
  type BoothJudgement,
  type BoothSample,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { AskedTogether } from '../live/asked-together.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { ClimateService } from '../wood/climate.service.ts';
import { RecentAirService } from '../wood/recent-air.service.ts';
import { BoothRow } from './rows.ts';

const AHEAD_HOURS = 30;
/** An hour of air that began longer ago says nothing of now. */
const AIR_HOLDS_MS = 3 * HOUR_MS;

/** What an hour of a booth allowed. */
export type JudgedSample = BoothSample & { judged: BoothJudgement };

/** A booth with its air: as it was logged, as it is, and as it is forecast. */
export interface BoothAir {
  row: BoothRow;
  /** Hours, oldest first, of the last weeks. */
  samples: readonly BoothSample[];
  now: JudgedSample | null;
  ahead: BoothHour[];
  /** When its air closes it, or opens it again, within the hours forecast; null: not. */
  closesMs: number | null;
  opensMs: number | null;
}

/** The air of the booths against their limits: one judgement for their own page, the ladders, the calls and the coats that are filed. */
@Injectable()
export class BoothAirService {
  private readonly asked = new AskedTogether(() => this.look());

  constructor(
    private readonly source: DataSource,
    private readonly clock: FactoryClock,
    private readonly climate: ClimateService,
    private readonly recent: RecentAirService,
  ) {}

  /** All booths, in the order in which they were set up: the first of a station is the one used there where nothing else is said. */
  all(): Promise<BoothAir[]> {
    return this.asked.get();
  }

  private async look(): Promise<BoothAir[]> {
    const [nowMs, rows] = await Promise.all([
      this.clock.now(),
      this.source.getRepository(BoothRow).find({ order: { position: 'ASC' } }),
    ]);
    const series = await this.recent.of(
      rows.map(({ room }) => room),
      nowMs,
    );
    return rows.map((row) => airOf(row, series.get(row.room) ?? [], nowMs));
  }

  /** What the air of a booth allowed at a moment; null: it was not logged then. */
  async at(manager: EntityManager, row: BoothRow, atMs: number): Promise<JudgedSample | null> {
    return judgedAt(row, await this.climate.booth(row.room, atMs - AIR_HOLDS_MS, atMs, manager), atMs);
  }
}

function airOf(row: BoothRow, samples: readonly BoothSample[], nowMs: number): BoothAir {
  const ahead = boothOutlook({ samples, nowMs, hours: AHEAD_HOURS, limits: row.limits }) ?? [];
  return {
    row,
    samples,
    now: judgedAt(row, samples, nowMs),
    ahead,
    closesMs: closesMs(ahead),
    opensMs: opensMs(ahead),
  };
}

function judgedAt({ limits }: BoothRow, samples: readonly BoothSample[], atMs: number): JudgedSample | null {
  const last = samples.at(-1);
  return last && atMs - last.atMs <= AIR_HOLDS_MS ? { ...last, judged: judgeBooth(last, limits) } : null;
}
