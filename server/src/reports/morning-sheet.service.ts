import { factoryDate, STAGES } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { BoardService } from '../flow/board.service.ts';
import { ConstraintService } from '../flow/constraint.service.ts';
import { FloorService } from '../flow/floor.service.ts';
import { JudgedRacksService } from '../flow/judged-racks.service.ts';
import { KitsService } from '../kits/kits.service.ts';
import { OrderViewsService } from '../orders/order-views.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { paceWords, type Sheet } from './sheet.ts';

/** Of each part. */
const MOST_LINES = 6;
const WINDOW_DAYS = 20;
const MOST_DAYS_SHORT = 14;
const STAGE_WORDS: Record<(typeof STAGES)[number], string> = {
  ...{
    wood: 'Wood room',
    machining: 'Machining',
    fitting: 'Fitting',
    finishing: 'Finishing',
    assembly: 'Assembly',
  },
};

/** What everybody should know at the beginning of the day, on one page: from the same sources as the pages on screen. */
@Injectable()
export class MorningSheetService {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly floor: FloorService,
    private readonly boards: BoardService,
    private readonly racks: JudgedRacksService,
    private readonly constraint: ConstraintService,
    private readonly orders: OrderViewsService,
    private readonly kits: KitsService,
  ) {}

  async sheet(): Promise<Sheet> {
    const nowMs = await this.clock.now();
    const { name, calendar } = await this.setup.factory();
    const [floor, board, racks, pace, orders, { shortages }, people, absent] = await Promise.all([
      this.floor.floor(),
      this.boards.board(),
      this.racks.all(nowMs, calendar),
      this.constraint.view(WINDOW_DAYS),
      this.orders.open(),
      this.kits.view(MOST_DAYS_SHORT),
      this.setup.people(),
      this.setup.absent(factoryDate(calendar, nowMs)),
    ]);
    const at = (ms: number, format: string): string =>
      DateTime.fromMillis(ms, { zone: calendar.zone, locale: 'en-GB' }).toFormat(format);
    const today = factoryDate(calendar, nowMs);
    const freed = racks
      .flatMap(({ state, holds }) =>
        holds.flatMap(({ dto }) =>
          dto.endMs !== null && (dto.over || factoryDate(calendar, dto.endMs) === today)
            ? [
                {
                  endMs: dto.endMs,
                  over: dto.over,
                  batch: state.code,
                  model: state.model,
                  word: dto.word,
                  pieces: dto.positions.length,
                },
              ]
            : [],
        ),
      )
      .toSorted((a, b) => a.endMs - b.endMs);
    const late = orders.filter(({ earliestMs, dueMs }) => earliestMs !== null && earliestMs > dueMs);
    return {
      factory: name,
      title: at(nowMs, 'cccc d LLLL, HH:mm'),
      ...{ pace: paceWords(pace), mostLines: MOST_LINES },
      parts: [
        {
          heading: 'Wants a decision',
          explains: true,
          none: 'Nothing does.',
          lines: board.calls.map(({ title, detail }) => ({ words: title, right: detail })),
        },
        {
          heading: 'Comes free today',
          none: 'No hold ends today.',
          lines: freed.map(({ endMs, over, batch, model, word, pieces }) => ({
            words: `${batch} ${model}, ${pieces}: ${word}`,
            right: over ? 'ready' : `${endMs < nowMs ? 'since ' : ''}${at(endMs, 'HH:mm')}`,
          })),
        },
        {
          heading: 'Cannot be in time',
          none: 'Every order can be.',
          lines: late.map(({ code, customer, dueMs, earliestMs }) => ({
            words: `${code} ${customer ?? 'for stock'}`,
            right: `due ${at(dueMs, 'd LLL')}, ${at(earliestMs ?? dueMs, 'd LLL')} at the earliest`,
          })),
        },
        {
          heading: 'Will be short',
          none: 'All parts are there, or come in time.',
          lines: shortages.map(({ part, name: called, short, racks: stopped }) => ({
            words: `${part} ${called}, ${short} short`,
            right: stopped
              .map(({ rack }) => rack)
              .slice(0, 4)
              .join(', '),
          })),
        },
        {
          heading: 'In the house',
          none: 'Nothing is.',
          lines: floor.stages.map(({ stage, racks: there, pieces, onHold }) => ({
            words: STAGE_WORDS[stage],
            right: `${there} racks, ${pieces} pieces, ${onHold} on hold`,
          })),
        },
        {
          heading: 'Away today',
          none: 'Everybody is here.',
          lines: people
            .filter(({ code }) => absent.includes(code))
            .map(({ name: called, role, skills }) => ({
              words: `${called}, ${role}`,
              right: skills.join(', '),
            })),
        },
      ],
    };
  }
}
