import { setImmediate } from 'node:timers/promises';
import {
  checkCalls,
  drawRack,
  earliestEndMs,
  meetingSides,
  operationOf,
  operationsInUse,
  pairCalls,
  rackLine,
  shelfCalls,
  workingClock,
  type SingleCall,
  type DueView,
  type FactoryCalendar,
  type NamedSide,
  type RackDrawn,
  type RackLine,
  type WorkingClock,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { PerRack } from '../floor/per-rack.ts';
import { RacksService, type RackInQuestion } from '../floor/racks.service.ts';
import type { HoldDto } from '../routing/rack.dto.ts';
import { HoldsService, type SeenHold } from '../routing/holds.service.ts';

/** An open rack with all that is judged of it alone. */
export interface JudgedRack extends RackInQuestion {
  seq: number;
  holds: readonly SeenHold[];
  drawn: RackDrawn<HoldDto>;
  due: DueView | null;
  /** As the list of racks tells it. */
  line: RackLine<HoldDto> | null;
  /** Calls that rest on nothing but the rack: what lies outside its limits, what was never measured, what has settled. */
  calls: readonly SingleCall[];
  /** Its side of the join it is on its way to. */
  side: NamedSide | null;
}

/** So long the racks are judged without letting anybody else in. */
const LONGEST_HOLD_MS = 10;

/** The open racks as the board and the calls need them: each judged once, until it, its holds or the minute changes. */
@Injectable()
export class JudgedRacksService {
  private readonly judged = new PerRack<JudgedRack>();

  constructor(
    private readonly floor: RacksService,
    private readonly holds: HoldsService,
  ) {}

  /** In order of their codes; shared with whoever else asked: nobody changes them. */
  async all(nowMs: number, calendar: FactoryCalendar): Promise<JudgedRack[]> {
    const open = await this.floor.open();
    const evidence = await this.holds.evidenceFor(open, nowMs);
    const clock = workingClock(calendar, nowMs);
    const racks: JudgedRack[] = [];
    let sinceMs = performance.now();
    for (const rack of open) {
      const holds = this.holds.see(rack, nowMs, evidence);
      racks.push(
        this.judged.get(rack.state, nowMs, [rack, holds, calendar], () =>
          judge(rack, holds, { calendar, nowMs, clock }),
        ),
      );
      // Many that are judged for the first time take their time: others are answered in between.
      if (performance.now() - sinceMs < LONGEST_HOLD_MS) continue;
      await setImmediate();
      sinceMs = performance.now();
    }
    return racks;
  }
}

function judge(
  rack: RackInQuestion & { seq: number },
  seen: readonly SeenHold[],
  time: { calendar: FactoryCalendar; nowMs: number; clock: WorkingClock },
): JudgedRack {
  const { state, route } = rack;
  const holds = seen.map(({ dto }) => dto);
  const earliestMs = earliestEndMs({ state, route, holds, ...time });
  const [side = null] = meetingSides({ racks: [{ state, route, holds }], ...time });
  return {
    ...rack,
    holds: seen,
    drawn: drawRack({ state, route }, holds),
    due: dueView({ state, route }, earliestMs),
    line: rackLine({ state, route }, holds, earliestMs),
    calls: [
      ...checkCalls([{ state, route }]),
      ...pairCalls({ state, route }),
      ...shelfCalls({ state, route }, time.nowMs),
    ],
    side,
  };
}

function dueView({ state, route }: RackInQuestion, earliestMs: number | null): DueView | null {
  const key = operationsInUse(state, route)[0];
  if (earliestMs === null || key === undefined) return null;
  const pieces = state.pieces.filter(
    (p) => p.standing === 'waiting' || p.standing === 'inHand' || p.standing === 'onHold',
  ).length;
  return { batch: state.code, dueMs: state.dueMs, earliestMs, pieces, where: operationOf(route, key).name };
}
