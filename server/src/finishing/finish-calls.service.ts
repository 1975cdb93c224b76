import {
  boothCalls,
  materialCalls,
  panelCalls,
  type BoothView,
  type SingleCall,
  type MaterialView,
  type MixView,
  type PanelView,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { Kept, otherThan } from '../live/kept.ts';
import { LiveService } from '../live/live.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { factoryWords } from '../setup/factory-words.ts';
import { SetupService } from '../setup/setup.service.ts';
import { BoothsService, type BoothPageView } from './booths.service.ts';
import { MaterialsService } from './materials.service.ts';
import { RacksInFinishService } from './racks-in-finish.service.ts';

/** Entries that move no piece and lay nothing on one. */
const RECORDS = ['read', 'check', 'measure', 'adjust', 'pair', 'meet'] as const;

/** A panel that is not this much earlier than the clock is not worth a call. */
const WORTH_MS = 6 * 3_600_000;

interface FinishViews {
  booths: BoothView[];
  mixes: MixView[];
  materials: MaterialView[];
  panels: PanelView[];
}

/** What finishing calls for on the board. */
@Injectable()
export class FinishCallsService {
  private readonly kept: Kept<FinishViews>;

  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly booths: BoothsService,
    private readonly materials: MaterialsService,
    private readonly racks: RacksInFinishService,
    live: LiveService,
  ) {
    this.kept = new Kept(() => this.look(), live.news, otherThan(...RECORDS));
  }

  async calls(): Promise<SingleCall[]> {
    const [nowMs, { calendar }, views] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.kept.get(),
    ]);
    const time = factoryWords(nowMs, calendar.zone);
    return [
      ...boothCalls(views.booths, nowMs, time),
      ...materialCalls(views, nowMs, time),
      ...panelCalls(views.panels, time),
    ];
  }

  private async look(): Promise<FinishViews> {
    const list = await this.racks.list();
    const [booths, { materials, mixes }] = await Promise.all([
      this.booths.before(list),
      this.materials.all(),
    ]);
    return {
      booths: booths.map(boothView),
      mixes: mixes.map(({ endedMs, ...mix }) => ({ ...mix, ended: endedMs !== null })),
      // Who never noted a lot keeps no stock here: that is no shortage.
      materials: materials.filter(({ lots }) => lots.length > 0),
      panels: list.racks.flatMap(({ batch, views, panels }) => {
        const [panel] = panels;
        const waiting = views.filter((view) => view.next === 'buff' && !view.ready && view.fromMs !== null);
        const clockMs = Math.max(...waiting.map(({ fromMs }) => fromMs ?? 0));
        if (!panel || waiting.length === 0 || panel.curedMs > list.nowMs) return [];
        if (clockMs - list.nowMs < WORTH_MS) return [];
        const pieces = waiting.reduce((sum, { positions }) => sum + positions.length, 0);
        return [{ panel: panel.code, batch, pieces, curedMs: panel.curedMs, clockMs }];
      }),
    };
  }
}

function boothView(booth: BoothPageView): BoothView {
  const closes = booth.ahead.find(({ atMs }) => atMs === booth.closesMs);
  return {
    code: booth.code,
    name: booth.name,
    judged: booth.now?.judged ?? null,
    closesMs: booth.closesMs,
    opensMs: booth.opensMs,
    closesAgainst: closes?.against ?? [],
    racks: new Set(booth.racks.map(({ batch }) => batch)).size,
    first: booth.first,
    filterHours: booth.filterHours,
    filterLifeHours: booth.filterLifeHours,
  };
}
