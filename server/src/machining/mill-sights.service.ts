import type { CutterSight, DimensionSight, MachineSight } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { ChecksService } from './checks.service.ts';
import { MachinesService } from './machines.service.ts';
import { MillService } from './mill.service.ts';

export interface MillSights {
  dimensions: DimensionSight[];
  cutters: CutterSight[];
  machines: MachineSight[];
}

/** Cutters wear and dimensions drift load by load: what they call for is worked out this often, whoever looks. */
const SIGHTS_FRESH_MS = 20_000;

/** What the board wants to know of the mills. */
@Injectable()
export class MillSightsService {
  private kept: { untilMs: number; sights: Promise<MillSights> } | undefined;

  constructor(
    private readonly checks: ChecksService,
    private readonly machines: MachinesService,
    private readonly mills: MillService,
  ) {}

  sights(): Promise<MillSights> {
    if (this.kept && this.kept.untilMs > Date.now()) return this.kept.sights;
    const sights = this.look().catch((error: unknown) => {
      this.kept = undefined;
      throw error;
    });
    this.kept = { untilMs: Date.now() + SIGHTS_FRESH_MS, sights };
    return sights;
  }

  private async look(): Promise<MillSights> {
    const [dimensions, machines, stations] = await Promise.all([
      this.checks.summaries(),
      this.machines.sights(),
      this.mills.stations(),
    ]);
    const cutters: CutterSight[] = [];
    for (const { code, name } of stations) {
      const { plan, cutters: own } = await this.mills.mill(code);
      for (const { tool, usedMinutes, lifeMinutes } of own) {
        const past = plan.loads.find((load) => load.change.includes(tool));
        const pastWith = past
          ? `${past.parts.map((part) => part.batch).join(', ')} on ${past.program}`
          : null;
        cutters.push({ station: code, stationName: name, tool, usedMinutes, lifeMinutes, pastWith });
      }
    }
    return { dimensions: dimensions.map(({ sight }) => sight), cutters, machines };
  }
}
