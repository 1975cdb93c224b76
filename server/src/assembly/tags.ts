import { DateTime } from 'luxon';
import type { Content } from 'pdfmake/interfaces.js';
import { hasLeft, lineOf, pieceCode, type BatchState, type PieceState } from '@ample-crane/core';
import { barcodeSvg, qrSvg } from '../paper/codes.ts';
import { mm, pdfOf, said } from '../paper/pdf.ts';

/** A tag for each piece of a rack that has not left, A6, one a page: it travels with the piece. */
export async function tagsOf(
  state: BatchState,
  { factory, zone, kindName }: { factory: string; zone: string; kindName: string },
): Promise<Buffer> {
  const due = DateTime.fromMillis(state.dueMs, { zone, locale: 'en-GB' }).toFormat('ccc d LLLL yyyy');
  const pieces = state.pieces.filter((piece) => !hasLeft(piece));
  return pdfOf({
    info: { title: `Tags of ${state.code}` },
    pageSize: 'A6',
    pageMargins: [mm(8), mm(7), mm(8), mm(6)],
    footer: () => '',
    content: pieces.map((one, i) => {
      const { position, serial } = one;
      const piece = pieceCode(state.code, position);
      return {
        ...(i === 0 ? {} : { pageBreak: 'before' as const }),
        stack: [
          { text: factory, style: 'quiet' },
          { text: piece, font: 'Condensed', fontSize: lineOf(state, one) ? 40 : 50, lineHeight: 0.95 },
          { text: state.model, font: 'Condensed', fontSize: lineOf(state, one) ? 24 : 30, lineHeight: 1 },
          { text: kindName, fontSize: 13 },
          ...(state.finish ? [said(state.finish.title)] : []),
          ...specOn(state, one),
          { text: `due ${due}`, fontSize: 12, margin: [0, 4, 0, 0] as [number, number, number, number] },
          { text: serial ?? ' ', style: 'code', margin: [0, 2, 0, 4] as [number, number, number, number] },
          {
            columns: [
              { svg: qrSvg(piece), width: mm(38) },
              {
                svg: barcodeSvg(piece),
                width: mm(46),
                margin: [mm(4), mm(10), 0, 0] as [number, number, number, number],
              },
            ],
          },
        ],
      };
    }),
  });
}

/** What a piece is to be, where it is built for an order: in two columns, so that it fits the tag. */
function specOn(state: BatchState, piece: PieceState): Content[] {
  const spec = lineOf(state, piece);
  if (!spec || piece.line === undefined) return [];
  const half = Math.ceil(spec.lines.length / 2);
  const column = (from: number, to: number): Content => ({
    stack: spec.lines.slice(from, to).map(({ name, valueName }) => said(`${name}: ${valueName}`)),
  });
  return [
    said(`for ${piece.line}${spec.label === undefined ? '' : ` “${spec.label}”`}`),
    {
      fontSize: 9,
      columns: [column(0, half), column(half, spec.lines.length)],
      columnGap: 6,
      margin: [0, 3, 0, 0],
    },
  ];
}
