import { count } from '@ample-crane/core';
import { DateTime } from 'luxon';
import { barcodeSvg } from '../paper/codes.ts';
import { HAIRLINES, mm, pdfOf, said } from '../paper/pdf.ts';
import type { LedgerLine } from './ledger-line.ts';

/** What left together, on paper: to whom, every instrument with its serial, and what goes with it. Nothing internal is on it. */
export async function packingList(
  lines: readonly LedgerLine[],
  { factory, zone }: { factory: string; zone: string },
): Promise<Buffer> {
  const [first] = lines;
  if (!first) throw new RangeError('packingList: nothing left');
  const { to, order, carrier, contents, atMs } = first;
  const day = DateTime.fromMillis(atMs, { zone, locale: 'en-GB' }).toFormat('d LLLL yyyy');
  const fact = (name: string, words: string | null) =>
    words === null ? [] : [[{ text: name, style: 'head' }, said(words)]];
  return pdfOf({
    info: { title: `Packing list ${order ?? first.serial ?? first.piece}` },
    content: [
      {
        columns: [
          [
            { text: factory, style: 'quiet' },
            { text: 'Packing list', style: 'title' },
          ],
          ...(order !== null && CODE.test(order)
            ? [{ svg: barcodeSvg(order), width: mm(46), alignment: 'right' as const }]
            : []),
        ],
      },
      {
        margin: [0, 10, 0, 10],
        layout: 'noBorders',
        table: {
          widths: [mm(30), '*'],
          body: [
            ...fact('to', to ?? 'nobody is named'),
            ...fact('order', order),
            ...fact('date', day),
            ...fact('carrier', carrier),
            ...fact('with each', contents),
            ...fact('in all', count(lines.length, 'instrument')),
          ],
        },
      },
      {
        layout: HAIRLINES,
        table: {
          headerRows: 1,
          widths: [mm(10), mm(40), '*', mm(44)],
          dontBreakRows: true,
          body: [
            ['', 'serial', 'model', ''].map((text) => ({ text, style: 'head' })),
            ...lines.map(({ serial, model, piece, papers }, i) => [
              { text: `${i + 1}` },
              { text: serial ?? piece, style: 'code' },
              papers === null ? said(model) : { stack: [said(model), said(`papers: ${papers}`)] },
              { svg: barcodeSvg(serial ?? piece), width: mm(40), height: mm(8) },
            ]),
          ],
        },
      },
      {
        margin: [0, mm(14), 0, 0],
        columns: ['packed by', 'received by'].map((text) => ({
          text: `${text} ______________________`,
          style: 'quiet',
        })),
      },
    ],
  });
}

/** What a barcode can carry. */
const CODE = /^[\x20-\x7e]{1,24}$/;
