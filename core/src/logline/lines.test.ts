import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { FLOOR, said } from '../testing/said.ts';
import { parseLine } from './parse.ts';

/** The rows of the table in docs/log.md: what is typed, and what it files or is asked. */
const rows = readFileSync(join(__dirname, '../../../docs/log.md'), 'utf8')
  .split('\n')
  .flatMap((row) => {
    const match = /^\| `([^`]+)`\s+\| (.+?)\s+\|$/.exec(row);
    const [, line = '', meaning = ''] = match ?? [];
    return match && /^(\?|[A-Z]-\d+:|last:)/.test(meaning)
      ? [{ line, meaning: meaning.replaceAll('\\|', '|') }]
      : [];
  });

describe('it understands what people say (11.15)', () => {
  it('in at least 120 lines of the table', () => {
    expect(rows.length).toBeGreaterThanOrEqual(120);
    expect(new Set(rows.map(({ line }) => line)).size).toBe(rows.length);
  });

  it.each(rows)('$line', ({ line, meaning }) => {
    expect(said(line)).toBe(meaning);
  });
});

describe('silent mis-filings end (11.16)', () => {
  it.each(['I-31 coat 2', 'B-201 rework 3 run', 'B-201 scrap 1 tear-out', 'B-217 join N-119/9'])(
    '%s is asked, and every line that is offered is understood',
    (line) => {
      const parsed = parseLine(line, FLOOR);
      if ('understood' in parsed) throw new Error('it was not asked');
      const { choices = [] } = parsed.notUnderstood;
      expect(choices).toHaveLength(2);
      const meant = choices.map((choice) => said(choice.line));
      for (const one of meant) expect(one).not.toMatch(/^\?/);
      expect(new Set(meant).size).toBe(2);
    },
  );
});
