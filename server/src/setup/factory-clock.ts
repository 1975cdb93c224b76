import { Injectable } from '@nestjs/common';
import { DataSource } from 'typeorm';
import { FactoryRow } from './rows.ts';
import { happenedMs } from './touch.ts';

/**
 * The factory's time. In earnest it is the server's; the demo sets an offset, so that Tarrow Works is in the
 * middle of a working day whenever it is first started.
 */
@Injectable()
export class FactoryClock {
  private offsetMs: number | null = null;

  constructor(private readonly source: DataSource) {}

  async now(): Promise<number> {
    if (this.offsetMs === null) {
      const factory = await this.source.getRepository(FactoryRow).findOneBy({ id: 1 });
      this.offsetMs = factory?.clockOffsetMs ?? 0;
    }
    return Date.now() + this.offsetMs;
  }

  /** When what is being filed happened: now, or when it was touched, if a browser kept it meanwhile. */
  async happened(): Promise<number> {
    return happenedMs(await this.now());
  }

  /** The factory was written here: read its offset again. */
  forget(): void {
    this.offsetMs = null;
  }
}
