import { DateTime } from 'luxon';
import { HAIRLINES, mm, pdfOf, said } from '../paper/pdf.ts';
import type { OrderLineView, OrderPlace, OrderView } from './order-views.service.ts';

/** Stages as a customer knows them. */
const IN_WORDS: Record<string, string> = {
  wood: 'its wood is drying',
  machining: 'being cut',
  fitting: 'being fitted together',
  finishing: 'in the finish',
  assembly: 'being strung and set up',
};

/** Where an order is, on paper for whoever ordered it: no racks, no people, no reasons. */
export async function orderStatus(order: OrderView, factory: string): Promise<Buffer> {
  const { code, customer, reference, dueMs, nowMs, zone } = order;
  const day = (ms: number): string =>
    DateTime.fromMillis(ms, { zone, locale: 'en-GB' }).toFormat('d LLLL yyyy');
  const facts = [
    ...(customer === null ? [] : [['for', customer] as const]),
    ...(reference === null ? [] : [['your number', reference] as const]),
    ['ordered', day(order.placedMs)] as const,
    ['wished for', day(dueMs)] as const,
    ['as of', day(nowMs)] as const,
  ];
  const lines = order.lines.filter(({ cancelled }) => cancelled === null);
  return pdfOf({
    info: { title: `Order ${code}` },
    content: [
      { text: factory, style: 'quiet' },
      { text: `Order ${code}`, style: 'title' },
      {
        margin: [0, 10, 0, 12],
        layout: 'noBorders',
        table: {
          widths: [mm(30), '*'],
          body: facts.map(([name, words]) => [{ text: name, style: 'head' }, said(words)]),
        },
      },
      ...lines.flatMap((line) => [
        said(`${line.quantity} × ${line.model}${line.label === null ? '' : ` “${line.label}”`}`),
        {
          margin: [0, 2, 0, 4] as [number, number, number, number],
          style: 'quiet',
          text: line.options.map(({ name, valueName }) => `${name}: ${valueName}`).join(' · '),
        },
        {
          margin: [0, 0, 0, 14] as [number, number, number, number],
          layout: HAIRLINES,
          table: {
            widths: ['*', mm(24)],
            body: whereIs(line).map(([words, pieces]) => [said(words), { text: `${pieces}` }]),
          },
        },
      ]),
      {
        text:
          order.earliestMs === null
            ? 'All of it has left.'
            : expected(Math.max(order.earliestMs, nowMs), day),
      },
    ],
  });
}

const expected = (earliestMs: number, day: (ms: number) => string): string =>
  `Not ready before ${day(earliestMs)}. That is the earliest our own steps allow; it is no promise.`;

/** How many instruments of a line are where, in the customer's words; parts that are made beforehand count once. */
export function whereIs(line: Pick<OrderLineView, 'quantity' | 'places' | 'unbegun'>): [string, number][] {
  const there = new Map<string, number>();
  const add = (words: string, pieces: number): void => {
    if (pieces > 0) there.set(words, (there.get(words) ?? 0) + pieces);
  };
  const counted = line.places.filter(({ standing }) => standing !== 'scrapped');
  const last = counted.filter(({ part }) => !part);
  for (const place of last) add(wordsOf(place), place.positions.length);
  const whole = last.reduce((sum, { positions }) => sum + positions.length, 0);
  const missing = Math.max(0, ...line.unbegun.map(({ count }) => count));
  const parts = counted.filter(({ part }) => part);
  // Of two parts of one instrument, the first that is told of stands for it.
  let left = line.quantity - whole - missing;
  for (const place of parts) {
    const pieces = Math.min(left, place.positions.length);
    add(wordsOf(place), pieces);
    left -= pieces;
  }
  add('waiting to be begun', line.quantity - [...there.values()].reduce((sum, n) => sum + n, 0));
  return [...there];
}

const wordsOf = ({ standing, stage }: OrderPlace): string =>
  standing === 'shipped' ? 'on its way to you' : (IN_WORDS[stage ?? ''] ?? 'in the works');
