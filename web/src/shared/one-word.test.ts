import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const WORKSPACES = ['core/src', 'server/src', 'web/src', 'stand-ins/src'].map((path) =>
  join(__dirname, '../../..', path),
);
/** What PostgreSQL's driver says, and what was once stored. */
const MAY_SAY_IT = [/http\/problem\.filter\.ts$/, /database\//, /schema\.generated\.ts$/];

/** What people may still type. */
const TYPED = /verbs: \{[^}]*\}/g;

const sources = (folder: string): string[] =>
  readdirSync(folder, { withFileTypes: true }).flatMap((entry) =>
    entry.isDirectory() ? sources(join(folder, entry.name)) : [join(folder, entry.name)],
  );

const told = (file: string): string => readFileSync(file, 'utf8').replaceAll(TYPED, '');

const saidIn = (pattern: RegExp): string[] =>
  WORKSPACES.flatMap(sources)
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file))
    .filter((file) => !MAY_SAY_IT.some((one) => one.test(file)) && pattern.test(told(file)));

describe('one word has one meaning (11.17)', () => {
  it('a batch is opened, a hold ends, a board is sent to cut: nothing is released', () => {
    expect(saidIn(/releas/i)).toEqual([]);
  });

  it('a rule is passed by: nothing is done against it', () => {
    expect(saidIn(/['`"> ]against (the|its) rule/i)).toEqual([]);
  });
});
