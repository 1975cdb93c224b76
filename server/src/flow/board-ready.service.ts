import { Injectable, Logger } from '@nestjs/common';
import { Interval } from '@nestjs/schedule';
import { LiveService } from '../live/live.service.ts';
import { BoardService } from './board.service.ts';

/** Shorter than what is worked out for the board stays fresh: nobody who asks finds all of it old at once. */
const EVERY_MS = 10_000;

/** Keeps the board worked out while any page is open, so that whoever turns to it after a quiet while does not wait. */
@Injectable()
export class BoardReadyService {
  private readonly logger = new Logger('board');
  private busy = false;

  constructor(
    private readonly board: BoardService,
    private readonly live: LiveService,
  ) {}

  @Interval(EVERY_MS)
  async keepReady(): Promise<void> {
    if (this.busy || !this.live.isListenedTo) return;
    this.busy = true;
    try {
      await this.board.board();
    } catch (error) {
      // Whoever asks next is told; here it only means that they will wait.
      this.logger.debug(`not kept ready: ${(error as Error).message}`);
    } finally {
      this.busy = false;
    }
  }
}
