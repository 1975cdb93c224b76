import {
  pieceAt,
  stayNow,
  type BatchState,
  type Leg,
  type PieceAt,
  type Route,
  type Stay,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { RacksService } from '../floor/racks.service.ts';
import { StaysService } from '../log/stays.service.ts';

interface Known {
  state: BatchState;
  route: Route;
  stays: readonly Stay[];
}

/** The way of pieces through the house: the route of each part they were made of, then their own, with all they were in. */
@Injectable()
export class WaysService {
  constructor(
    private readonly racks: RacksService,
    private readonly stays: StaysService,
  ) {}

  /** In the order in which they were asked for; what a piece is in now goes up to `nowMs`. @throws NotFoundException for a batch that is none */
  async of(pieces: readonly PieceAt[], nowMs: number): Promise<Leg[][]> {
    const racks = await this.racks.lineage(pieces.map(({ batch }) => batch));
    const stays = await this.stays.ofBatches([...racks.keys()]);
    const known = new Map(
      [...racks].map(([code, rack]): [string, Known] => [code, { ...rack, stays: stays.get(code) ?? [] }]),
    );
    return pieces.map((piece) => legsOf(piece, known, nowMs));
  }
}

function legsOf({ batch, position }: PieceAt, known: ReadonlyMap<string, Known>, nowMs: number): Leg[] {
  const rack = known.get(batch);
  const piece = rack?.state.pieces.find((one) => one.position === position);
  if (!rack || !piece) return [];
  const ended = rack.stays.filter(({ positions }) => positions.includes(position));
  const open = stayNow(piece, nowMs);
  const own: Leg = { batch, route: rack.route, stays: open ? [...ended, open] : ended };
  // Of several parts the one that came to the join last: for it the others waited. What was taken in later, when the piece was there
  // already, is told by its own waiting.
  const madeMs = own.stays[0]?.fromMs ?? Infinity;
  const [latest = []] = piece.parents
    .map((parent) => legsOf(pieceAt(parent), known, nowMs))
    .filter((legs) => (lastOf(legs)?.toMs ?? Infinity) <= madeMs)
    .toSorted((a, b) => (lastOf(b)?.fromMs ?? 0) - (lastOf(a)?.fromMs ?? 0));
  return [...latest, own];
}

const lastOf = (legs: readonly Leg[]): Leg['stays'][number] | undefined => legs.at(-1)?.stays.at(-1);
