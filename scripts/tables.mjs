// Who writes SQL on which tables: a room of the server asks its own only. Others are asked through what their room offers.
import { readdirSync, readFileSync } from 'node:fs';

/** Tables without a row of their own, by the rooms whose they are. */
const OWNERS = {
  ...{ stay: 'log', piece: 'log', voided: 'log', given_up: 'log', change: 'setup', answered: 'http' },
  ...{ call_answer: 'flow', owner_page: 'passport' },
  ...{ climate_reading: 'wood', climate_hour: 'wood', climate_late: 'wood', sensor: 'wood' },
  states_made: 'commands',
};
/** Rooms that may, and why. */
const ALLOWED = {
  'floor batch': 'the open racks are read there for everybody',
  'log answered': 'a key is spent once, whoever keeps its answer: one question settles both',
};
/** Load or look at whatever they like. */
const EXEMPT = /^server\/src\/(demo|testing|database)\/|\.test\.ts$/;

const paths = readdirSync('server/src', { recursive: true })
  .filter((path) => path.includes('/') && path.endsWith('.ts'))
  .map((path) => `server/src/${path}`);
const roomOf = (path) => path.split('/')[2];
const owners = new Map(Object.entries(OWNERS));
for (const path of paths.filter((one) => one.endsWith('/rows.ts')))
  for (const [, table] of readFileSync(path, 'utf8').matchAll(/@Entity\('(\w+)'\)/g))
    owners.set(table, roomOf(path));

const asked = new RegExp(`\\b(?:FROM|JOIN|INTO|UPDATE)\\s+(${[...owners.keys()].join('|')})\\b`, 'g');
const problems = [];
for (const path of paths.filter((one) => !EXEMPT.test(one)))
  readFileSync(path, 'utf8')
    .split('\n')
    .forEach((line, i) => {
      for (const [, table] of line.matchAll(asked)) {
        const room = roomOf(path);
        if (owners.get(table) !== room && !(`${room} ${table}` in ALLOWED))
          problems.push(`${path}:${i + 1} asks '${table}' of ${owners.get(table)}`);
      }
    });

if (problems.length > 0) {
  console.error(problems.join('\n'));
  console.error('A room asks its own tables only: let the room whose table it is offer what you need.');
  process.exit(1);
}
console.log(`${owners.size} tables, each asked by its own room`);
