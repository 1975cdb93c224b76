import { fontRuns } from './fonts.ts';

/** As they stand on paper from the left, a bar between stretches. */
const seen = (words: string): string =>
  fontRuns(words)
    .map(({ text }) => text)
    .join('|');
/** Three words from the right, and one. */
const [PEACE, GREAT, WORLD] = ['שלום', 'רב', 'עולם'];

describe('words of people on paper', () => {
  it('have the font of every letter: Hebrew and Arabic in stretches of their own, emoji too, a box for what no font has', () => {
    expect(fontRuns('Fiddler שלום רב 🎸 ok')).toEqual([
      { text: 'Fiddler ', font: 'Text' },
      { text: 'שלום\u00a0רב', font: 'Hebrew' },
      { text: ' ', font: 'Hebrew' },
      { text: '🎸 ', font: expect.stringMatching(/^Emoji/) as string },
      { text: 'ok', font: 'Text' },
    ]);
    expect(fontRuns('سلام')).toEqual([{ text: 'سلام', font: 'Arabic' }]);
    expect(fontRuns('grit 800 → 1000')).toEqual([{ text: 'grit 800 › 1000', font: 'Text' }]);
    expect(fontRuns('\u{10FFFF}')).toEqual([{ text: '□', font: 'Text' }]);
    expect(fontRuns('')).toEqual([]);
  });

  it('stand as they are read: what begins from the right has its Latin within, and ends at the left', () => {
    expect(seen(`${PEACE} Bowline ${WORLD}`)).toBe(`${WORLD}| |Bowline| |${PEACE}`);
    expect(seen(`${PEACE} 12 ${WORLD}`)).toBe(`${WORLD}| |12| |${PEACE}`);
    expect(seen(`Music ${PEACE} shop`)).toBe(`Music |${PEACE}| |shop`);
  });

  it('keep numbers between words from the right in their place, though they begin from the left', () => {
    expect(seen(`to ${PEACE} 12 ${WORLD}`)).toBe(`to |${WORLD}| |12| |${PEACE}`);
  });

  it('turn brackets that stand within what runs from the right', () => {
    expect(seen(`${PEACE} (${GREAT})`)).toBe(`(|${GREAT}|)| |${PEACE}`);
  });
});
