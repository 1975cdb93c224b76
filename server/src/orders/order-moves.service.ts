import { dayMoves, pieceCode, workingClock, type DayMove, type Leg } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { WaysService } from '../flow/ways.service.ts';
import { lastKind, type Earliest, type OrderFloor } from './earliest.ts';
import { OrderViewsService } from './order-views.service.ts';

/** What moved an earliest day, in words of the route. */
export interface MoveView extends DayMove {
  /** Name of the operation; null: before there was a rack. */
  operationName: string | null;
}

/** Why the earliest day of one line is not what it was when it was ordered. */
export interface LineMoves {
  /** 'O-12/1'. */
  line: string;
  /** Its earliest day as it was when it was ordered, and as it is. */
  fromMs: number;
  startMs: number;
  endMs: number;
  /** The piece that decides it: the last of its rack; null: no rack has it. */
  piece: string | null;
  moves: MoveView[];
}

/** Why orders will be ready later than was thought: told by the stays of the piece that decides it. */
@Injectable()
export class OrderMovesService {
  constructor(
    private readonly views: OrderViewsService,
    private readonly ways: WaysService,
  ) {}

  /** For each line that is to be built. @throws NotFoundException */
  async of(code: string): Promise<LineMoves[]> {
    const { floor, lines } = await this.views.deciding(code);
    return Promise.all(
      lines.map(async ({ line, model, placedMs, earliest }): Promise<LineMoves> => {
        const { piece, legs } = await this.wayOf(model, earliest, floor);
        const { endMs, pieces } = earliest;
        const times = { fromMs: placedMs, nowMs: floor.nowMs, endMs };
        const begun = legs.flatMap(({ stays }) => stays.map(({ fromMs }) => fromMs));
        const clock = workingClock(floor.calendar, Math.min(placedMs, ...begun));
        const { startMs, moves } = dayMoves({ legs, pieces, ...times, add: clock.add });
        return {
          ...{ line, piece, startMs, endMs, fromMs: placedMs },
          moves: moves.map((move) => ({ ...move, operationName: nameOf(legs, move) })),
        };
      }),
    );
  }

  /** The routes of the piece that decides, with what it was in: its parts' before its own, then what it becomes. */
  private async wayOf(
    model: string,
    { rack, positions, kind }: Earliest,
    { kinds, usual, nowMs }: OrderFloor,
  ): Promise<{ piece: string | null; legs: Leg[] }> {
    const last = lastKind(kinds, model);
    const becomes = last !== undefined && kind !== last ? usual(model, last) : undefined;
    const then = becomes ? [{ batch: null, route: becomes, stays: [] }] : [];
    const at = (key: string): number => rack?.route.operations.findIndex((one) => one.key === key) ?? -1;
    const [slowest] = (rack?.state.pieces ?? [])
      .filter(({ position }) => positions.includes(position))
      .toSorted((a, b) => at(a.operation) - at(b.operation) || a.position - b.position);
    if (!rack || !slowest) {
      const route = usual(model, kind);
      return { piece: null, legs: [...(route ? [{ batch: null, route, stays: [] }] : []), ...then] };
    }
    const piece = { batch: rack.state.code, position: slowest.position };
    const [legs = []] = await this.ways.of([piece], nowMs);
    return { piece: pieceCode(piece.batch, piece.position), legs: [...legs, ...then] };
  }
}

const nameOf = (legs: readonly Leg[], { batch, operation }: DayMove): string | null =>
  legs.find((leg) => leg.batch === batch)?.route.operations.find(({ key }) => key === operation)?.name ??
  operation;
