import {
  blanksOfPiece,
  operationOf,
  pieceAt,
  type PieceAt,
  type BatchState,
  type Route,
  type WoodPapers,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import { FactsService } from '../log/facts.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { LotsService } from './lots.service.ts';

/** Instruments are made of parts, and those of others, at most so deep. */
const DEEPEST = 8;

/** The papers of the protected wood that instruments are made of: noted with what leaves, and asked for. */
@Injectable()
export class PapersService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly lots: LotsService,
    private readonly setup: SetupService,
    facts: FactsService,
  ) {
    facts.register({
      ship: async (manager, { state, route }, { papers: _claimed, ...body }) => {
        const papers = await this.ofLeaving(state, route, manager);
        const mine =
          body.pieces === undefined ? papers : papers.filter((one) => body.pieces?.includes(one.position));
        return mine.length === 0 ? body : { ...body, papers: mine };
      },
    });
  }

  /** Of the pieces of a rack that stand at shipping: protected species only, in order of their places. */
  async ofLeaving(
    state: BatchState,
    route: Route,
    manager: EntityManager = this.source.manager,
  ): Promise<WoodPapers[]> {
    const leaving = state.pieces.filter(
      ({ operation, standing }) =>
        (standing === 'waiting' || standing === 'inHand') && operationOf(route, operation).mode === 'ship',
    );
    if (leaving.length === 0) return [];
    const species = await this.setup.species(manager);
    const guarded = new Set(species.flatMap(({ name, papersNeeded }) => (papersNeeded ? [name] : [])));
    if (guarded.size === 0) return [];
    const found: WoodPapers[] = [];
    const batches = new Map<string, BatchState>([[state.code, state]]);
    let level = leaving.map(({ position }) => ({ of: position, part: { batch: state.code, position } }));
    for (let depth = 0; level.length > 0 && depth < DEEPEST; depth += 1) {
      const next: typeof level = [];
      for (const batch of new Set(level.map(({ part }) => part.batch))) {
        const here = level.filter(({ part }) => part.batch === batch);
        const own = batches.get(batch) ?? (await this.floor.find(batch, manager))?.state;
        if (!own) continue;
        batches.set(batch, own);
        const lots = (await this.lots.takenFor(batch, manager)).filter((lot) => guarded.has(lot.species));
        for (const { of, part } of here) {
          for (const lot of lots)
            if (blanksOfPiece(lot, batch, part.position))
              found.push({ position: of, species: lot.species, lot: lot.code, reference: lot.papers });
          const parents = own.pieces.find(({ position }) => position === part.position)?.parents ?? [];
          next.push(...parents.map((parent) => ({ of, part: pieceAt(parent) })));
        }
      }
      level = next;
    }
    return found.toSorted(
      (a, b) => a.position - b.position || a.lot.localeCompare(b.lot, 'en', { numeric: true }),
    );
  }
}
