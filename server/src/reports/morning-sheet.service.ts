import { factoryDate, STAGES } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import type { ContentTable } from 'pdfmake/interfaces.js';
import { BoardService } from '../flow/board.service.ts';
import { ConstraintService } from '../flow/constraint.service.ts';
import { FloorService } from '../flow/floor.service.ts';
import { JudgedRacksService } from '../flow/judged-racks.service.ts';
import { KitsService } from '../kits/kits.service.ts';
import { OrderViewsService } from '../orders/order-views.service.ts';
import { HAIRLINES, mm, pdfOf, said } from '../paper/pdf.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';

/** A heading with short lines below it; each with what stands at its right. */
export interface SheetPart {
  heading: string;
  lines: { words: string; right: string }[];
  /** What it says where it has no line. */
  none: string;
  /** What stands at the right is the longer of the two. */
  explains?: true;
}

/** One page for the morning. */
export interface MorningSheet {
  factory: string;
  title: string;
  /** What paces the house, in a sentence. */
  pace: string;
  parts: SheetPart[];
}

/** What fits one page. */
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

  async sheet(): Promise<MorningSheet> {
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
    const row = pace.rows.find(({ code, by }) => code === pace.verdict.code && by === pace.verdict.by);
    return {
      factory: name,
      title: at(nowMs, 'cccc d LLLL, HH:mm'),
      pace: row
        ? `${row.name} ${row.by === 'skill' ? 'pace' : 'paces'} the house: ${row.hoursOfferedADay.toFixed(1)} h of work a day come, ${row.hoursADay.toFixed(1)} h are there.`
        : 'Nobody paces the house for sure.',
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

  /** On paper, one page. */
  async pdf(): Promise<Buffer> {
    const { factory, title, pace, parts } = await this.sheet();
    return pdfOf({
      info: { title: `${factory}, ${title}` },
      content: [
        { text: factory, style: 'quiet' },
        { text: title, style: 'title' },
        { text: pace, margin: [0, 4, 0, 4] },
        ...parts.flatMap(({ heading, lines, none, explains = false }) => [
          { text: heading, style: 'heading', fontSize: 13, margin: CLOSE },
          ...(lines.length === 0
            ? [{ text: none, style: 'quiet' }]
            : [tableOf(lines.slice(0, MOST_LINES), explains)]),
          ...(lines.length > MOST_LINES
            ? [{ text: `and ${lines.length - MOST_LINES} more`, style: 'quiet' }]
            : []),
        ]),
      ],
    });
  }

  /** As one file of HTML: no script, nothing it would fetch. */
  async html(): Promise<string> {
    const { factory, title, pace, parts } = await this.sheet();
    const rows = parts.map(
      ({ heading, lines, none }) => `<h2>${escaped(heading)}</h2>
${
  lines.length === 0
    ? `<p class="quiet">${escaped(none)}</p>`
    : `<table>${lines
        .map(
          ({ words, right }) =>
            `<tr><td dir="auto">${escaped(words)}</td><td class="right">${escaped(right)}</td></tr>`,
        )
        .join('\n')}</table>`
}`,
    );
    return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(`${factory}, ${title}`)}</title>
<style>
body { font: 15px/1.4 sans-serif; max-width: 52rem; margin: 2rem auto; padding: 0 1rem; color: #1f1b16; background: #fffef9 }
h1 { font-size: 1.7rem; margin: 0 } h2 { font-size: 1.1rem; margin: 1.3rem 0 0.3rem }
table { border-collapse: collapse; width: 100% } td { border-bottom: 1px solid #d8cfbc; padding: 0.2rem 0; vertical-align: top }
.right { text-align: right; padding-left: 1rem } .quiet { color: #6b6156 }
</style></head><body>
<p class="quiet">${escaped(factory)}</p><h1>${escaped(title)}</h1><p>${escaped(pace)}</p>
${rows.join('\n')}
</body></html>
`;
  }
}

/** Closer than on other paper: all of it is one page. */
const CLOSE: [number, number, number, number] = [0, 7, 0, 1];

const tableOf = (
  lines: SheetPart['lines'],
  explains: boolean,
): ContentTable & { layout: typeof HAIRLINES } => ({
  layout: HAIRLINES,
  table: {
    widths: explains ? [mm(54), '*'] : ['*', mm(72)],
    body: lines.map(({ words, right }) => [
      said(words),
      { stack: [said(right)], alignment: explains ? 'left' : 'right' },
    ]),
  },
});

const SIGNS: Readonly<Record<string, string>> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};
const escaped = (words: string): string => words.replaceAll(/[&<>"']/g, (sign) => SIGNS[sign] ?? sign);
