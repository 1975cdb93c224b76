import pdfmake from 'pdfmake';
import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces.js';
import { FONT_FILES, fontRuns, FONTS } from './fonts.ts';

pdfmake.setFonts(FONTS);
// A page is made of what it is given: nothing is fetched, and no file but the fonts is read.
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path) => FONT_FILES.has(path));

/** Millimetres as PDF counts. */
export const mm = (millimetres: number): number => (millimetres * 72) / 25.4;

/** Words of people, in fonts that have their letters. */
export const said = (words: string): Content => ({
  text: fontRuns(words).map(({ text, font }) => ({ text, font })),
});

/** A page of paper as the house prints: title in the condensed face, hairlines, black on white. */
export async function pdfOf(document: TDocumentDefinitions): Promise<Buffer> {
  const page: TDocumentDefinitions = {
    pageSize: 'A4',
    pageMargins: [mm(18), mm(16), mm(18), mm(18)],
    footer: (now, of) => ({
      text: `${now} of ${of}`,
      alignment: 'right',
      margin: [0, mm(4), mm(18), 0],
      fontSize: 8,
    }),
    ...document,
    defaultStyle: { font: 'Text', fontSize: 9.5, lineHeight: 1.15 },
    styles: {
      title: { font: 'Condensed', fontSize: 26 },
      heading: { font: 'Condensed', fontSize: 15, margin: [0, 10, 0, 3] },
      code: { font: 'Condensed', fontSize: 13 },
      head: { fontSize: 8, color: '#555555' },
      quiet: { color: '#555555' },
    },
  };
  return pdfmake.createPdf(page).getBuffer();
}

/** Rows with a hairline under each. */
export const HAIRLINES = {
  hLineWidth: (i: number): number => (i === 0 ? 0 : 0.5),
  vLineWidth: (): number => 0,
  hLineColor: (): string => '#999999',
  paddingLeft: (): number => 0,
  paddingRight: (): number => 8,
  paddingTop: (): number => 3,
  paddingBottom: (): number => 3,
};
