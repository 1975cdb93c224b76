import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create, type Font } from 'fontkit';

const { resolve } = createRequire(import.meta.url);

/** Fonts that ship with the server, in the order in which they are asked for a letter. */
const FILES = {
  Text: 'pdfmake/fonts/Roboto/Roboto-Regular.ttf',
  Hebrew: '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-400-normal.woff',
  Arabic: '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff',
  ...Object.fromEntries(
    Array.from({ length: 10 }, (_, i) => [
      `Emoji${i}`,
      `@fontsource/noto-emoji/files/noto-emoji-${i}-400-normal.woff`,
    ]),
  ),
} satisfies Record<string, string>;
const BOLD = 'pdfmake/fonts/Roboto/Roboto-Medium.ttf';
const CONDENSED = '@fontsource/barlow-condensed/files/barlow-condensed-latin-600-normal.woff';

/** As pdfmake wants them; where a family has one weight, it stands for all. */
export const FONTS = Object.fromEntries(
  Object.entries({ ...FILES, Condensed: CONDENSED }).map(([name, file]) => {
    const normal = resolve(file);
    const bold = name === 'Text' ? resolve(BOLD) : normal;
    return [name, { normal, bold, italics: normal, bolditalics: bold }];
  }),
);

/** Paths of the fonts: nothing else is read while a page is made. */
export const FONT_FILES = new Set(Object.values(FONTS).flatMap((family) => Object.values(family)));

const opened = new Map<string, Font>();

function fontOf(name: string, file: string): Font {
  const known = opened.get(name);
  if (known) return known;
  const font = create(readFileSync(resolve(file)));
  if (!('hasGlyphForCodePoint' in font)) throw new Error(`fontOf: ${file} is a collection of fonts`);
  opened.set(name, font);
  return font;
}

/** What no shipped font has is shown so: as a box, for this is in none of them either. */
const UNKNOWN = '□';
/** Signs of our own words that the fonts have under another. */
const OTHERWISE: Readonly<Record<string, string>> = { '→': '›' };
/** They change how what stands before is drawn, and are nothing by themselves. */
const JOINERS = /[\u200b-\u200f\u202a-\u202e\u2060-\u2069]|\ufe0e|\ufe0f/gu;
const BLANK = /\s/u;

/** A stretch of words in one font. */
export interface FontRun {
  text: string;
  font: string;
}

/**
 * Words in stretches of one font each, so that every letter is there: names of customers are of any script. Blanks go with what stands
 * before. Within a stretch written from the right blanks do not break, so that it is laid out as one.
 */
export function fontRuns(words: string): FontRun[] {
  const runs: FontRun[] = [];
  for (const sign of words.normalize('NFC').replaceAll(JOINERS, '')) {
    const letter = OTHERWISE[sign] ?? sign;
    const point = letter.codePointAt(0) ?? 0;
    const last = runs.at(-1);
    const name =
      last && BLANK.test(letter)
        ? last.font
        : Object.entries(FILES).find(([family, file]) =>
            fontOf(family, file).hasGlyphForCodePoint(point),
          )?.[0];
    const text = name === undefined ? UNKNOWN : letter;
    const font = name ?? 'Text';
    if (last?.font === font) last.text += text;
    else runs.push({ text, font });
  }
  return runs.map(({ text, font }) => ({
    font,
    text: FROM_THE_RIGHT.has(font)
      ? text.trimEnd().replaceAll(/\s/gu, '\u00a0') + (BLANK.test(text.at(-1) ?? '') ? ' ' : '')
      : text,
  }));
}

const FROM_THE_RIGHT = new Set(['Hebrew', 'Arabic']);
