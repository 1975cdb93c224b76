import {
  DAY_MS,
  foundAndCaused,
  operationOf,
  pieceCode,
  placeOf,
  toAccept,
  type Fault,
  type FoundAndCaused,
} from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { RacksService } from '../floor/racks.service.ts';
import { entriesInForce } from '../log/entries-in-force.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';

/** Pieces of a rack that came to another department and were not accepted yet. */
export interface HandOff {
  batch: string;
  model: string;
  operation: string;
  operationName: string;
  /** Of the department that takes over. */
  station: string;
  positions: number[];
  pieces: string[];
  sinceMs: number;
  dueMs: number;
  /** Operations they can go back to: what is behind them on their route, nearest first, then this one itself. */
  behind: { key: string; name: string }[];
  /** Operations that may have caused what is found: those of their own route and of the parts they were made of. */
  origins: { place: string; name: string }[];
}

/** What was found where and caused where, with their names. */
export interface CountedFaults extends FoundAndCaused {
  foundName: string;
  causedName: string | null;
}

export interface HandOffsView {
  nowMs: number;
  zone: string;
  days: number;
  arriving: HandOff[];
  counted: CountedFaults[];
}

/** The next department is a customer: what comes to it is accepted or sent back, and what was found is counted where it was caused. */
@Injectable()
export class HandOffsService {
  constructor(
    private readonly source: DataSource,
    private readonly floor: RacksService,
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
  ) {}

  /** What waits to be accepted, longest first; and faults of so many days. */
  async view(days: number): Promise<HandOffsView> {
    const [nowMs, { calendar }, racks, routes] = await Promise.all([
      this.clock.now(),
      this.setup.factory(),
      this.floor.open(),
      this.setup.newestRoutes(),
    ]);
    const names = new Map(
      routes.flatMap(({ kind, operations }) =>
        operations.map(({ key, name }) => [placeOf(kind, key), `${name} (${kind})`] as const),
      ),
    );
    const arriving = racks.flatMap(({ state, route }): HandOff[] => {
      const byOperation = new Map<string, typeof state.pieces>();
      for (const piece of toAccept(state, route))
        byOperation.set(piece.operation, [...(byOperation.get(piece.operation) ?? []), piece]);
      return [...byOperation].map(([key, pieces]) => {
        const operation = operationOf(route, key);
        const at = route.operations.indexOf(operation);
        const behind = route.operations.slice(0, at).filter(({ mode }) => mode !== 'hold' && mode !== 'join');
        const parts = routes.filter(({ model, kind }) => model === state.model && kind !== route.kind);
        const origins = [
          ...behind.toReversed().map((one) => ({ place: placeOf(route.kind, one.key), name: one.name })),
          ...parts.flatMap(({ kind, operations }) =>
            operations
              .filter(({ mode }) => mode !== 'hold')
              .map((one) => ({ place: placeOf(kind, one.key), name: `${one.name} (${kind})` })),
          ),
        ];
        return {
          ...{ batch: state.code, model: state.model, operation: key, operationName: operation.name },
          ...{ station: operation.stations[0] ?? '', dueMs: state.dueMs, origins },
          positions: pieces.map(({ position }) => position),
          pieces: pieces.map(({ position }) => pieceCode(state.code, position)),
          sinceMs: Math.min(...pieces.map(({ sinceMs }) => sinceMs)),
          behind: [...behind.toReversed(), operation].map(({ key: back, name }) => ({ key: back, name })),
        };
      });
    });
    const counted = foundAndCaused(await this.faults(nowMs - days * DAY_MS)).map((one) => ({
      ...one,
      foundName: names.get(one.found) ?? one.found,
      causedName: one.caused === null ? null : (names.get(one.caused) ?? one.caused),
    }));
    return {
      ...{ nowMs, zone: calendar.zone, days, counted },
      arriving: arriving.toSorted((a, b) => a.sinceMs - b.sinceMs),
    };
  }

  /** What was sent back or scrapped since a moment, and was not taken back. */
  private async faults(afterMs: number): Promise<Fault[]> {
    const [back, lost] = await Promise.all([
      entriesInForce(this.source, { type: 'rework', afterMs }),
      entriesInForce(this.source, { type: 'scrap', afterMs }),
    ]);
    return [
      ...back.map((one) => ({ ...one, lost: false })),
      ...lost.map((one) => ({ ...one, lost: true })),
    ].map(({ kind, operation, pieces, lost: isLost, body: { reason, origin = null } }) => ({
      ...{ found: placeOf(kind, operation ?? ''), caused: origin, lost: isLost, reason, pieces },
    }));
  }
}
