import {
  cameMs,
  hasLeft,
  operationOf,
  routeIn,
  type PlacedStay,
  type Route,
  type StayStatus,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { RacksService } from '../floor/racks.service.ts';
import { StaysService } from '../log/stays.service.ts';
import { SetupService } from '../setup/setup.service.ts';

/** What all racks were in since a moment, as the questions about flow need it: what has ended, and what goes on. */
@Injectable()
export class LoggedStaysService {
  constructor(
    private readonly stays: StaysService,
    private readonly racks: RacksService,
    private readonly setup: SetupService,
  ) {}

  /** Everything that was still so after a moment; what goes on, up to `nowMs`. */
  async since(fromMs: number, nowMs: number): Promise<PlacedStay[]> {
    const [ended, open] = await Promise.all([this.stays.endedSince(fromMs), this.racks.open()]);
    const routes = await this.setup.routeBook([...new Set(ended.map(({ routeId }) => routeId))]);
    const routeOf = new Map<string, Route>();
    // Tens of thousands in a long window: each is made at once, not copied and copied again.
    const stays = ended.map((stay): PlacedStay => {
      const { batch, operation, station, status, person, positions, pieces, fromMs: from, toMs } = stay;
      const route = routeOf.get(batch) ?? routeIn(routes, stay);
      routeOf.set(batch, route);
      return {
        batch,
        route,
        operation,
        station,
        status,
        person,
        positions,
        pieces,
        fromMs: from,
        toMs,
        ended: stay.ended,
      };
    });
    return [
      ...stays,
      ...open.flatMap(({ state, route }) => {
        const groups = new Map<string, PlacedStay & { positions: number[] }>();
        for (const piece of state.pieces) {
          if (hasLeft(piece)) continue;
          const { operation, standing, station, who = null } = piece;
          const key = `${operation}|${standing}|${station}|${who}|${cameMs(piece)}`;
          const group = groups.get(key);
          if (group) {
            group.pieces += 1;
            group.positions.push(piece.position);
          } else
            groups.set(key, {
              ...{ batch: state.code, route, operation, status: standing as StayStatus, ended: null },
              ...{ pieces: 1, positions: [piece.position], person: who },
              station: station ?? operationOf(route, operation).stations[0] ?? null,
              ...{ fromMs: cameMs(piece), toMs: Math.max(nowMs, cameMs(piece)) },
            });
        }
        return [...groups.values()];
      }),
    ];
  }
}
