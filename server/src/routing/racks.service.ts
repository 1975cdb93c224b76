import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { BatchRow } from '../database/entities.ts';
import { SetupService } from '../setup/setup.service.ts';
import type { RackInQuestion } from './holds.service.ts';

/** The open batches with the routes they work, for whoever looks at the whole floor. */
@Injectable()
export class RacksService {
  constructor(
    private readonly source: DataSource,
    private readonly setup: SetupService,
  ) {}

  /** In order of their codes. */
  async open(): Promise<(RackInQuestion & { seq: number })[]> {
    const rows = await this.source
      .getRepository(BatchRow)
      .find({ where: { closed: false }, order: { code: 'ASC' } });
    const racks: (RackInQuestion & { seq: number })[] = [];
    for (const { seq, state } of rows)
      if (state) racks.push({ seq, state, route: await this.setup.routeOf(state) });
    return racks;
  }
}
