import {
  blanksOfPiece,
  madeOf,
  operationOf,
  type BatchState,
  type LotState,
  type Route,
  type WoodPapers,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import { FactsService } from '../log/facts.service.ts';
import { SetupService } from '../setup/setup.service.ts';
import { LotsService } from './lots.service.ts';

/** The papers of the protected wood that instruments are made of: noted with what leaves, and asked for. */
@Injectable()
export class PapersService {
  constructor(
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
  async ofLeaving(state: BatchState, route: Route, manager?: EntityManager): Promise<WoodPapers[]> {
    const leaving = state.pieces.filter(
      ({ operation, standing }) =>
        (standing === 'waiting' || standing === 'inHand') && operationOf(route, operation).mode === 'ship',
    );
    if (leaving.length === 0) return [];
    const species = await this.setup.species(manager);
    const guarded = new Set(species.flatMap(({ name, papersNeeded }) => (papersNeeded ? [name] : [])));
    if (guarded.size === 0) return [];
    const racks = await this.floor.lineage([state.code], manager);
    const lots = new Map<string, LotState[]>();
    for (const batch of racks.keys())
      lots.set(
        batch,
        (await this.lots.takenFor(batch, manager)).filter((lot) => guarded.has(lot.species)),
      );
    const found = leaving.flatMap(({ position }) =>
      madeOf({ batch: state.code, position }, (code) => racks.get(code)?.state).flatMap((part) =>
        (lots.get(part.batch) ?? []).flatMap(({ species, code, papers, ...lot }): WoodPapers[] =>
          blanksOfPiece(lot, part.batch, part.position)
            ? [{ position, species, lot: code, reference: papers }]
            : [],
        ),
      ),
    );
    return found.toSorted(
      (a, b) => a.position - b.position || a.lot.localeCompare(b.lot, 'en', { numeric: true }),
    );
  }
}
