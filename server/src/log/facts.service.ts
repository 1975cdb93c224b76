import type { BatchState, EntryBody, EntryType, Route } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import type { EntityManager } from 'typeorm';

/** A batch while something is filed on it; its state is null while it is opened. */
export interface Rack<State = BatchState> {
  state: State;
  route: Route;
}

/** When something is filed as having happened, by whom, and what was asked besides the entry itself. */
export interface Asked {
  atMs: number;
  by: string;
  /** Name of the finish recipe of a new batch; its model's usual one when left out. */
  recipe?: string | undefined;
}

type Body<T extends EntryType> = Extract<EntryBody, { type: T }>;
type RackOf<T extends EntryType> = Rack<T extends 'open' ? null : BatchState>;

/**
 * What a stage knows of an entry that whoever files it does not: corrected readings, the booth and lot of a coat, the load of a
 * start. By type of entry; under the lock of its batch, before the reducer sees it. @throws Refused
 */
export type Facts = {
  [T in EntryType]?: (
    manager: EntityManager,
    rack: RackOf<T>,
    body: Body<T>,
    asked: Asked,
  ) => Promise<Body<T>>;
};

/** Stages say here, when they are made, what they add to entries; every way of filing asks for it. */
@Injectable()
export class FactsService {
  private readonly known: Facts[] = [];
  private readonly last: Facts[] = [];

  /** `last`: it takes what does not come back, a number of the factory, and so comes after all that may refuse. */
  register(facts: Facts, { last = false } = {}): void {
    (last ? this.last : this.known).push(facts);
  }

  /** An entry with all that stages add to it. @throws Refused */
  async complete<T extends EntryType>(
    manager: EntityManager,
    rack: RackOf<T>,
    body: Body<T>,
    asked: Asked,
  ): Promise<Body<T>> {
    let complete = body;
    for (const facts of [...this.known, ...this.last]) {
      const add = facts[body.type];
      if (add) complete = await add(manager, rack, complete, asked);
    }
    return complete;
  }
}
