import type { CutterView, DimensionView, MachineView } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { Kept, otherThan } from '../live/kept.ts';
import { LiveService } from '../live/live.service.ts';
import { ChecksService } from './checks.service.ts';
import { MachinesService } from './machines.service.ts';
import { MillService, type MillView } from './mill.service.ts';

export interface MillViews {
  dimensions: DimensionView[];
  cutters: CutterView[];
  machines: MachineView[];
}

/** Entries that move no piece, and that no plan of a mill or chart rests on. */
const RECORDS = ['read', 'coat', 'sand', 'mark', 'colour', 'measure', 'adjust', 'pair', 'age'] as const;

/** What the board wants to know of the mills. */
@Injectable()
export class MillViewsService {
  private readonly kept: Kept<MillViews>;

  constructor(
    private readonly checks: ChecksService,
    private readonly machines: MachinesService,
    private readonly mills: MillService,
    live: LiveService,
  ) {
    this.kept = new Kept(() => this.look(), live.news, otherThan(...RECORDS));
  }

  views(): Promise<MillViews> {
    return this.kept.get();
  }

  private async look(): Promise<MillViews> {
    const [dimensions, machines, stations] = await Promise.all([
      this.checks.summaries(),
      this.machines.views(),
      this.mills.stations(),
    ]);
    const mills = await Promise.all(stations.map(({ code }) => this.mills.mill(code)));
    return {
      dimensions: dimensions.map(({ view }) => view),
      cutters: mills.flatMap(cutterViews),
      machines,
    };
  }
}

/** The cutters of a mill, each with the load that would pass its life. */
const cutterViews = ({ station, stationName, plan, cutters }: MillView): CutterView[] =>
  cutters.map(({ tool, usedMinutes, lifeMinutes }) => {
    const past = plan.loads.find((load) => load.change.includes(tool));
    const pastWith = past ? `${past.parts.map((part) => part.batch).join(', ')} on ${past.program}` : null;
    return { station, stationName, tool, usedMinutes, lifeMinutes, pastWith };
  });
