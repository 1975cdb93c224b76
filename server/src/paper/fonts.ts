import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import bidiFactory from 'bidi-js';
import { create, type Font } from 'fontkit';

const bidi = bidiFactory();
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

interface Sign {
  text: string;
  font: string;
  /** How deep it lies by the bidirectional algorithm: odd ones run from the right. */
  level: number;
}

/**
 * Words in stretches of one font each, so that every letter is there: names of customers are of any script. The stretches stand
 * in the order in which they are seen, by Unicode's bidirectional algorithm (UAX 9): where words begin from the right, what runs
 * from the left stands within them, numbers too. Within a stretch from the right blanks do not break, so that it is laid out as one.
 */
export function fontRuns(words: string): FontRun[] {
  const whole = words.normalize('NFC').replaceAll(JOINERS, '');
  const { levels, paragraphs } = bidi.getEmbeddingLevels(whole);
  const base = paragraphs[0]?.level ?? 0;
  const signs: Sign[] = [];
  let at = 0;
  for (const sign of whole) {
    const level = levels[at] ?? base;
    const mirrored = level % 2 === 1 ? (bidi.getMirroredCharacter(sign) ?? sign) : sign;
    signs.push({ ...drawn(OTHERWISE[mirrored] ?? mirrored, signs.at(-1)?.font), level });
    at += sign.length;
  }
  return seen(stretches(signs), base);
}

/** A letter with the first font that has it; a blank goes with what stands before. */
function drawn(letter: string, before: string | undefined): Omit<Sign, 'level'> {
  if (before !== undefined && BLANK.test(letter)) return { text: letter, font: before };
  const point = letter.codePointAt(0) ?? 0;
  const [font] =
    Object.entries(FILES).find(([family, file]) => fontOf(family, file).hasGlyphForCodePoint(point)) ?? [];
  return font === undefined ? { text: UNKNOWN, font: 'Text' } : { text: letter, font };
}

/** Signs of one font and level together. What lies between two stretches is one of its own, where either runs from the right. */
function stretches(signs: readonly Sign[]): Sign[] {
  const runs: Sign[] = [];
  for (const sign of signs) {
    const last = runs.at(-1);
    if (last?.font === sign.font && last.level === sign.level) last.text += sign.text;
    else runs.push({ ...sign });
  }
  return runs.flatMap((run) => {
    // What has no direction of its own is turned here: the letters of a font from the right are turned as they are drawn.
    if (!FROM_THE_RIGHT.has(run.font))
      return run.level % 2 === 0 ? [run] : [{ ...run, text: [...run.text].toReversed().join('') }];
    const inner = run.text.trim().replaceAll(/\s/gu, '\u00a0');
    const [before = ''] = /^\s*/u.exec(run.text) ?? [];
    const after = run.text.slice(before.length + run.text.trim().length);
    return [
      ...(before === '' ? [] : [{ ...run, text: ' ' }]),
      ...(inner === '' ? [] : [{ ...run, text: inner }]),
      ...(after === '' ? [] : [{ ...run, text: ' ' }]),
    ];
  });
}

/** Stretches as they are seen from the left: rule L2, from the deepest level to the first odd one what lies so deep is turned round. */
function seen(runs: readonly Sign[], base: number): FontRun[] {
  const order = [...runs];
  const deepest = Math.max(base, ...runs.map(({ level }) => level));
  for (let level = deepest; level > 0; level -= 1) {
    for (let from = 0; from < order.length; from += 1) {
      let to = from;
      while ((order[to]?.level ?? -1) >= level) to += 1;
      order.splice(from, to - from, ...order.slice(from, to).toReversed());
      from = to;
    }
  }
  return order.map(({ text, font }) => ({ text, font }));
}

const FROM_THE_RIGHT = new Set(['Hebrew', 'Arabic']);
