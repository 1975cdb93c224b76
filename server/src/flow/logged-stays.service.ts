import {
  cameMs,
  DAY_MS,
  hasLeft,
  operationOf,
  routeIn,
  type PlacedStay,
  type Route,
  type StayStatus,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { RacksService, type RackInQuestion } from '../floor/racks.service.ts';
import { LiveService } from '../live/live.service.ts';
import { StaysService } from '../log/stays.service.ts';
import { SetupService } from '../setup/setup.service.ts';

/** What has ended is read anew after so long: what is older than anybody asks for is then let go. */
const KEPT_MS = DAY_MS;

/** What had ended after a moment, as it was read. */
interface Kept {
  fromMs: number;
  readMs: number;
  /** By when they began, batch and entry. */
  ended: PlacedStay[];
}

/**
 * What all racks were in since a moment, as the questions about flow need it: what has ended, and what goes on. What has ended is kept,
 * since a long window is tens of thousands of rows: only racks of which something was filed meanwhile are read again.
 */
@Injectable()
export class LoggedStaysService {
  private kept: Kept | null = null;
  private readonly changed = new Set<string>();
  /** How often all that was kept was let go. */
  private forgotten = 0;
  private turn: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly stays: StaysService,
    private readonly racks: RacksService,
    private readonly setup: SetupService,
    private readonly live: LiveService,
  ) {
    live.news.subscribe(({ batches }) => {
      for (const batch of batches) this.changed.add(batch);
      if (batches.length === 0) this.forget();
    });
  }

  /** Everything that was still so after a moment; what goes on, up to `nowMs`. Shared with whoever else asked: nobody changes it. */
  async since(fromMs: number, nowMs: number): Promise<PlacedStay[]> {
    const [ended, open] = await Promise.all([this.endedSince(fromMs), this.racks.open()]);
    return [...ended, ...open.flatMap((rack) => goingOn(rack, nowMs))];
  }

  private async endedSince(fromMs: number): Promise<PlacedStay[]> {
    // Who hears of no filing cannot tell what has changed.
    if (!(await this.live.caughtUp())) return this.read(fromMs);
    const asked = this.turn.then(() => this.current(fromMs));
    this.turn = asked.catch(() => this.forget());
    return asked;
  }

  /** One at a time: what one of them reads, the next one has. */
  private async current(fromMs: number): Promise<PlacedStay[]> {
    const { kept, forgotten } = this;
    const changed = [...this.changed];
    this.changed.clear();
    const old = !kept || kept.fromMs > fromMs || Date.now() - kept.readMs > KEPT_MS;
    const now = old
      ? { fromMs, readMs: Date.now(), ended: await this.read(fromMs) }
      : { ...kept, ended: await this.withChanged(kept, changed) };
    if (forgotten === this.forgotten) this.kept = now;
    return now.fromMs === fromMs ? now.ended : now.ended.filter(({ toMs }) => toMs > fromMs);
  }

  private async withChanged({ fromMs, ended }: Kept, changed: readonly string[]): Promise<PlacedStay[]> {
    if (changed.length === 0) return ended;
    const anew = await this.read(fromMs, changed);
    const others = new Set(changed);
    return [...ended.filter(({ batch }) => !others.has(batch)), ...anew].toSorted(inOrder);
  }

  private forget(): void {
    this.kept = null;
    this.forgotten += 1;
  }

  private async read(fromMs: number, batches?: readonly string[]): Promise<PlacedStay[]> {
    const ended = await this.stays.endedSince(fromMs, batches);
    const routes = await this.setup.routeBook([...new Set(ended.map(({ routeId }) => routeId))]);
    const routeOf = new Map<string, Route>();
    // Tens of thousands in a long window: each is made at once, not copied and copied again.
    return ended.map((stay): PlacedStay => {
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
        reason: stay.reason,
      };
    });
  }
}

/** As they are read; entries of one batch keep their order. */
const inOrder = (a: PlacedStay, b: PlacedStay): number =>
  a.fromMs - b.fromMs || (a.batch === b.batch ? 0 : a.batch < b.batch ? -1 : 1);

/** What the pieces of an open rack are in, those alike as one. */
function goingOn({ state, route }: RackInQuestion, nowMs: number): PlacedStay[] {
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
}
