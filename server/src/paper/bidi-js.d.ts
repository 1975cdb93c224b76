/** What is used of bidi-js, which ships no types of its own. */
declare module 'bidi-js' {
  interface Bidi {
    /** Levels by UTF-16 unit, and the paragraphs with the level each begins at. */
    getEmbeddingLevels: (
      words: string,
      base?: 'ltr' | 'rtl' | 'auto',
    ) => { levels: Uint8Array; paragraphs: { start: number; end: number; level: number }[] };
    /** The sign that is drawn in its place where words run from the right; null: itself. */
    getMirroredCharacter: (sign: string) => string | null;
  }
  export default function bidiFactory(): Bidi;
}
