import type { CutterSight, DimensionSight, MachineSight } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { Kept, otherThan } from '../live/kept.ts';
import { LiveService } from '../live/live.service.ts';
import { ChecksService } from './checks.service.ts';
import { MachinesService } from './machines.service.ts';
import { MillService } from './mill.service.ts';

export interface MillSights {
  dimensions: DimensionSight[];
  cutters: CutterSight[];
  machines: MachineSight[];
}

/** Entries that move no piece, and that no plan of a mill or chart rests on. */
const RECORDS = ['read', 'coat', 'sand', 'mark', 'colour', 'measure', 'adjust', 'pair', 'age'] as const;

/** What the board wants to know of the mills. */
@Injectable()
export class MillSightsService {
  private readonly kept: Kept<MillSights>;

  constructor(
    private readonly checks: ChecksService,
    private readonly machines: MachinesService,
    private readonly mills: MillService,
    live: LiveService,
  ) {
    this.kept = new Kept(() => this.look(), live.news, otherThan(...RECORDS));
  }

  sights(): Promise<MillSights> {
    return this.kept.get();
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
