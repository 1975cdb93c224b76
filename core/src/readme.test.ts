import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as core from './index.ts';

/** The examples of core/README.md: an expression, an arrow, and what comes out of it. */
const block = /```ts\n([\s\S]*?)```/.exec(readFileSync(join(__dirname, '../README.md'), 'utf8'))?.[1] ?? '';
const EXAMPLES = [...block.matchAll(/([\s\S]*?);\s*\/\/ → (.+)\n/g)].map(
  ([, expression = '', result = '']) => ({
    name: expression.split('(')[0]?.trim(),
    expression: expression.trim(),
    result,
  }),
);

const run = (expression: string): unknown =>
  // eslint-disable-next-line @typescript-eslint/no-implied-eval, @typescript-eslint/no-unsafe-call -- our own README
  new Function(...Object.keys(core), `return ${expression}`)(...Object.values(core));

it('has examples to run', () => {
  expect(EXAMPLES.length).toBeGreaterThan(12);
});

it.each(EXAMPLES)('$name gives $result, as the README says', ({ expression, result }) => {
  const value = run(expression);
  const wanted = run(result);
  if (typeof wanted !== 'number') return expect(value).toEqual(wanted);
  expect(value).toBeCloseTo(wanted, result.split('.')[1]?.length ?? 0);
});
