import type { ContentTable } from 'pdfmake/interfaces.js';
import type { ConstraintView } from '../flow/constraint.service.ts';
import { HAIRLINES, mm, pdfOf, said } from '../paper/pdf.ts';

/** A heading with short lines below it; each with what stands at its right. */
export interface SheetPart {
  heading: string;
  lines: { words: string; right: string }[];
  /** What it says where it has no line. */
  none: string;
  /** What stands at the right is the longer of the two. */
  explains?: true;
}

/** One page, from the same sources as the pages on screen. */
export interface Sheet {
  factory: string;
  title: string;
  /** What paces the house, in a sentence. */
  pace: string;
  parts: SheetPart[];
  /** Lines of a part, at most, that fit one page. */
  mostLines: number;
}

/** On paper, one page. */
export function pdfOfSheet({ factory, title, pace, parts, mostLines }: Sheet): Promise<Buffer> {
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
          : [tableOf(lines.slice(0, mostLines), explains)]),
        ...(lines.length > mostLines
          ? [{ text: `and ${lines.length - mostLines} more`, style: 'quiet' }]
          : []),
      ]),
    ],
  });
}

/** As one file of HTML: no script, nothing it would fetch. */
export function htmlOfSheet({ factory, title, pace, parts }: Sheet): string {
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

/** What paces the house, in a sentence. */
export function paceWords({ verdict, rows }: ConstraintView): string {
  const row = rows.find(({ code, by }) => code === verdict.code && by === verdict.by);
  return row
    ? `${row.name} ${row.by === 'skill' ? 'pace' : 'paces'} the house: ${row.hoursOfferedADay.toFixed(1)} h of work a day come, ${row.hoursADay.toFixed(1)} h are there.`
    : 'Nobody paces the house for sure.';
}
