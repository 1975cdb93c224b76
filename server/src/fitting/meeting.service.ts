import {
  meetingForecast,
  meetingSides,
  refuse,
  type MeetingForecast,
  type MeetingSide,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { FilingOutcome } from '../log/filing.ts';
import { LogService } from '../log/log.service.ts';
import { Refused } from '../log/refused.ts';
import { HoldsService } from '../routing/holds.service.ts';
import { RacksService } from '../floor/racks.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';

export interface MeetingsView {
  nowMs: number;
  zone: string;
  sides: (MeetingSide & { joinName: string })[];
  forecast: MeetingForecast;
}

/** Bodies and necks on their way to each other. */
@Injectable()
export class MeetingService {
  constructor(
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly holds: HoldsService,
    private readonly log: LogService,
  ) {}

  async meetings(): Promise<MeetingsView> {
    const nowMs = await this.clock.now();
    const { calendar } = await this.setup.factory();
    const open = await this.floor.open();
    const evidence = await this.holds.evidenceFor(open, nowMs);
    const racks = open.map((rack) => ({
      ...rack,
      holds: this.holds.see(rack, nowMs, evidence).map(({ dto }) => dto),
    }));
    const sides = meetingSides({ racks, calendar, nowMs });
    return { nowMs, zone: calendar.zone, sides, forecast: meetingForecast(sides) };
  }

  /**
   * Says who meets whom: each pair is filed on both its batches, and batches that had been told to meet one of them are free
   * again. All in one filing.
   */
  tell(told: { key: string; by: string; meets: { host: string; guest: string }[] }): Promise<FilingOutcome> {
    const { key, by, meets } = told;
    const named = meets.flatMap(({ host, guest }) => [host, guest]);
    return this.log.fileTogether({ key, by, asked: { meets }, batches: named }, async (manager) => {
      if (new Set(named).size < named.length)
        throw new Refused(refuse('bad-value', 'a batch can meet one other only'));
      const states = await this.floor.openStates(manager);
      for (const { host, guest } of meets) {
        const [one, other] = [states.get(host), states.get(guest)];
        if (!one || !other)
          throw new Refused(refuse('unknown-batch', `there is no open batch ${one ? guest : host}`));
        if (one.model !== other.model)
          throw new Refused(
            refuse('not-joinable', `${host} is ${one.model}, ${guest} ${other.model}: they cannot meet`),
          );
        if (one.kind === other.kind)
          throw new Refused(refuse('not-joinable', `${host} and ${guest} are both of kind ${one.kind}`));
      }
      const jilted = [...states.values()].filter(
        (state) => state.meets !== undefined && named.includes(state.meets) && !named.includes(state.code),
      );
      return [
        ...meets.flatMap(({ host, guest }) => [
          { batch: host, body: { type: 'meet' as const, partner: guest } },
          { batch: guest, body: { type: 'meet' as const, partner: host } },
        ]),
        ...jilted.map((state) => ({ batch: state.code, body: { type: 'meet' as const, partner: null } })),
      ];
    });
  }
}
