import { dayMoves, pieceCode, stayNow, workingClock, type DayMove, type Leg } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { RacksService } from '../floor/racks.service.ts';
import { StaysService } from '../log/stays.service.ts';
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

/** Parts are made of parts at most so deep. */
const DEEPEST = 8;

/** Why orders will be ready later than was thought: told by the stays of the piece that decides it. */
@Injectable()
export class OrderMovesService {
  constructor(
    private readonly views: OrderViewsService,
    private readonly racks: RacksService,
    private readonly stays: StaysService,
  ) {}

  /** For each line that is to be built. @throws NotFoundException */
  async of(code: string): Promise<LineMoves[]> {
    const { placedMs, floor, lines } = await this.views.deciding(code);
    return Promise.all(
      lines.map(async ({ line, model, earliest }): Promise<LineMoves> => {
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
    const { code } = rack.state;
    const ended = await this.stays.ofPiece(code, slowest.position);
    const open = stayNow(slowest, nowMs);
    const own: Leg = { batch: code, route: rack.route, stays: open ? [...ended, open] : ended };
    const made = await this.before(slowest.parents, bornMs(own), DEEPEST);
    return { piece: pieceCode(code, slowest.position), legs: [...made, own, ...then] };
  }

  /**
   * What a piece was made of, as far as it waited for it: of several parts the one that came to the join last. What it took in
   * later, when it was there already, is told by its own waiting.
   */
  private async before(parents: readonly string[], madeMs: number, deepest: number): Promise<Leg[]> {
    if (deepest === 0) return [];
    const ways = await Promise.all(
      parents.map(async (parent) => {
        const [batch = '', place] = parent.split('/');
        const position = Number(place);
        const [{ state, route }, stays] = await Promise.all([
          this.racks.rack(batch),
          this.stays.ofPiece(batch, position),
        ]);
        const older = state.pieces.find((piece) => piece.position === position)?.parents ?? [];
        return { leg: { batch, route, stays }, older };
      }),
    );
    const [latest] = ways
      .filter(({ leg: { stays } }) => (stays.at(-1)?.toMs ?? Infinity) <= madeMs)
      .toSorted((a, b) => (b.leg.stays.at(-1)?.fromMs ?? 0) - (a.leg.stays.at(-1)?.fromMs ?? 0));
    if (!latest) return [];
    return [...(await this.before(latest.older, bornMs(latest.leg), deepest - 1)), latest.leg];
  }
}

const bornMs = ({ stays }: Leg): number => stays[0]?.fromMs ?? Infinity;

const nameOf = (legs: readonly Leg[], { batch, operation }: DayMove): string | null =>
  legs.find((leg) => leg.batch === batch)?.route.operations.find(({ key }) => key === operation)?.name ??
  operation;
