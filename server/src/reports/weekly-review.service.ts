import { count, factoryDate, LEAD_PART_WORDS, LEAD_PARTS } from '@ample-crane/core';
import { Injectable } from '@nestjs/common';
import { DateTime } from 'luxon';
import { ConstraintService } from '../flow/constraint.service.ts';
import { HandOffsService } from '../flow/hand-offs.service.ts';
import { LeadTimesService, type CumulativeView } from '../flow/lead-times.service.ts';
import { LogWholeService } from '../flow/log-whole.service.ts';
import { WorkLogService } from '../flow/work-log.service.ts';
import { OrderViewsService } from '../orders/order-views.service.ts';
import { FactoryClock } from '../setup/factory-clock.ts';
import { SetupService } from '../setup/setup.service.ts';
import { paceWords, type Sheet } from './sheet.ts';

/** Working days that are looked back on, in weeks of five. */
const WINDOW_DAYS = 20;
/** Of each part. */
const MOST_LINES = 4;
const WEEK_DAYS = 5;
/** Calendar days of the same stretch. */
const CALENDAR_DAYS = 28;

/** Four weeks looked back on, on one page: what left, what paced, where the time went, what was lost where, what cannot be in time. */
@Injectable()
export class WeeklyReviewService {
  constructor(
    private readonly setup: SetupService,
    private readonly clock: FactoryClock,
    private readonly constraint: ConstraintService,
    private readonly leadTimes: LeadTimesService,
    private readonly work: WorkLogService,
    private readonly handOffs: HandOffsService,
    private readonly whole: LogWholeService,
    private readonly orders: OrderViewsService,
  ) {}

  async sheet(): Promise<Sheet> {
    const nowMs = await this.clock.now();
    const { name, calendar } = await this.setup.factory();
    const [pace, left, times, { yields }, { counted }, { forgotten, missingStarts }, orders] =
      await Promise.all([
        this.constraint.view(WINDOW_DAYS),
        this.leadTimes.cumulative(WINDOW_DAYS),
        this.leadTimes.view(WINDOW_DAYS),
        this.work.view(WINDOW_DAYS),
        this.handOffs.view(CALENDAR_DAYS),
        this.whole.view(WINDOW_DAYS),
        this.orders.open(),
      ]);
    const at = (ms: number, format: string): string =>
      DateTime.fromMillis(ms, { zone: calendar.zone, locale: 'en-GB' }).toFormat(format);
    const late = orders.filter(({ earliestMs, dueMs }) => earliestMs !== null && earliestMs > dueMs);
    const outOf = (fromMs: number): number => leftInWeek(left, factoryDate(calendar, fromMs));
    return {
      factory: name,
      title: `Review of four weeks to ${at(nowMs, 'cccc d LLLL')}`,
      ...{ pace: paceWords(pace), mostLines: MOST_LINES },
      parts: [
        {
          heading: 'Week by week',
          none: 'Not a whole week of the log yet.',
          lines: pace.weeks.toReversed().map(({ fromMs, toMs, name: called, sureness }) => ({
            words: `${at(fromMs, 'd LLL')} to ${at(toMs - 1, 'd LLL')}: ${count(outOf(fromMs), 'instrument')} left`,
            right:
              called === null
                ? 'nobody paced for sure'
                : `${called}, ${Math.min(99, Math.round(100 * sureness))} % sure`,
          })),
        },
        {
          heading: 'Lead time of what left',
          none: 'Nothing left.',
          lines: times.cycle
            ? [
                {
                  words: `Half of ${times.cycle.count} took ${times.cycle.medianDays.toFixed(0)} days or less`,
                  right: `85 of 100 took ${times.cycle.p85Days.toFixed(0)}, 95 took ${times.cycle.p95Days.toFixed(0)}`,
                },
                ...LEAD_PARTS.map((part) => ({
                  words: LEAD_PART_WORDS[part],
                  right: `${times.parts[part].toFixed(1)} days on average`,
                })).toSorted((a, b) => Number.parseFloat(b.right) - Number.parseFloat(a.right)),
              ]
            : [],
        },
        {
          heading: 'Through at the first go, of a hundred',
          none: 'Nothing came to an operation.',
          lines: yields
            .toSorted((a, b) => a.rolledPct - b.rolledPct)
            .map(({ model, kindName, rolledPct, worst, worstPct }) => ({
              words: `${model} ${kindName}: ${rolledPct.toFixed(0)}`,
              right: `lost most at ${worst}, ${worstPct.toFixed(0)} of 100`,
            })),
        },
        {
          heading: 'Sent back and scrapped',
          none: 'Nothing was.',
          lines: counted.map(({ found, foundName, caused, causedName, sentBack, scrapped, reasons }) => ({
            words: `${foundName}${causedName === null || caused === found ? '' : `, caused at ${causedName}`}: ${sentBack} back, ${scrapped} scrapped`,
            right: reasons[0]?.reason ?? '',
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
          heading: 'What the log does not tell',
          none: 'Nothing lies forgotten, no start is missing.',
          lines: [
            ...forgotten.map(({ batch, operationName, days }) => ({
              words: `${batch} at ${operationName}`,
              right: `has not moved for ${days.toFixed(0)} working days`,
            })),
            ...missingStarts.map(({ operationName, count: missing, of }) => ({
              words: operationName,
              right: `${missing} of ${of} starts missing`,
            })),
          ],
        },
      ],
    };
  }
}

/** Instruments that left in the five working days that begin with a day. */
function leftInWeek({ days, reached }: CumulativeView, fromDay: string): number {
  const first = days.indexOf(fromDay);
  if (first < 0) return 0;
  const upTo = (i: number): number => reached[i]?.at(-1) ?? 0;
  return upTo(Math.min(first + WEEK_DAYS, days.length) - 1) - (first > 0 ? upTo(first - 1) : 0);
}
