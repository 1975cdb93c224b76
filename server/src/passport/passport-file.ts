import { PASSPORT_FORMAT } from '@ample-crane/core';
import { DateTime } from 'luxon';
import { qrSvg } from '../paper/codes.ts';
import { HAIRLINES, mm, pdfOf, said } from '../paper/pdf.ts';
import type { Passport, PassportPart } from './passport.service.ts';

const iso = (ms: number): string => new Date(ms).toISOString();

/** A passport as a file: docs/formats/passport.schema.json. */
export function passportFile({ factory, nowMs, parts }: Passport): object {
  return {
    ...{ format: PASSPORT_FORMAT, version: 1, factory, asOf: iso(nowMs) },
    serial: parts[0]?.serial ?? null,
    parts: parts.map(({ piece, kindName, model, standing, joinedInto, recipe, wood, setUp, lines }) => ({
      ...{ piece, kind: kindName, model, standing, joinedInto, recipe, wood, setUp },
      lines: lines.map(({ atMs, at, ...line }) => ({ at: iso(atMs), operation: at, ...line })),
    })),
  };
}

/** A passport on paper; with the address of its owner's page as a QR code, where there is one. */
export async function passportPaper(passport: Passport, ownerAddress: string | null): Promise<Buffer> {
  const { factory, zone, nowMs, parts } = passport;
  const [whole] = parts;
  if (!whole) throw new RangeError('passportPaper: it has no parts');
  const moment = (ms: number, format: string): string =>
    DateTime.fromMillis(ms, { zone, locale: 'en-GB' }).toFormat(format);
  return pdfOf({
    info: { title: `Passport ${whole.serial ?? whole.piece}` },
    content: [
      {
        columns: [
          [
            { text: factory, style: 'quiet' },
            { text: whole.serial ?? whole.piece, style: 'title' },
            said(`${whole.model} ${whole.kindName}, ${whole.piece}, ${whole.standing}`),
            { text: `as of ${moment(nowMs, 'd LLLL yyyy HH:mm')}`, style: 'head' },
          ],
          ...(ownerAddress === null
            ? []
            : [
                {
                  width: mm(30),
                  stack: [
                    { svg: qrSvg(ownerAddress), width: mm(24), alignment: 'right' as const },
                    { text: 'for its owner', style: 'head', alignment: 'right' as const },
                  ],
                },
              ]),
        ],
      },
      ...parts.flatMap((part) => partOnPaper(part, (ms) => moment(ms, 'd LLL yyyy HH:mm'))),
    ],
  });
}

function partOnPaper(part: PassportPart, moment: (ms: number) => string) {
  const { piece, kindName, recipe, wood, setUp, lines } = part;
  const head = (...names: string[]) => names.map((text) => ({ text, style: 'head' }));
  const woods = wood.map(
    ({ species, lot, papers, blanks, own }) =>
      `${species} of ${lot}${papers === null ? '' : `, papers ${papers}`}; ${own ? 'its blanks' : 'blanks of its rack'} ${blanks.join(', ')}`,
  );
  return [
    { text: `${kindName} ${piece}`, style: 'heading' },
    ...[recipe, ...woods].flatMap((words) => (words === null ? [] : [said(words)])),
    ...(setUp.length === 0
      ? []
      : [
          {
            margin: [0, 4, 0, 4] as [number, number, number, number],
            layout: HAIRLINES,
            table: {
              headerRows: 1,
              widths: ['*', mm(34), mm(34)],
              body: [
                head('set-up', 'as set up', 'when it had settled'),
                ...setUp.map(({ name, unit, atSetUp, settled }) => [
                  { text: name },
                  { text: atSetUp === null ? '' : `${atSetUp} ${unit}` },
                  { text: settled === null ? '' : `${settled} ${unit}` },
                ]),
              ],
            },
          },
        ]),
    ...(lines.length === 0
      ? []
      : [
          {
            layout: HAIRLINES,
            table: {
              headerRows: 1,
              widths: [mm(32), mm(30), '*', mm(24)],
              body: [
                head('when', 'at', 'what', 'by'),
                ...lines.map(({ atMs, at, kind, words, against, by }) => [
                  { text: moment(atMs) },
                  said(at),
                  {
                    stack: [
                      said(kind === 'override' ? `Rule passed by: ${words}` : words),
                      ...(against === null ? [] : [said(`The rule said: ${against}`)]),
                    ],
                  },
                  said(by ?? ''),
                ]),
              ],
            },
          },
        ]),
  ];
}
